// SPDX-License-Identifier: Apache-2.0
/** Files of a first start looked through line by line. */
package exordium.core.firststart.lint;

// SPDX-License-Identifier: Apache-2.0
/** When a first start was set up. */
package exordium.core.firststart;

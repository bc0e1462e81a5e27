// SPDX-License-Identifier: Apache-2.0
/** Commands about the first start: intents planned and applied, settings and kernel lines looked through. */
package exordium.cli.firststart;

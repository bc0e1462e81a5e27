// SPDX-License-Identifier: Apache-2.0
/** Several systems for one board: start sets, and several systems on one drive. Reads nothing and changes nothing. */
package exordium.core.multiboot;

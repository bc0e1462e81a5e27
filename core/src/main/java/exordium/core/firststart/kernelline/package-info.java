// SPDX-License-Identifier: Apache-2.0
/** The kernel line, the menus it may stand in, and the address in it. */
package exordium.core.firststart.kernelline;

// SPDX-License-Identifier: Apache-2.0
/** The home page: every board at every step, and what to do today. */
package exordium.desktop.sheet;

// SPDX-License-Identifier: Apache-2.0
/** Drives plugged into this machine now, as several pages show them. */
package exordium.desktop.drives;

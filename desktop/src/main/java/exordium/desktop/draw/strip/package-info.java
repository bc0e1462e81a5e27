// SPDX-License-Identifier: Apache-2.0
/** Shares and layers of a whole, drawn to scale. */
package exordium.desktop.draw.strip;

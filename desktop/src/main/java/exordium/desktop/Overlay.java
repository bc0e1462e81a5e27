// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

/** Something laid over the window; Escape closes it. */
interface Overlay {
    /** Puts the keyboard where typing begins. */
    void focus();
}

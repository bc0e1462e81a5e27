// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

/** Something laid over the window; Escape closes it. */
public interface Overlay extends Visited {
    /** Puts the keyboard where typing begins. */
    void focus();
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

/** A view that takes new facts in, instead of being made anew and forgetting what one was looking at. */
interface Refreshed {
    /** Everything was read anew. */
    void refresh();
}

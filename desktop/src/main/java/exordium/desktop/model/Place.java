// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.finding.Step;

/** Somewhere in the window one can go to. */
public sealed interface Place {
    /** The home view. */
    record Sheet() implements Place {}

    /** A station of a board. */
    record Station(String board, Step step) implements Place {}

    /** One of the shelves and books below the roster. */
    enum Shelf implements Place {
        MEDIA("Media"),
        IMAGES("Images"),
        FIRMWARE("Firmware"),
        CALENDAR("Calendar"),
        LOGBOOK("Logbook");

        private final String title;

        Shelf(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }
}

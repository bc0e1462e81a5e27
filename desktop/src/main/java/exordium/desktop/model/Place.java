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
        LOGBOOK("Logbook"),
        RULES("House rules");

        private final String title;

        Shelf(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /** A form that is laid over wherever one is. */
    enum Form implements Place {
        NEW_BOARD("New board"),
        SHELVE_IMAGE("Take an image onto the shelf"),
        NEW_DRIVE("New virtual drive");

        private final String title;

        Form(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }
}

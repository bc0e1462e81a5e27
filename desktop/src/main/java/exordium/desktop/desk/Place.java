// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.finding.Step;
import java.nio.file.Path;
import java.util.Optional;

/** Somewhere in the window one can go to. */
public sealed interface Place {
    /** The board whose page it is. */
    default Optional<String> boardShown() {
        return this instanceof Station station
                ? Optional.of(station.board())
                : this instanceof Passage passage ? Optional.of(passage.board()) : Optional.empty();
    }

    /** The home view. */
    record Sheet() implements Place {}

    /** A station of a board. */
    record Station(String board, Step step) implements Place {}

    /** What is wished for a board, and how far it is on its way there. */
    record Passage(String board) implements Place {}

    /** One of the shelves and books below the roster. */
    enum Shelf implements Place {
        PASSAGES("Passages", "from a wish to a start that is proven; what has to be bought for it"),
        MEDIA("Media", "every medium, where it is and how worn"),
        STORAGE_PLAN("Storage plan", "for all boards together: who keeps what, what moves where, what to buy"),
        IMAGES("Images", "what can be written"),
        FIRMWARE("Firmware", "releases by date and channel"),
        NETWORK("Network", "boards that start from a server, with nothing plugged in"),
        CALENDAR("Calendar", "copies (flags), drills (lozenges), days without (struck), the next one due"),
        LOGBOOK("Logbook", "newest first; nothing in it is ever changed"),
        RULES("House rules", "decided once, counted everywhere");

        private final String title;
        private final String hint;

        Shelf(String title, String hint) {
            this.title = title;
            this.hint = hint;
        }

        /** What is found there, in a few words. */
        public String hint() {
            return hint;
        }

        public String title() {
            return title;
        }
    }

    /** A form about one board, laid over wherever one is. */
    record BoardForm(String board, FormKind kind) implements Place {
        /** What the form is for. */
        public enum FormKind {
            /** What is known of it. */
            EDIT,
            /** What was seen at it. */
            TOLD,
            /** Which medium is in which port. */
            PORTS,
            /** What is known of its family. */
            FAMILY
        }
    }

    /** The form for a new board of a family that was described just now; words: what came of that. */
    record NewBoardOf(String family, String words) implements Place {}

    /** Another workspace, which this window then shows. */
    record Workspace(Path folder) implements Place {}

    /** A form that is laid over wherever one is. */
    enum Form implements Place {
        NEW_BOARD("New board"),
        NEW_FAMILY("Describe a family of boards"),
        SHELVE_IMAGE("Take an image onto the shelf"),
        NEW_DRIVE("New virtual drive"),
        SEVERAL_SYSTEMS("Put several systems on one drive"),
        ADD_RELEASE("Put firmware releases on the shelf"),
        NETWORK_START("Have boards start over the network"),
        VAULT_PLACE("Have the vault lie elsewhere"),
        WORKS("What works with which boards"),
        NAME_WORKSPACE("Name this workspace"),
        OPEN_WORKSPACE("Open another workspace"),
        NEW_WORKSPACE("New workspace"),
        EXPORT_WORKSPACE("Take this workspace along as one file"),
        IMPORT_WORKSPACE("Make a workspace of such a file");

        private final String title;

        Form(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }
}

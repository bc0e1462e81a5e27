// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.quantity.Coded;
import java.util.Optional;

/** What can be done on the way; where, and the caution that belongs to it (common practice, no source). */
public enum Deed implements Coded {
    COPY(Place.PC),
    WRITE(Place.PC, "Writing erases what is on it: look at its name and size once more."),
    PROVE(Place.PC),
    CLEAR(Place.PC, "Clearing erases what is on it: look at its name and size once more."),
    CLONE(Place.PC, "Look which is the source and which the target; the two must never be in one board at once."),
    RESTORE(Place.PC, "Writing erases what is on it: look at its name and size once more."),
    GROW(Place.PC),
    SET_UP(Place.PC),
    NEW_IDENTITY(Place.PC),
    STAGE_FIRMWARE(Place.BOARD, "It counts after a restart; switching off instead loses it."),
    STAGE_ORDER(Place.BOARD, "It counts after a restart; switching off instead loses it."),
    STAGE_SETTINGS(Place.BOARD, "It counts after a restart; switching off instead loses it."),
    RESTART(Place.BOARD, "Restart it, do not switch it off; never cut its power while it writes its firmware."),
    POWER_OFF(Place.BOARD, "Shut its system down first and wait until its light is at rest."),
    POWER_ON(Place.BOARD, "Power goes in last. Mains and Power over Ethernet: approved adapters, and local codes."),
    PLUG(Place.BOARD, "Power off first. Touch earth against static."),
    TAKE_OUT(Place.BOARD, "Power off first. Touch earth against static."),
    FETCH(Place.PC),
    BUY(Place.PC),
    ERRAND_OUT(Place.PC),
    ERRAND_BACK(Place.PC),
    LOOK(Place.BOARD),
    TELL(Place.BOARD);

    private final Place place;
    private final Optional<String> caution;

    Deed(Place place) {
        this.place = place;
        this.caution = Optional.empty();
    }

    Deed(Place place, String caution) {
        this.place = place;
        this.caution = Optional.of(caution);
    }

    /** Where one stands to do it. */
    public enum Place implements Coded {
        PC,
        BOARD
    }

    public Place place() {
        return place;
    }

    public Optional<String> caution() {
        return caution;
    }
}

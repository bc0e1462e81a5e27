// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.quantity.Coded;
import java.util.Optional;

/** What can be done on the way; where, and the caution that belongs to it (common practice, no source). */
public enum Deed implements Coded {
    COPY("Copy it", Place.PC),
    WRITE("Write it", Place.PC, "Writing erases what is on it: look at its name and size once more."),
    PROVE("Prove it", Place.PC),
    CLEAR("Clear it", Place.PC, "Clearing erases what is on it: look at its name and size once more."),
    CLONE(
            "Clone it",
            Place.PC,
            "Look which is the source and which the target; the two must never be in one board at once."),
    RESTORE("Put it back", Place.PC, "Writing erases what is on it: look at its name and size once more."),
    GROW("Let it grow", Place.PC),
    SET_UP("Set it up", Place.PC),
    NEW_IDENTITY("Give it a new one", Place.PC),
    STAGE_FIRMWARE("Stage it", Place.BOARD, "It counts after a restart; switching off instead loses it."),
    STAGE_ORDER("Stage it", Place.BOARD, "It counts after a restart; switching off instead loses it."),
    STAGE_SETTINGS("Stage them", Place.BOARD, "It counts after a restart; switching off instead loses it."),
    RESTART(
            "Restart it",
            Place.BOARD,
            "Restart it, do not switch it off; never cut its power while it writes its firmware."),
    POWER_OFF("It is off", Place.BOARD, "Shut its system down first and wait until its light is at rest."),
    POWER_ON(
            "It is on",
            Place.BOARD,
            "Power goes in last. Mains and Power over Ethernet: approved adapters, and local codes."),
    PLUG("It is in", Place.BOARD, "Power off first. Touch earth against static."),
    TAKE_OUT("It is out", Place.BOARD, "Power off first. Touch earth against static."),
    FETCH("Fetch it", Place.PC),
    BUY("It is here", Place.PC),
    ERRAND_OUT("Send it", Place.PC),
    ERRAND_BACK("It is back", Place.PC),
    LOOK("Look", Place.BOARD),
    TELL("Told", Place.BOARD);

    private final String press;
    private final Place place;
    private final Optional<String> caution;

    Deed(String press, Place place) {
        this.press = press;
        this.place = place;
        this.caution = Optional.empty();
    }

    Deed(String press, Place place, String caution) {
        this.press = press;
        this.place = place;
        this.caution = Optional.of(caution);
    }

    /** Where one stands to do it. */
    public enum Place implements Coded {
        PC,
        BOARD
    }

    /** What one presses to have it done, or to tell that one did it. */
    public String press() {
        return press;
    }

    public Place place() {
        return place;
    }

    /** Whether what was on the drive is gone after it. */
    public boolean erases() {
        return switch (this) {
            case WRITE, CLONE, RESTORE, CLEAR -> true;
            default -> false;
        };
    }

    /** Whether it writes to a drive as such, so that the drive's own name has to be typed. */
    public boolean wantsName() {
        return switch (this) {
            case PROVE, GROW -> true;
            default -> erases();
        };
    }

    public Optional<String> caution() {
        return caution;
    }
}

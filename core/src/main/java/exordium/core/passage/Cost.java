// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.quantity.ByteSize;

/**
 * What a step or a way takes.
 *
 * @param minutes of somebody's time and of waiting
 * @param bytesWritten onto media; what goes into the vault is not counted
 * @param openings of the box
 * @param euros to be spent
 */
public record Cost(double minutes, long bytesWritten, int openings, double euros) {
    public static final Cost NONE = new Cost(0, 0, 0, 0);

    public static Cost minutes(double minutes) {
        return new Cost(minutes, 0, 0, 0);
    }

    public Cost writing(long bytes) {
        return new Cost(minutes, bytesWritten + bytes, openings, euros);
    }

    public Cost opening() {
        return new Cost(minutes, bytesWritten, openings + 1, euros);
    }

    public Cost spending(double more) {
        return new Cost(minutes, bytesWritten, openings, euros + more);
    }

    /** Whole minutes, at least one where it takes any. */
    public long wholeMinutes() {
        return minutes > 0 ? Math.max(1, Math.round(minutes)) : 0;
    }

    /** In words, without the money. */
    public String said() {
        String box =
                switch (openings) {
                    case 0 -> "box not opened";
                    case 1 -> "box opened once";
                    default -> "box opened " + openings + " times";
                };
        return "about " + wholeMinutes() + " min, "
                + (bytesWritten == 0 ? "nothing" : ByteSize.of(bytesWritten).said()) + " written, " + box;
    }

    public Cost plus(Cost other) {
        return new Cost(
                minutes + other.minutes,
                bytesWritten + other.bytesWritten,
                openings + other.openings,
                euros + other.euros);
    }
}

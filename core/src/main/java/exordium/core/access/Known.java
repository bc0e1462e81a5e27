// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.quantity.Coded;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;

/**
 * How a fact is known, where it was not read this moment.
 *
 * @param at when it was read, told or reported; for a default, since when it stands for what nobody told
 */
public record Known(By by, Instant at) {
    /** The ways to know a fact. */
    public enum By implements Coded {
        /** Read off the board or the medium by this program. */
        READ,
        /** Said by somebody who looked. */
        TOLD,
        /** Brought back by something that looked without this program at hand. */
        REPORTED,
        /** Nobody looked: what is usual. */
        DEFAULT;

        @com.fasterxml.jackson.annotation.JsonCreator
        static By of(String code) {
            return Coded.of(By.class, code);
        }
    }

    public static Known told(Instant at) {
        return new Known(By.TOLD, at);
    }

    public static Known read(Instant at) {
        return new Known(By.READ, at);
    }

    public static Known byDefault(Instant at) {
        return new Known(By.DEFAULT, at);
    }

    /** Whether nobody looked. */
    public boolean guessed() {
        return by == By.DEFAULT;
    }

    public LocalDate day(ZoneId zone) {
        return LocalDate.ofInstant(at, zone);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.quantity.Coded;
import java.time.Instant;

/**
 * How a fact is known, where it was not read this moment.
 *
 * @param at when it was read or told; for a default, since when it stands for what nobody told
 */
public record Known(By by, Instant at) {
    /** The ways to know a fact. */
    public enum By implements Coded {
        READ,
        TOLD,
        DEFAULT;

        @com.fasterxml.jackson.annotation.JsonCreator
        static By of(String code) {
            return Coded.of(By.class, code);
        }
    }

    public static Known told(Instant at) {
        return new Known(By.TOLD, at);
    }

    public static Known byDefault(Instant at) {
        return new Known(By.DEFAULT, at);
    }
}

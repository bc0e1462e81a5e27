// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;

/** Electrical power; negative where it is a margin that is missing. */
public record Watts(@JsonValue double value) implements Comparable<Watts> {
    public static final Watts NONE = new Watts(0);

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    public Watts {
        if (Double.isNaN(value) || Double.isInfinite(value)) {
            throw new IllegalArgumentException("not a power: " + value);
        }
    }

    public static Watts of(double volts, double amps) {
        return new Watts(volts * amps);
    }

    public Watts plus(Watts other) {
        return new Watts(value + other.value);
    }

    public Watts minus(Watts other) {
        return new Watts(value - other.value);
    }

    /** One decimal, or two where the second says something: "15.0 W", "12.95 W". */
    public String said() {
        boolean second = Math.abs(Math.round(value * 100)) % 10 != 0;
        return Decimals.fixed(value, second ? 2 : 1) + " W";
    }

    @Override
    public int compareTo(Watts other) {
        return Double.compare(value, other.value);
    }

    @Override
    public String toString() {
        return said();
    }
}

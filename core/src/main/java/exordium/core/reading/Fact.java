// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import exordium.core.quantity.Coded;
import java.util.List;
import java.util.Optional;

/**
 * One thing a text tells.
 *
 * @param fact what is told, such as {@code rootDevice}
 * @param value a text, a number, or, of drives, mounts and devices, their fields by name
 * @param line where it stands, from 1
 * @param name whose it is, where the text says so: the device of a medium
 */
public record Fact(String fact, Object value, int line, Whose of, Optional<String> name) {
    /** All there are. */
    public static final List<String> NAMES = List.of(
            "firmwareDate",
            "firmwareNewest",
            "channel",
            "order",
            "fuseRegister",
            "rootDevice",
            "startDevice",
            "kernelLine",
            "model",
            "serial",
            "mac",
            "memoryBytes",
            "systemVersion",
            "startSeconds",
            "address",
            "drive",
            "mount",
            "usb",
            "pcie",
            "lifeUsed",
            "underVoltage",
            "fileSystemError",
            "loginFault",
            "digest",
            "starts",
            "readRate");

    public Fact {
        if (!NAMES.contains(fact)) {
            throw new IllegalArgumentException("There is no fact " + fact + ".");
        }
    }

    /** Whose a fact is. */
    public enum Whose implements Coded {
        BOARD,
        MEDIUM,
        PC
    }

    Fact of(Whose other) {
        return new Fact(fact, value, line, other, name);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.finding.BadArgument;
import exordium.core.quantity.Coded;
import java.util.Arrays;
import java.util.Optional;

/** Whether the carrier a medium sits in tells the firmware that it is there. */
public enum CarrierKind implements Coded {
    ANNOUNCING,
    SILENT;

    /** The one of that name; empty where it is none. */
    public static Optional<CarrierKind> named(String text) {
        return Arrays.stream(values()).filter(each -> each.code().equals(text)).findFirst();
    }

    /** @throws BadArgument when it is none */
    public static CarrierKind require(String text) throws BadArgument {
        return named(text)
                .orElseThrow(() -> new BadArgument("A carrier is announcing or silent, not \"" + text + "\".", text));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import com.fasterxml.jackson.annotation.JsonProperty;
import exordium.core.access.Knowledge;
import exordium.core.access.Known;
import java.time.Instant;
import java.util.Optional;

/**
 * How a fact is known that was not read this moment; unwrapped behind the fact's own name: {@code firmware}, {@code firmwareAsOf},
 * {@code firmwareBy}. Null, and then not printed, for one that was read now.
 */
public record KnownOut(@JsonProperty("AsOf") Instant at, @JsonProperty("By") Known.By by) {

    public static KnownOut of(Optional<Known> known) {
        return known.map(each -> new KnownOut(each.at(), each.by())).orElse(null);
    }

    public static KnownOut read(Optional<Instant> asOf) {
        return asOf.map(at -> new KnownOut(at, Known.By.READ)).orElse(null);
    }

    public static KnownOut seen(Optional<Knowledge.Seen> seen) {
        return of(seen.map(Knowledge.Seen::known));
    }

    /** Behind a figure in a line for people; nothing for what was read now. */
    public static String words(KnownOut known) {
        if (known == null) {
            return "";
        }
        return switch (known.by()) {
            case READ -> " (as read " + known.at() + ")";
            case TOLD -> " (as told " + known.at() + ")";
            case REPORTED -> " (as reported " + known.at() + ")";
            case DEFAULT -> " (nobody told: the usual)";
        };
    }
}

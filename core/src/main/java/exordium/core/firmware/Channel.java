// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Locale;

/** How well tried a release is; a board follows one channel and gets everything at least as well tried. */
public enum Channel {
    DEFAULT,
    LATEST,
    BETA;

    @JsonCreator
    public static Channel of(String code) {
        return valueOf(code.toUpperCase(Locale.ROOT));
    }

    @JsonValue
    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }

    public boolean carries(Channel release) {
        return release.compareTo(this) <= 0;
    }
}

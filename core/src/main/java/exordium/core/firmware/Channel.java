// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.Coded;

/** How well tried a release is; a board follows one channel and gets everything at least as well tried. */
public enum Channel implements Coded {
    DEFAULT,
    LATEST,
    BETA;

    @JsonCreator
    public static Channel of(String code) {
        return Coded.of(Channel.class, code);
    }

    public boolean carries(Channel release) {
        return release.compareTo(this) <= 0;
    }
}

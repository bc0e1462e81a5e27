// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.Coded;

/** Where a board stands, as far as that matters for getting at it. */
public enum Setting implements Coded {
    DESK("on a desk"),
    BOX("in a closed box"),
    ROOF("on a roof or a mast");

    private final String title;

    Setting(String title) {
        this.title = title;
    }

    @JsonCreator
    public static Setting of(String code) {
        return Coded.of(Setting.class, code);
    }

    public String title() {
        return title;
    }
}

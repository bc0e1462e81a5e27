// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Arrays;
import java.util.Locale;

/**
 * Where a field of a family is from.
 *
 * @param from the file on the image, the family it is as in, or who told it
 */
public record FieldSource(Kind source, String from) {
    /** What was looked at for it; nothing, where it is inherited. */
    public enum Kind {
        IMAGE,
        SCREEN,
        TOLD,
        MEASURED,
        INHERITED;

        @JsonCreator
        public static Kind of(String code) {
            return Arrays.stream(values())
                    .filter(each -> each.code().equals(code))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("\"" + code + "\" is no source of a field."));
        }

        @JsonValue
        public String code() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public static FieldSource image(String file) {
        return new FieldSource(Kind.IMAGE, file);
    }

    public static FieldSource screen() {
        return new FieldSource(Kind.SCREEN, "start screen");
    }

    public static FieldSource told(String by) {
        return new FieldSource(Kind.TOLD, by);
    }

    public static FieldSource as(String family) {
        return new FieldSource(Kind.INHERITED, family);
    }

    public boolean inherited() {
        return source == Kind.INHERITED;
    }

    /** As it stands beside a value. */
    public String said() {
        return switch (source) {
            case IMAGE -> "read off the image: " + from;
            case SCREEN -> "off the start screen";
            case TOLD -> "told: " + from;
            case MEASURED -> "measured: " + from;
            case INHERITED -> "as in " + from + ", not looked at";
        };
    }
}

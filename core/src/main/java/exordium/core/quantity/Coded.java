// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import com.fasterxml.jackson.annotation.JsonValue;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** One of a few that files and the command line call by their names in small letters, such as {@code never-changes}. */
public interface Coded {
    /** An enum has one. */
    String name();

    @JsonValue
    default String code() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** @throws IllegalArgumentException naming those there are */
    static <E extends Enum<E> & Coded> E of(Class<E> kind, String code) {
        List<E> all = Arrays.asList(kind.getEnumConstants());
        return all.stream()
                .filter(each -> each.code().equalsIgnoreCase(code))
                .findFirst()
                .orElseThrow(() -> {
                    List<String> known = all.stream().map(Coded::code).toList();
                    return new IllegalArgumentException("There is no \"" + code + "\" here, only "
                            + String.join(", ", known) + "." + Slips.meant(code, known));
                });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.util.Comparator;
import java.util.List;
import java.util.ServiceLoader;

/** All ways to a board that this program has. */
public final class BoardWays {
    private static final List<BoardWay> ALL =
            ServiceLoader.load(BoardWay.class, BoardWays.class.getClassLoader()).stream()
                    .map(ServiceLoader.Provider::get)
                    .sorted(Comparator.comparing(BoardWay::code))
                    .toList();

    private BoardWays() {}

    /** In the order of their codes. */
    public static List<BoardWay> all() {
        return ALL;
    }

    /** @throws IllegalArgumentException naming those there are */
    public static BoardWay of(String code) {
        return ALL.stream()
                .filter(each -> each.code().equalsIgnoreCase(code))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("There is no way \"" + code + "\" to a board, only "
                        + String.join(", ", ALL.stream().map(BoardWay::code).toList()) + "."));
    }

    /** Where a board's own way is taken for granted: the program plays it. */
    public static BoardWay simulated() {
        return of("simulated");
    }

    public static BoardWay byHand() {
        return of("by-hand");
    }
}

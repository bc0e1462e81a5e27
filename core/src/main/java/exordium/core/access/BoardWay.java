// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.util.Set;

/**
 * A way to get at boards: what it is called, and what it can do by itself. One entry each, found by the service loader
 * ({@link BoardWays}); whatever asks a way asks for its abilities, never which one it is.
 */
public interface BoardWay {
    /** As files and the command line call it, such as {@code by-hand}. */
    String code();

    /** Behind a board's name, such as "by hand". */
    String said();

    /** In a form, where one is chosen: who does what. */
    String meaning();

    Set<Ability> abilities();

    default boolean can(Ability ability) {
        return abilities().contains(ability);
    }

    /** For whoever has {@link Ability#LOOK}. */
    BoardReading reading(BoardPlace place);

    BoardDeeds deeds(BoardPlace place);
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * How things stand at one moment of a passage. Immutable.
 *
 * @param places by medium: a port of the board, {@link #DESK} or {@link #SHOP}
 * @param copied contents of which the vault has a proven copy as they are
 * @param bought things that were not at hand and are now
 */
public record Situation(
        AtBoard board, Map<String, String> places, Map<String, Held> holds, Set<String> copied, Set<String> bought) {
    /** At hand, where it can be plugged into the PC. */
    public static final String DESK = "desk";
    /** Not owned yet. */
    public static final String SHOP = "shop";

    public String placeOf(String medium) {
        return places.getOrDefault(medium, DESK);
    }

    public boolean atDesk(String medium) {
        return placeOf(medium).equals(DESK);
    }

    public boolean inBoard(String medium) {
        return !placeOf(medium).equals(DESK) && !placeOf(medium).equals(SHOP);
    }

    /** What is in a port. */
    public Optional<String> in(String port) {
        return places.entrySet().stream()
                .filter(each -> each.getValue().equals(port))
                .map(Map.Entry::getKey)
                .findFirst();
    }

    public Held held(String medium) {
        return holds.getOrDefault(medium, Held.NOTHING);
    }

    Situation with(AtBoard other) {
        return new Situation(other, places, holds, copied, bought);
    }

    Situation holding(String medium, Held held) {
        Map<String, Held> other = new TreeMap<>(holds);
        other.put(medium, held);
        return new Situation(board, places, other, copied, bought);
    }

    Situation moved(String medium, String place) {
        Map<String, String> other = new TreeMap<>(places);
        other.put(medium, place);
        return new Situation(board, other, holds, copied, bought);
    }

    /** The vault has what is on it, as it is now. */
    Situation copying(String medium) {
        Set<String> other = new TreeSet<>(copied);
        other.add(held(medium).content());
        return new Situation(board, places, holds, other, bought)
                .holding(medium, held(medium).copied());
    }

    /** A system ran from it: it is otherwise than its copy by now. */
    Situation ranFrom(String medium) {
        Set<String> other = new TreeSet<>(copied);
        other.remove(held(medium).content());
        return new Situation(board, places, holds, other, bought)
                .holding(medium, held(medium).changed());
    }

    Situation buying(String thing) {
        Set<String> other = new TreeSet<>(bought);
        other.add(thing);
        return new Situation(board, places, holds, copied, other);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import java.util.List;
import java.util.Set;

/**
 * What has to be told with a step, since nothing here reads it.
 *
 * @param facts by their names
 * @param each whether each of them is wanted; else one is enough
 */
public record Tells(List<String> facts, boolean each) {
    static final Tells NOTHING = new Tells(List.of(), true);

    public Tells {
        facts = List.copyOf(facts);
    }

    /** Whether these, told, will do. */
    public boolean enough(Set<String> told) {
        return each ? told.containsAll(facts) : facts.stream().anyMatch(told::contains);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.finding.UnreadableInput;
import java.util.List;

/** An image starts several generations of boards; which of them is described is for its user to say. */
public final class SeveralGenerations extends UnreadableInput {
    private static final long serialVersionUID = 1L;

    private final List<String> names;

    SeveralGenerations(List<String> names) {
        super("It starts several generations of boards: " + String.join(", ", names)
                + ". Say which one is described, with --generation NAME.");
        this.names = List.copyOf(names);
    }

    public List<String> names() {
        return names;
    }
}

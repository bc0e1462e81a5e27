// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import exordium.core.quantity.Slips;
import java.util.List;

/** A name that stands for nothing here. Carries it, and the names there are where they can be counted; the nearest is offered. */
public final class UnknownName extends UnreadableInput {
    private static final long serialVersionUID = 1L;
    private final String name;
    private final transient List<String> known;

    public UnknownName(String sentence, String name) {
        this(sentence, name, List.of());
    }

    public UnknownName(String sentence, String name, List<String> known) {
        super(sentence + Slips.meant(name, known));
        this.name = name;
        this.known = List.copyOf(known);
    }

    public String name() {
        return name;
    }

    /** Those there are; none where they cannot be counted. */
    public List<String> known() {
        return known;
    }
}

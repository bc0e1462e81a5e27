// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** A name that something else has already; that is left as it is. */
public final class NameTaken extends UnreadableInput {
    private static final long serialVersionUID = 1L;
    private final String name;

    public NameTaken(String sentence, String name) {
        super(sentence);
        this.name = name;
    }

    public String name() {
        return name;
    }
}

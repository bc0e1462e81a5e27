// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** Something a newer version of this program made; it was left as it is. Carries both versions. */
public final class NewerThanThis extends UnreadableInput {
    private static final long serialVersionUID = 1L;
    private final int found;
    private final int known;

    public NewerThanThis(String sentence, int found, int known) {
        super(sentence);
        this.found = found;
        this.known = known;
    }

    public int found() {
        return found;
    }

    /** The newest this program knows. */
    public int known() {
        return known;
    }
}

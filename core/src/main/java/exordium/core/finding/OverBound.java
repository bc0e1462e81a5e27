// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** Input that asks for more than it may have: more bytes than the room there is, more parts than anything sensible. */
public final class OverBound extends UnreadableInput {
    private static final long serialVersionUID = 1L;
    private final long bound;

    /** Where bound: in the unit the sentence tells. */
    public OverBound(String sentence, long bound) {
        super(sentence);
        this.bound = bound;
    }

    public long bound() {
        return bound;
    }
}

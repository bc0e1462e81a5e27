// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

/** A value that is none of those that can be meant. Carries it. */
public final class BadArgument extends UnreadableInput {
    private static final long serialVersionUID = 1L;
    private final String value;

    public BadArgument(String sentence, String value) {
        super(sentence);
        this.value = value;
    }

    public String value() {
        return value;
    }
}

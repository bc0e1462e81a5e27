// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.io.IOException;
import java.util.OptionalLong;

/** What was handed in cannot be read as what it should be. Carries one sentence, and the offset where it is known. */
public class UnreadableInput extends IOException {
    private static final long serialVersionUID = 1L;
    private final long offset;

    public UnreadableInput(String sentence) {
        this(sentence, -1);
    }

    /** Where offset: bytes from the start of the input, or -1 where no place can be named. */
    public UnreadableInput(String sentence, long offset) {
        super(offset < 0 ? sentence : sentence + " (at byte " + offset + ")");
        this.offset = offset;
    }

    public UnreadableInput(String sentence, Throwable cause) {
        super(sentence, cause);
        this.offset = -1;
    }

    public OptionalLong offset() {
        return offset < 0 ? OptionalLong.empty() : OptionalLong.of(offset);
    }
}

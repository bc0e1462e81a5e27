// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.io.IOException;

/**
 * What was asked for is understood, and cannot be done as things are: a medium is away, a tool of the system said no, there is no room.
 * Carries one sentence; nothing was changed unless it says so.
 */
public final class NotPossible extends IOException {
    private static final long serialVersionUID = 1L;

    public NotPossible(String sentence) {
        super(sentence);
    }

    public NotPossible(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}

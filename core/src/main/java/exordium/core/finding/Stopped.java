// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.concurrent.CancellationException;

/** A deed that its user stopped, with a sentence of what that left behind. */
public final class Stopped extends CancellationException {
    private static final long serialVersionUID = 1L;

    /** Where sentence: what was stopped, and what is true of the medium now. */
    public Stopped(String sentence) {
        super(sentence);
    }
}

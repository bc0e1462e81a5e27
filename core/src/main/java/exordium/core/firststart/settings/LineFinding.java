// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import exordium.core.finding.Finding;
import java.util.Optional;

/**
 * What is found at a line of a file, and how it can be mended there.
 *
 * @param line counted from 1
 * @param mend empty where only its owner knows what was meant
 */
public record LineFinding(Finding finding, int line, Optional<Mend> mend) {

    /**
     * A change of a line, or of several that belong together.
     *
     * @param through the last line it takes the place of
     * @param text what stands there afterwards, without its ending; empty: the line goes
     * @param words what is done, for a button
     */
    public record Mend(int line, int through, Optional<String> text, String words) {}

    public static LineFinding of(Finding finding, int line) {
        return new LineFinding(finding, line, Optional.empty());
    }

    public LineFinding mendedBy(String text, String words) {
        return new LineFinding(finding, line, Optional.of(new Mend(line, line, Optional.of(text), words)));
    }

    /** All lines from this one through another become one. */
    public LineFinding mendedByJoining(int through, String text, String words) {
        return new LineFinding(finding, line, Optional.of(new Mend(line, through, Optional.of(text), words)));
    }

    public LineFinding mendedByLeaving(String words) {
        return new LineFinding(finding, line, Optional.of(new Mend(line, line, Optional.empty(), words)));
    }
}

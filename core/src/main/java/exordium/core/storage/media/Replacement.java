// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.finding.Basis;
import java.time.LocalDate;

/**
 * The day by which a medium is to be replaced, and why.
 *
 * @param daysLeft till then, from the day it was worked out; zero or less where it is due
 */
public record Replacement(LocalDate date, long daysLeft, String reason, Basis basis) {
    /** Another one is to be bought and a copy is to be fresh from here on. Common practice, no source. */
    private static final int SOON = 90;

    public boolean due() {
        return daysLeft <= 0;
    }

    /** Due, or within three months. */
    public boolean soon() {
        return daysLeft <= SOON;
    }

    /** By when and why, as one sentence to be read alone. */
    public String sentence(String medium) {
        return "Replace " + medium + " " + when() + ": " + reason;
    }

    /** In a word or two. */
    public String when() {
        return due() ? "now" : "by " + date;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import com.fasterxml.jackson.annotation.JsonCreator;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;

/**
 * What a board writes, in a user's words. A day's bytes, the share that is logs, and how many flash writes one host write
 * becomes: common practice, no source; small writes that wait for the flash cost most, long streams least.
 */
public enum WriteHabit implements Coded {
    NEVER_CHANGES("never changes", 0.05, 0.9, 2.5),
    LOGS("keeps logs", 0.6, 0.8, 3),
    SENSORS("records sensors", 0.8, 0.4, 4),
    DATABASE("runs a database", 4, 0.1, 5),
    VIDEO("records video", 20, 0.02, 1.5);

    private final String title;
    private final double gigabytesADay;
    private final double logShare;
    private final double amplification;

    WriteHabit(String title, double gigabytesADay, double logShare, double amplification) {
        this.title = title;
        this.gigabytesADay = gigabytesADay;
        this.logShare = logShare;
        this.amplification = amplification;
    }

    @JsonCreator
    public static WriteHabit of(String code) {
        return Coded.of(WriteHabit.class, code);
    }

    public String title() {
        return title;
    }

    public ByteSize usual() {
        return ByteSize.ofGigabytes(gigabytesADay);
    }

    public double logShare() {
        return logShare;
    }

    public double amplification() {
        return amplification;
    }

    /** Whether what it writes is the point of the board, so that it must not be thrown away at a restart. */
    public boolean records() {
        return this == SENSORS || this == DATABASE || this == VIDEO;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;

/** What is said of a target when a write to it has ended. */
final class LaneWords {
    private LaneWords() {}

    /** A drive that does not answer says so itself. */
    static String stopped(CancellationException e) {
        return e.getMessage() == null ? "Stopped. " : "Stopped: " + withStop(e.getMessage()) + " ";
    }

    static String incomplete(String target, boolean attempted) {
        return attempted
                ? target + " is incomplete and is not to be used; write it again, or go on with this write."
                : "Nothing was written; " + target + " is as it was.";
    }

    /**
     * What mode and journal saved or found.
     *
     * @param nanosAByte the pace of this very write; 0 where nothing was written
     */
    static String saved(WritePlan plan, int changedSince, long skipped, double nanosAByte) {
        StringBuilder words = new StringBuilder();
        if (changedSince > 0) {
            words.append(" Of what an earlier run had brought on to it, ")
                    .append(changedSince)
                    .append(changedSince == 1 ? " chunk was" : " chunks were")
                    .append(" not as it had been left, and written anew.");
        }
        if (skipped > 0 && plan.mode() != WriteMode.WHOLE) {
            words.append(" ")
                    .append(ByteSize.of(skipped).said())
                    .append(plan.mode() == WriteMode.CHANGED ? " were right already" : " hold nothing")
                    .append(" and were not written: that much wear");
            time(plan, skipped, nanosAByte)
                    .ifPresent(time -> words.append(" and about ").append(Span.said(time)));
            words.append(" saved.");
        }
        return words.toString();
    }

    /** By the pace of this very write, else by what is known of the medium. */
    private static Optional<Duration> time(WritePlan plan, long skipped, double nanosAByte) {
        if (nanosAByte > 0) {
            return Optional.of(Duration.ofNanos(Math.round(nanosAByte * skipped)));
        }
        return plan.target()
                .writeRate()
                .filter(rate -> rate.bytesPerSecond() > 0)
                .map(rate -> rate.timeFor(ByteSize.of(skipped)));
    }

    static String proven(WritePlan plan, String target, Verification proof) {
        String cache = proof.pastCache()
                ? "."
                : "; the file system here allows no reading past the page cache, so this proves the file, not the medium.";
        return switch (plan.mode()) {
            case WHOLE, CHANGED -> "Every byte of " + target + " was read back and agrees with the image" + cache;
            case USED ->
                "Every byte of " + target + " that a table or a file system of the image counts as taken was read"
                        + " back and agrees with it" + cache;
        };
    }

    static String differs(String target, List<Difference> differences) {
        Difference first = differences.get(0);
        return target + " differs from the image at byte " + first.offset()
                + (differences.size() == 1 ? "" : " and in " + (differences.size() - 1) + " more places")
                + ". It is not to be used as it is; write it again, and replace the medium if it differs again.";
    }

    static String withStop(String sentence) {
        return sentence == null ? "The write failed." : sentence.endsWith(".") ? sentence : sentence + ".";
    }
}

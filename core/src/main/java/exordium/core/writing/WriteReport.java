// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.time.Duration;
import java.util.Optional;

/**
 * The facts of one write, as the logbook stores them.
 *
 * @param skippedBytes bytes that already were what the image holds (mode changed)
 * @param imageSha256 of the uncompressed image, when it was asked for
 * @param sentence what happened, what is safe, what to do
 */
public record WriteReport(
        String image,
        String target,
        WriteMode mode,
        long plannedBytes,
        long writtenBytes,
        long skippedBytes,
        double seconds,
        double writeSeconds,
        double readSeconds,
        Optional<String> imageSha256,
        Optional<Verification> verification,
        Verdict verdict,
        String sentence) {

    /** The report as one judgement. */
    public Finding finding() {
        return switch (verdict) {
            case VERIFIED -> Finding.note("write-verified", sentence, Basis.computed("reading back the medium"));
            case WRITTEN -> Finding.caution("write-not-verified", sentence, Basis.practice());
            default -> Finding.stop("write-" + verdict.code(), sentence, Basis.computed("the write's report"));
        };
    }

    public ByteRate writeRate() {
        return ByteRate.over(ByteSize.of(writtenBytes), span(writeSeconds));
    }

    public ByteRate readRate() {
        return ByteRate.over(
                ByteSize.of(verification.map(Verification::checkedBytes).orElse(0L)), span(readSeconds));
    }

    private static Duration span(double seconds) {
        return Duration.ofNanos(Math.round(seconds * 1e9));
    }
}

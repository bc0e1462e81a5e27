// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Everything one write will do, before it does anything.
 *
 * @param estimate from the rates given; empty where none is known
 * @param findings stops refuse the run
 */
public record WritePlan(
        ImageFile image,
        ByteSize imageSize,
        TargetDescription target,
        WriteMode mode,
        boolean verify,
        boolean digest,
        Optional<Duration> estimate,
        List<Finding> findings) {
    private static final Basis SIZES = Basis.computed("the real bytes of image and target");

    /**
     * What is known of the target before it is opened.
     *
     * @param id what is typed to confirm it
     * @param writeRate measured or described; empty where unknown
     * @param loses what stands on it now, in words; empty where nothing is known of it
     * @param refusals stops of the target itself, such as a mounted drive
     */
    public record TargetDescription(
            String id,
            Path path,
            ByteSize size,
            Optional<ByteRate> writeRate,
            Optional<ByteRate> readRate,
            Optional<String> loses,
            List<Finding> refusals) {}

    /** How the write is to be done. */
    public record Options(WriteMode mode, boolean verify, boolean digest) {
        public static final Options USUAL = new Options(WriteMode.WHOLE, true, false);
    }

    /**
     * Plans a write.
     *
     * @param imageSize the uncompressed size, from the container or measured
     * @param confirmed the name that was typed for the target
     */
    public static WritePlan of(
            ImageFile image, ByteSize imageSize, TargetDescription target, Options options, String confirmed)
            throws IOException {
        List<Finding> findings = new ArrayList<>(target.refusals());
        if (Files.exists(target.path()) && Files.isSameFile(image.path(), target.path())) {
            findings.add(Finding.stop(
                    "target-is-image", "Image and target are the same file, " + image.name() + ".", SIZES));
        }
        findings.add(fit(imageSize, target));
        if (!confirmed.equals(target.id())) {
            findings.add(Finding.stop(
                    "target-not-confirmed",
                    confirmed.isEmpty()
                            ? "The target was not confirmed: type its name, " + target.id() + "."
                            : "\"" + confirmed + "\" is not the target's name; that is " + target.id() + ".",
                    Basis.computed("the name typed")));
        }
        target.loses()
                .ifPresent(loss -> findings.add(Finding.caution("target-loses", loss, Basis.computed("the logbook"))));
        if (!options.verify()) {
            findings.add(Finding.caution(
                    "not-verified", "Without reading back, nobody knows what the medium holds.", Basis.practice()));
        }
        Optional<Duration> estimate = target.writeRate()
                .filter(rate -> rate.bytesPerSecond() > 0)
                .map(rate -> rate.timeFor(imageSize)
                        .plus(options.verify() ? readTime(imageSize, target, rate) : Duration.ZERO));
        estimate.ifPresent(time -> findings.add(Finding.note(
                "write-time",
                "About " + Span.said(time) + (options.verify() ? ", reading back included." : "."),
                Basis.computed("the medium's rates"))));
        return new WritePlan(
                image,
                imageSize,
                target,
                options.mode(),
                options.verify(),
                options.digest(),
                estimate,
                Finding.worstFirst(findings));
    }

    private static Duration readTime(ByteSize size, TargetDescription target, ByteRate writeRate) {
        return target.readRate()
                .filter(rate -> rate.bytesPerSecond() > 0)
                .orElse(writeRate)
                .timeFor(size);
    }

    private static Finding fit(ByteSize image, TargetDescription target) {
        if (image.compareTo(target.size()) > 0) {
            return Finding.stop(
                            "target-too-small",
                            "The image needs " + image.exact() + "; " + target.id() + " holds "
                                    + target.size().exact() + ", "
                                    + image.minusOrZero(target.size()).said()
                                    + " too few.",
                            SIZES)
                    .mendAt(Step.STORAGE);
        }
        return Finding.note(
                "target-fits",
                image.said() + " of " + target.size().said() + "; "
                        + target.size().minusOrZero(image).said() + " stay free.",
                SIZES);
    }
}

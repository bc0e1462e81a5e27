// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.TypedName;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
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
 * @param used in mode used: which places of the image count
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
        Optional<UsedMap> used,
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
            List<Finding> refusals) {
        /** What is lost with it, and the name that is asked for before. */
        public String asked() {
            return loses.orElse("Everything on " + id + " will be lost.") + " Type " + id
                    + " to prove that it is meant.";
        }
    }

    /** One thing the run will do, in its order; time is empty where it takes next to none or no rate is known. */
    public record Stage(String text, Optional<Duration> time) {}

    /** How the write is to be done. */
    public record Options(WriteMode mode, boolean verify, boolean digest, Optional<UsedMap> used) {
        public static final Options USUAL = new Options(WriteMode.WHOLE, true, false);

        public Options(WriteMode mode, boolean verify, boolean digest) {
            this(mode, verify, digest, Optional.empty());
        }
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
        TypedName.check(confirmed, target.id()).ifPresent(findings::add);
        target.loses()
                .ifPresent(loss -> findings.add(Finding.caution("target-loses", loss, Basis.computed("the logbook"))));
        if (!options.verify()) {
            findings.add(Finding.caution(
                    "not-verified", "Without reading back, nobody knows what the medium holds.", Basis.practice()));
        }
        if (options.mode() == WriteMode.USED && options.used().isEmpty()) {
            throw new IllegalArgumentException("mode used wants the image's used map");
        }
        ByteSize moved = options.mode() == WriteMode.USED
                ? options.used().map(UsedMap::bytes).orElse(imageSize)
                : imageSize;
        if (options.mode() == WriteMode.USED) {
            findings.add(Finding.note(
                    "used-only",
                    moved.said() + " of " + imageSize.said()
                            + " are written: what tables and file systems count as taken. What lies between stays as it is.",
                    Basis.computed("the image's allocation maps")));
        }
        Optional<Duration> estimate = writeTime(moved, target)
                .map(time ->
                        options.verify() ? time.plus(readTime(moved, target).orElse(time)) : time);
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
                options.mode() == WriteMode.USED ? options.used() : Optional.empty(),
                estimate,
                Finding.worstFirst(findings));
    }

    /** Everything the run does, step by step; it does nothing else. */
    public List<Stage> stages() {
        List<Stage> stages = new ArrayList<>();
        String name = target.id();
        ByteSize moved = planned();
        Optional<Duration> writing = writeTime(moved, target);
        switch (mode) {
            case WHOLE, USED -> {
                stages.add(new Stage(
                        "Blank the partition table of " + name + ": cut off half-way, it starts nothing.",
                        Optional.empty()));
                stages.add(new Stage(
                        "Unpack and write " + moved.said() + (mode == WriteMode.USED ? ", what is in use." : "."),
                        writing));
            }
            case CHANGED ->
                stages.add(new Stage(
                        "Read " + name + " and write only the pieces that differ.",
                        readTime(moved, target).or(() -> writing)));
        }
        stages.add(
                new Stage("Put the partition table in place and wait until all is on the medium.", Optional.empty()));
        if (verify) {
            stages.add(
                    mode == WriteMode.CHANGED
                            ? new Stage("Read what was written back past the page cache and compare.", Optional.empty())
                            : new Stage(
                                    "Read " + moved.said() + " back past the page cache and compare.",
                                    readTime(moved, target).or(() -> writing)));
        }
        stages.add(new Stage("Put the verdict in the logbook.", Optional.empty()));
        return List.copyOf(stages);
    }

    /** The bytes of the image that this write is about. */
    public ByteSize planned() {
        return used.map(UsedMap::bytes).orElse(imageSize);
    }

    private static Optional<Duration> writeTime(ByteSize size, TargetDescription target) {
        return timeAt(target.writeRate(), size);
    }

    private static Optional<Duration> readTime(ByteSize size, TargetDescription target) {
        return timeAt(target.readRate(), size);
    }

    private static Optional<Duration> timeAt(Optional<ByteRate> rate, ByteSize size) {
        return rate.filter(known -> known.bytesPerSecond() > 0).map(known -> known.timeFor(size));
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

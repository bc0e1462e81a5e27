// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firmware.FirmwareCard;
import exordium.core.image.ArchiveFiles;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.layout.DiskIdentifier;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.storage.media.MediumKind;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Cards that carry the firmware of a board: planned from its archive, rehearsed with what else is plugged in, made. */
public final class FirmwareCardJob {
    private static final String THE_CARD = "the firmware card";

    private final Workbench workbench;
    private final BenchReader benches;

    public FirmwareCardJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /**
     * A card as it would be.
     *
     * @param start of the board with it in the slot and everything else as it is
     * @param order under which the same start is over soonest, where that is another one than the board has
     */
    public record Planned(
            FirmwareCard card, Trace start, Optional<String> order, List<String> steps, List<Finding> findings) {}

    /** @throws exordium.core.finding.UnreadableInput when the archive is none, or this family keeps its firmware elsewhere */
    public Planned plan(Workbench.BoardAtHand at, Path archive) throws IOException {
        return plan(at, List.of(archive), List.of());
    }

    /**
     * The same of several archives, laid over each other.
     *
     * @param leaveOut names of files that are not wanted on it, which may hold {@code *}
     */
    public Planned plan(Workbench.BoardAtHand at, List<Path> archives, List<String> leaveOut) throws IOException {
        List<FirmwareCard.Published> published = new ArrayList<>();
        for (Path each : archives) {
            published.add(new FirmwareCard.Published(String.valueOf(each.getFileName()), ArchiveFiles.read(each)));
        }
        FirmwareCard card = FirmwareCard.of(
                published, leaveOut, at.profile(), ByteSize.parse(at.board().memory()));
        Bench bench = with(at, card);
        Trace start = Rehearsal.of(bench);
        List<Finding> findings = new ArrayList<>(card.findings());
        Optional<Sooner> sooner = sooner(bench, start);
        sooner.ifPresent(better -> findings.add(Finding.caution(
                        "firmware-card-order",
                        String.format(
                                Locale.ROOT,
                                "With the order it has, %s, a start takes %.0f s: entries that find nothing are waited for. With %s it"
                                        + " takes %.0f s.",
                                bench.order(),
                                start.seconds(),
                                better.order(),
                                better.seconds()),
                        Basis.computed("two rehearsals"))
                .mendAt(Step.ORDER)));
        return new Planned(
                card, start, sooner.map(Sooner::order), steps(at, card, bench), Finding.worstFirst(findings));
    }

    /** The board with that card in its slot, and everything else as it is. */
    private Bench with(Workbench.BoardAtHand at, FirmwareCard card) throws IOException {
        BoardProfile.Port slot = at.profile().ports().stream()
                .filter(port -> port.source() == StartSource.CARD)
                .findFirst()
                .orElseThrow();
        MediumKind kind = workbench.usualKind(slot);
        Bench bench = benches.of(at);
        List<Bench.Attached> attached = new ArrayList<>(bench.attached());
        attached.removeIf(each -> each.port().equals(slot.id()));
        try (Folders.Working room = Folders.Working.in(workbench.folder().resolve("files"))) {
            Path file = room.path().resolve("firmware-card.img");
            card.image(file, id());
            try (UnpackedImage image = UnpackedImage.open(ImageFile.open(file), false, TransferWatch.NONE)) {
                attached.add(new Bench.Attached(
                        slot.id(),
                        THE_CARD,
                        kind,
                        false,
                        true,
                        ContentsReader.read(image.device(), at.profile().startFiles())));
            }
        }
        return bench.withAttached(attached);
    }

    private static DiskIdentifier id() {
        return DiskIdentifier.ofMbr(new SecureRandom().nextInt() & 0xFFFF_FFFFL);
    }

    /** An order under which the same start is over sooner. */
    private record Sooner(String order, double seconds) {}

    private static Optional<Sooner> sooner(Bench bench, Trace start) {
        if (!start.runs()) {
            return Optional.empty();
        }
        Set<StartSource> plugged = bench.attached().stream()
                .flatMap(each -> bench.profile().port(each.port()).stream())
                .map(BoardProfile.Port::source)
                .collect(Collectors.toSet());
        Optional<Sooner> best = Optional.empty();
        for (OrderPreset each : OrderPreset.of(bench.profile(), plugged)) {
            Trace trace = Rehearsal.of(bench.withOrder(each.value()));
            // A second is not worth a word.
            double least = best.map(Sooner::seconds).orElse(start.seconds() - 1);
            if (trace.runs() && trace.seconds() < least) {
                best = Optional.of(new Sooner(each.value(), trace.seconds()));
            }
        }
        return best;
    }

    private static List<String> steps(Workbench.BoardAtHand at, FirmwareCard card, Bench bench) {
        List<String> steps = new ArrayList<>();
        steps.add(
                "Power off. Put the card into the slot; it stays there: without it the board does nothing, whatever else is"
                        + " plugged in.");
        List<String> others = bench.attached().stream()
                .filter(each -> !each.name().equals(THE_CARD))
                .map(Bench.Attached::name)
                .toList();
        steps.add("The system stands on another drive"
                + (others.isEmpty() ? ": plug one in." : ": " + String.join(", ", others) + " is plugged in."));
        steps.add(
                "An installer started from a stick offers every drive it sees, the stick it runs from as well, and writes over it"
                        + " when told to: choose by size and name, and take out what it must not touch.");
        if (card.findings().stream().anyMatch(each -> each.isAbout(Subject.MEMORY_CAP))) {
            steps.add("At its first start open the firmware's menu, lift the memory limit and save; then restart.");
        }
        steps.add("The firmware usually keeps its order on the card itself: one that is made anew begins with "
                + at.profile().order().usual() + ".");
        return steps;
    }

    /**
     * Writes it to a drive, an image file or a virtual drive, and reads it back.
     *
     * @throws Refused when the plan has a stop
     */
    public WriteReport make(Planned planned, Targets reach, Path target, String typed, TransferWatch watch)
            throws IOException {
        Refused.ifAnyStops(planned.findings());
        return FreshCard.write(
                workbench, "firmware-card", image -> planned.card().image(image, id()), reach, target, typed, watch);
    }
}

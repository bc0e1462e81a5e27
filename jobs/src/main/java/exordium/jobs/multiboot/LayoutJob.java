// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.multiboot;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.image.ImageFile;
import exordium.core.inspection.PartitionContent;
import exordium.core.inspection.UnpackedImage;
import exordium.core.inspection.UsedMap;
import exordium.core.multiboot.LayoutImage;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.MediumKind;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Drives with several systems: planned to scale, made as an image, rehearsed, written like any other and read back. */
public final class LayoutJob {
    private static final LocalDate NEWEST = LocalDate.of(2999, 1, 1);
    private static final long ROOM_KEPT = 256L << 20;

    private final Workbench workbench;
    private final Map<String, LayoutPlan.ImageFacts> known = new HashMap<>();

    public LayoutJob(Workbench workbench) {
        this.workbench = workbench;
    }

    private BoardProfile board(LayoutPlan plan) throws UnreadableInput {
        return workbench.profiles().require(plan.profile());
    }

    private Path image(LayoutPlan.OneSystem system) throws UnreadableInput {
        for (Path each : List.of(Path.of(system.image()), workbench.images().resolve(system.image()))) {
            if (Files.isRegularFile(each)) {
                return each;
            }
        }
        throw new UnreadableInput(
                "There is no image " + system.image() + " for " + system.name() + ", neither there nor on the shelf.");
    }

    /** The drive as it would be, with what is wrong with it. */
    public LayoutPlan.Laid laid(LayoutPlan plan) throws IOException {
        Map<String, LayoutPlan.ImageFacts> facts = new LinkedHashMap<>();
        for (LayoutPlan.OneSystem system : plan.systems()) {
            facts.put(system.name(), facts(plan, system));
        }
        LayoutPlan.Laid laid = plan.laid(board(plan), facts);
        List<Finding> findings = new ArrayList<>(laid.findings());
        if (!FittedRoot.here()) {
            findings.add(Finding.caution(
                    "layout-not-fitted",
                    "resize2fs and e2fsck are not here: roots keep the size of their images, and what is beyond stays unused until they"
                            + " are grown by hand.",
                    Basis.computed("the tools of this machine")));
        }
        return new LayoutPlan.Laid(laid.gpt(), laid.parts(), laid.free(), Finding.worstFirst(findings));
    }

    /** Each image is looked into once. */
    private LayoutPlan.ImageFacts facts(LayoutPlan plan, LayoutPlan.OneSystem system) throws IOException {
        String key = plan.profile() + " " + image(system).toAbsolutePath();
        LayoutPlan.ImageFacts facts = known.get(key);
        if (facts == null) {
            try (UnpackedImage image = open(system, TransferWatch.NONE)) {
                facts = new SystemImage(image.device(), board(plan)).facts();
            }
            known.put(key, facts);
        }
        return facts;
    }

    private UnpackedImage open(LayoutPlan.OneSystem system, TransferWatch watch) throws IOException {
        return UnpackedImage.open(ImageFile.open(image(system)), false, watch);
    }

    /** How each system starts by the menu or its entry, by its name; entries: of the firmware's list, where they are to be made. */
    public record Made(
            LayoutPlan.Laid laid, Map<String, Trace> starts, Optional<EfiVariables> entries, WriteReport report) {
        /** What came of it, with how each system starts. */
        public String sentence() {
            return report.sentence() + " " + String.join(", ", startsSaid()) + ".";
        }

        /** How each system starts, in a few words with its name. */
        public List<String> startsSaid() {
            String by = entries.isPresent() ? " starts by its entry in " : " starts by the menu in ";
            return starts.entrySet().stream()
                    .map(each -> each.getKey()
                            + (each.getValue().runs()
                                    ? by + each.getValue().seconds() + " s"
                                    : " would not start: "
                                            + each.getValue().cause().shortText()))
                    .toList();
        }
    }

    /** A drive's image in a file, and how each of its systems starts from it. */
    public record Composed(LayoutPlan.Laid laid, Map<String, Trace> starts, Optional<EfiVariables> entries) {}

    /** @throws Refused when the plan has a stop */
    public Composed compose(LayoutPlan plan, Path file, TransferWatch watch) throws IOException {
        LayoutPlan.Laid laid = laid(plan);
        Refused.ifAnyStops(laid.findings());
        BoardProfile board = board(plan);
        LayoutImage image = new LayoutImage(
                plan, laid, board, LayoutImage.Identifiers.of(laid.parts().size(), new SecureRandom()));
        List<UnpackedImage> open = new ArrayList<>();
        try (Folders.Working room = Folders.Working.in(file.toAbsolutePath().getParent())) {
            Map<String, LayoutImage.Source> sources = new LinkedHashMap<>();
            for (LayoutPlan.OneSystem system : plan.systems()) {
                UnpackedImage unpacked = open(system, watch);
                open.add(unpacked);
                sources.put(system.name(), new SystemImage(unpacked.device(), board));
            }
            Files.createFile(file);
            image.make(file, sources, room.path());
            data(file, laid, room.path());
        } finally {
            for (UnpackedImage each : open) {
                each.close();
            }
        }
        return new Composed(
                laid,
                starts(plan, laid, board, file),
                plan.byEntries()
                        ? Optional.of(image.entries(board.startFiles().loaders().get(0)))
                        : Optional.empty());
    }

    /** Shared data gets an empty file system where the tool for it is here. */
    private static void data(Path file, LayoutPlan.Laid laid, Path room) throws IOException {
        if (laid.dataPart().isPresent()) {
            FittedRoot.empty(file, laid.dataPart().get(), room);
        }
    }

    /** Each system once in front, on the first place of the board that takes drives. */
    private Map<String, Trace> starts(LayoutPlan plan, LayoutPlan.Laid laid, BoardProfile board, Path file)
            throws IOException {
        Map<String, Trace> starts = new LinkedHashMap<>();
        MediumContents contents;
        try (UnpackedImage image = UnpackedImage.open(ImageFile.open(file), false, TransferWatch.NONE)) {
            contents = ContentsReader.read(image.device(), board.startFiles());
            for (LayoutPlan.OneSystem system : plan.systems()) {
                MediumContents seen = plan.byEntries()
                        ? ContentsReader.readFrom(
                                image.device(),
                                board.startFiles(),
                                laid.startOf(system.name()).number())
                        : chosen(contents, image.device(), board, system.name());
                starts.put(system.name(), Rehearsal.of(bench(board, seen)));
            }
        }
        return starts;
    }

    /** The same drive with another system chosen in its menu. */
    private static MediumContents chosen(MediumContents contents, BlockDevice device, BoardProfile board, String system)
            throws IOException {
        MediumContents.StartPartition start = contents.start().orElseThrow();
        boolean single = board.startFiles().kernelLineForm() == BoardProfile.KernelLineForm.OPTIONS;
        Optional<byte[]> menu = single
                ? SystemImage.startFile(device, contents, "loader/entries/" + system + ".conf")
                : start.kernelLine().map(bytes -> new String(bytes, java.nio.charset.StandardCharsets.UTF_8)
                        .replaceFirst("(?m)^default .*$", "default " + system)
                        .getBytes(java.nio.charset.StandardCharsets.UTF_8));
        return new MediumContents(
                contents.inspection(),
                Optional.of(new MediumContents.StartPartition(
                        start.number(),
                        start.names(),
                        start.settings(),
                        single ? "loader/entries/" + system + ".conf" : start.kernelLineFile(),
                        menu,
                        start.userFile(),
                        start.cloudFile(),
                        start.networkFile())),
                contents.roots(),
                contents.unreadable());
    }

    private Bench bench(BoardProfile board, MediumContents contents) throws UnreadableInput {
        BoardProfile.Port port = board.ports().stream()
                .filter(each -> each.source() == StartSource.CARD)
                .findFirst()
                .orElseThrow();
        MediumKind kind = workbench.usualKind(port);
        return new Bench(
                board,
                "",
                "",
                NEWEST,
                FirmwareConfig.EMPTY,
                OrderDialect.of(board).encode(List.of(StartSource.CARD)),
                board.power().supply(),
                List.of(new Bench.Attached(port.id(), "the new drive", kind, false, true, contents)),
                Bench.Network.USUAL);
    }

    /**
     * Makes it and writes it to a drive, read back.
     *
     * @param typed the target's name
     * @throws Refused when the plan or the target has a stop, or the target was not named
     */
    public Made apply(LayoutPlan plan, Targets reach, Path to, String typed, TransferWatch watch) throws IOException {
        Targets.Target target = new TargetHistory(workbench).known(reach.at(to, plan.drive()));
        Refused.ifAnyStops(laid(plan).findings());
        try (Folders.Working room = Folders.Working.in(workbench.workspace().folder())) {
            requireRoom(room.path(), plan);
            Path file = room.path().resolve("several-systems.img");
            Composed composed = compose(plan, file, watch);
            ImageFile image = ImageFile.open(file);
            WritePlan write = WritePlan.of(
                    image,
                    image.compressedSize(),
                    target.description(),
                    new WritePlan.Options(WriteMode.USED, true, false, Optional.of(used(file))),
                    typed);
            Refused.ifAnyStops(write.findings());
            WriteReport report = WriteJob.run(workbench, write, target, Optional.empty(), watch);
            return new Made(composed.laid(), composed.starts(), composed.entries(), report);
        }
    }

    /**
     * Keeps the entries of the firmware's list, where there are some, as a store of variables among the workspace's files.
     *
     * @param drive name of the drive they are for
     * @return the file
     */
    public Optional<Path> keepEntries(Made made, String drive) throws IOException {
        if (made.entries().isEmpty()) {
            return Optional.empty();
        }
        Path folder = Files.createDirectories(workbench.folder().resolve("files"));
        Path file = folder.resolve(drive + "-variables.fd");
        for (int number = 2; Files.exists(file); number++) {
            file = folder.resolve(drive + "-variables-" + number + ".fd");
        }
        return Optional.of(Files.write(file, EfiStore.of(made.entries().get())));
    }

    private static UsedMap used(Path file) throws IOException {
        try (UnpackedImage image = UnpackedImage.open(ImageFile.open(file), false, TransferWatch.NONE)) {
            return UsedMap.of(image.device());
        }
    }

    /** What is made on the way takes the bytes its systems use, twice. */
    private void requireRoom(Path room, LayoutPlan plan) throws IOException {
        long needs = ROOM_KEPT;
        for (LayoutPlan.OneSystem system : plan.systems()) {
            try (UnpackedImage image = open(system, TransferWatch.NONE)) {
                needs += 2
                        * new SystemImage(image.device(), board(plan))
                                .facts()
                                .least()
                                .bytes();
            }
        }
        if (Files.getFileStore(room).getUsableSpace() < needs) {
            throw new NotPossible("There is no room to put the drive together in " + room.getParent() + ": it takes "
                    + ByteSize.of(needs).said() + ".");
        }
    }

    static PartitionContent root(MediumContents contents) throws UnreadableInput {
        return contents.rootPartition().orElseThrow(() -> new UnreadableInput("There is no ext root in the image."));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MachineDrive;
import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NameTaken;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.health.MediumHealth;
import exordium.core.inspection.AsRead;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.PartitionTables;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.ChangedSince;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.storage.media.CopyOn;
import exordium.core.storage.media.KnownDrives;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.Recognition;
import exordium.jobs.bench.Workbench;
import exordium.sim.VirtualDrive;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Signs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The drawer of labelled media: what each is called, where it is, what was found on it, and which of them are twins. */
public final class MediaRegister {
    private final Workbench workbench;

    public MediaRegister(Workbench workbench) {
        this.workbench = workbench;
    }

    private Media media() {
        return workbench.workspace().media();
    }

    /** A medium with everything known of it; misbehaves: what a virtual one was made to do wrong, in words. */
    public record Entry(
            Media.Medium medium,
            Media.Details details,
            Optional<String> board,
            Optional<String> family,
            List<MediumHealth.Pace> measurements,
            List<MediumHealth.Fault> faults,
            MediumHealth health,
            String misbehaves) {
        String called() {
            return MediaRegister.called(medium, details);
        }
    }

    /** All that are not retired, in the order of their labels; retired ones at the end. */
    public List<Entry> all() throws IOException {
        Map<String, Boards.Board> service = workbench.inService();
        MediaHealth health = MediaHealth.of(workbench);
        List<Entry> entries = new ArrayList<>();
        for (Media.Listed each : media().listed()) {
            Optional<Boards.Board> board =
                    Optional.ofNullable(service.get(each.medium().file()));
            Signs.History signs = health.signs(each.medium());
            entries.add(new Entry(
                    each.medium(),
                    each.details(),
                    board.map(Boards.Board::name),
                    board.map(Boards.Board::profile),
                    signs.paces(),
                    signs.faults(),
                    health.of(each, board),
                    misbehaves(each.medium())));
        }
        entries.sort(Comparator.comparing((Entry entry) -> entry.details().state() == Media.State.RETIRED)
                .thenComparing(entry -> entry.details().label().length())
                .thenComparing(entry -> entry.details().label()));
        return List.copyOf(entries);
    }

    /** Looks into a medium and puts down what is on it. */
    public Media.Details look(Media.Medium medium) throws IOException {
        Path file = workbench.driveFile(medium.file());
        if (!Files.isRegularFile(file)) {
            throw new NotPossible(medium.name() + " is not here to be looked into.");
        }
        try (BlockDevice device = FileDevice.sparse(file, medium.size())) {
            return putDown(medium, Inspector.inspect(device));
        }
    }

    /**
     * The same for a medium that is a drive of the machine; one that may not be read is known by its serial alone. Gives what
     * differs from the time before.
     */
    List<String> look(Media.Medium medium, MachineDrive drive) {
        return look(medium, drive, () -> drive.open(false));
    }

    /** The same at a deed somebody wants: where this user may not read it, whoever may allow it is asked. */
    void lookAsking(Media.Medium medium, MachineDrive drive) {
        look(medium, drive, () -> drive.openAsking(false));
    }

    private interface Opening {
        BlockDevice open() throws IOException;
    }

    private List<String> look(Media.Medium medium, MachineDrive drive, Opening opening) {
        try (BlockDevice device = opening.open()) {
            Optional<AsRead> before = workbench.readings().last(medium);
            keep(medium, device);
            new HealthJob(workbench).ask(medium, drive, device);
            List<String> changed = before.isPresent() ? changed(medium, before.get()) : List.of();
            if (!changed.isEmpty()) {
                log(
                        medium,
                        "medium-changed",
                        "is not as it was read on "
                                + LocalDate.ofInstant(before.get().at(), workbench.zone()) + ". "
                                + String.join(" ", changed));
            }
            return changed;
        } catch (IOException e) {
            log(medium, "medium-not-read", "could not be looked into: " + Sentence.of(e));
            return List.of();
        }
    }

    /** By the files its board goes by; one that is in none, by those of the first family. */
    private List<String> changed(Media.Medium medium, AsRead before) throws IOException {
        Optional<Workbench.BoardAtHand> holder = workbench.holder(medium.file());
        BoardProfile profile = holder.isPresent()
                ? holder.get().profile()
                : workbench.profiles().all().get(0);
        AsRead now = workbench.readings().last(medium).orElseThrow();
        return ChangedSince.between(
                ContentsReader.read(before.device(), profile.startFiles()),
                ContentsReader.read(now.device(), profile.startFiles()));
    }

    /** Keeps what is on a device as what the medium held at that time. */
    public Media.Details keepAsRead(Media.Medium medium, BlockDevice device, Instant at) throws IOException {
        workbench.readings().read(medium, device, at);
        return media().details(medium.id());
    }

    private Media.Details keep(Media.Medium medium, BlockDevice device) throws IOException {
        return keepAsRead(medium, device, workbench.workspace().clock().instant());
    }

    /**
     * Reads a medium that is here and keeps what is on it, so that it can be judged when it is away.
     *
     * @throws NotPossible when it is not here, or may not be read
     */
    public Media.Details read(Media.Medium medium) throws IOException {
        if (Files.isRegularFile(workbench.driveFile(medium.file()))) {
            Media.Details now = look(medium);
            new HealthJob(workbench).ask(medium);
            return now;
        }
        for (MachineDrive drive :
                workbench.machine().drives().list(workbench.workspace().folder())) {
            boolean isIt = drive.fixed().isEmpty()
                    && (recognise(drive).filter(medium::equals).isPresent() || asked(medium, drive));
            if (isIt) {
                try (BlockDevice device = drive.openAsking(false)) {
                    Media.Details now = keep(medium, device);
                    new HealthJob(workbench).ask(medium, drive, device);
                    log(medium, "medium-read", "was read as " + drive.id() + "; it holds " + now.holds() + ".");
                    return now;
                }
            }
        }
        throw new NotPossible(called(medium) + " is not here; plug it into this machine and try again.");
    }

    private Media.Details putDown(Media.Medium medium, DriveInspection inspection) {
        return workbench
                .readings()
                .putDown(medium, inspection, workbench.workspace().clock().instant());
    }

    /** Looks into every medium that is here. */
    public List<Finding> lookIntoAll() throws IOException {
        for (Media.Medium medium : media().all()) {
            if (Files.isRegularFile(workbench.driveFile(medium.file()))) {
                look(medium);
            }
        }
        return twins();
    }

    /** Which media that are not retired have one and the same identifier, as they were last looked into. */
    public List<Finding> twins() throws IOException {
        return MediaTwins.among(all());
    }

    /** The medium that a drive is, by its serial, else by the identifier on it; empty where it was never here. */
    public Optional<Media.Medium> recognise(Path drive) throws IOException {
        boolean virtual = VirtualDrive.isOne(drive);
        String serial =
                virtual ? VirtualDrive.describe(workbench.reader(), drive).serial() : "";
        Optional<Media.Medium> bySerial = media().bySerial(serial);
        if (bySerial.isPresent()) {
            return bySerial;
        }
        try (BlockDevice device = FileDevice.forReading(drive)) {
            return byIdentifier(device, serial, Optional.of(device.size()).filter(size -> virtual));
        }
    }

    /** The same for a drive of the machine; nobody is asked for leave to read it. */
    public Optional<Media.Medium> recognise(MachineDrive drive) {
        return workbench.recognition().of(drive);
    }

    /**
     * The same at a deed somebody wants: where this user may not read the drive and the system tells too little of it, whoever may
     * allow it is asked.
     *
     * @throws Refused when leave is not given
     */
    Optional<Media.Medium> recogniseAsking(MachineDrive drive) throws IOException {
        Optional<Media.Medium> known = recognise(drive);
        if (known.isPresent() || Files.isReadable(drive.node())) {
            return known;
        }
        try (BlockDevice device = drive.openAsking(false)) {
            return byIdentifier(device, drive.serial(), Optional.of(drive.size()));
        }
    }

    /** One of another size, or that tells another serial, is not worth a question. */
    private boolean asked(Media.Medium medium, MachineDrive drive) throws IOException {
        return medium.serial().isEmpty()
                && drive.serial().isEmpty()
                && drive.size().equals(medium.size())
                && recogniseAsking(drive).filter(medium::equals).isPresent();
    }

    /** What several media that cannot be told apart are called, where a drive could be each of them; none is guessed. */
    public List<String> alike(MachineDrive drive) {
        return media().alike(Recognition.identifier(drive), drive.serial(), Optional.of(drive.size())).stream()
                .map(each -> called(each.medium(), each.details()))
                .toList();
    }

    private Optional<Media.Medium> byIdentifier(BlockDevice device, String serial, Optional<ByteSize> size)
            throws IOException {
        return media().byDiskId(PartitionTables.read(device).diskId().map(DiskIdentifier::text), serial, size);
    }

    /** Gives every medium without one the next free label: M1, M2, ... */
    public void labelAll() {
        for (Media.Listed each : media().listed()) {
            Media.Details details = each.details();
            if (details.label().isEmpty()) {
                media().put(each.medium().id(), with(details, nextLabel(), details.state(), details.note()));
            }
        }
    }

    private String nextLabel() {
        List<String> taken =
                media().listed().stream().map(each -> each.details().label()).toList();
        int number = 1;
        while (taken.contains("M" + number)) {
            number++;
        }
        return "M" + number;
    }

    /** @throws UnreadableInput when it is too long to print, or another medium has it */
    public void label(Media.Medium medium, String label) throws UnreadableInput {
        String wanted = label.strip();
        if (!wanted.matches("[\\p{L}\\p{N}][\\p{L}\\p{N} .-]{0,11}")) {
            throw new BadArgument(
                    "\"" + label + "\" is no label: one to twelve letters, digits, dots or dashes.", label);
        }
        for (Media.Listed other : media().listed()) {
            if (!other.medium().id().equals(medium.id())
                    && other.details().label().equalsIgnoreCase(wanted)) {
                throw new NameTaken(
                        "The label " + wanted + " is on " + other.medium().name() + " already.", wanted);
            }
        }
        Media.Details details = media().details(medium.id());
        media().put(medium.id(), with(details, wanted, details.state(), details.note()));
    }

    /** Lent to somebody or somewhere, back again, or retired and why. A medium in a board is neither lent nor retired. */
    public void state(Media.Medium medium, Media.State state, String note) throws IOException {
        Optional<Workbench.BoardAtHand> holder = workbench.holder(medium.file());
        if (state != Media.State.HERE && holder.isPresent()) {
            throw new NotPossible(called(medium) + " is in service at "
                    + holder.get().register().name() + "; take it out of there first.");
        }
        Media.Details details = media().details(medium.id());
        media().put(medium.id(), with(details, details.label(), state, note.strip()));
        log(
                medium,
                "medium-" + state.code(),
                switch (state) {
                    case HERE -> "is back in the drawer.";
                    case LENT -> "is lent" + (note.isBlank() ? "." : " to " + note.strip() + ".");
                    case RETIRED -> "is retired" + (note.isBlank() ? "." : ": " + note.strip() + ".");
                });
    }

    /** Two entries that turned out to be one thing. */
    public void merge(Media.Medium from, Media.Medium into) throws IOException {
        if (from.id().equals(into.id())) {
            throw new UnreadableInput(called(from) + " cannot be merged with itself.");
        }
        if (workbench.holder(from.file()).isPresent()) {
            throw new NotPossible(called(from) + " is in service; merge the other one into it.");
        }
        media().merge(from.id(), into.id());
        log(into, "medium-merged", "and " + called(from) + " are one; what was known of both is kept here.");
    }

    /** Whether what is on one medium can be copied on to another, from the real bytes. */
    public Finding copyOn(Media.Medium from, Media.Medium to) throws IOException {
        DriveInspection inspection;
        try (BlockDevice device = FileDevice.sparse(workbench.driveFile(from.file()), from.size())) {
            inspection = Inspector.inspect(device);
        }
        return CopyOn.check(
                called(from), from.size(), inspection.leastMedium(), inspection.used(), called(to), to.size());
    }

    /** What people call it: its label and its name. */
    public String called(Media.Medium medium) {
        return called(medium, media().details(medium.id()));
    }

    private static String called(Media.Medium medium, Media.Details details) {
        return details.label().isEmpty() ? medium.name() : medium.name() + " " + details.label();
    }

    private static Media.Details with(Media.Details was, String label, Media.State state, String note) {
        return new Media.Details(label, state, note, was.since(), was.diskId(), was.holds(), was.lookedAt());
    }

    /** Where it lies when it is in no board. */
    public void place(Media.Medium medium, String place) {
        media().place(medium.id(), place.strip());
    }

    /** Puts down whether a kind of drive works with a family of boards. */
    public void known(KnownDrives.Known seen) {
        workbench.workspace().roles().known(seen);
        tell(
                "drive-known",
                seen.name() + (seen.works() ? " works with a " : " does not work with a ") + seen.profile() + ".");
    }

    /** Puts down something about the drawer as a whole. */
    public void tell(String kind, String text) {
        workbench.workspace().log().add(Optional.empty(), Step.STORAGE, kind, text, Optional.empty());
    }

    /** What a virtual drive was made to do wrong, in words; empty where it is sound, or none. */
    private String misbehaves(Media.Medium medium) {
        try {
            Path file = workbench.driveFile(medium.file());
            return VirtualDrive.isOne(file) ? VirtualDrive.faultsInWords(workbench.reader(), file) : "";
        } catch (IOException e) {
            return "its description cannot be read";
        }
    }

    void log(Media.Medium medium, String kind, String text) {
        String words = called(medium) + " " + text;
        workbench.workspace().log().add(Optional.empty(), Step.STORAGE, kind, words, Optional.empty());
    }
}

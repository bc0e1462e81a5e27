// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.access.BoardState;
import exordium.core.block.Machine;
import exordium.core.block.MachineDrive;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareCatalogue;
import exordium.core.firststart.lint.TriedPasswords;
import exordium.core.firststart.settings.StockForms;
import exordium.core.health.MediumHealth;
import exordium.core.passage.PartsCatalogue;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Works;
import exordium.sim.VirtualDrive;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.WeakHashMap;
import java.util.function.Predicate;

/** An open workspace with the profiles that go with it; what every job works on. */
public final class Workbench implements AutoCloseable {
    private final Readings readings = new Readings(this);
    private final Workspace workspace;
    private final ProfileReader reader;
    private volatile Lazy<BoardProfiles> profiles;
    private volatile BoardProfiles families;
    private final Lazy<MediaCatalogue> media;
    private final Lazy<PartsCatalogue> parts;
    private volatile Lazy<FirmwareCatalogue> firmware;
    private final ZoneId zone;
    private final List<String> unreadable;
    private final Machine machine;
    private final BoardFiles boards = new BoardFiles(this);
    private final Map<Targets.Target, Optional<Media.Medium>> byContents =
            Collections.synchronizedMap(new WeakHashMap<>());

    private Workbench(
            Workspace workspace,
            ProfileReader reader,
            Lazy<BoardProfiles> profiles,
            Lazy<MediaCatalogue> media,
            Lazy<PartsCatalogue> parts,
            ZoneId zone,
            List<String> unreadable,
            Machine machine) {
        this.machine = machine;
        this.unreadable = List.copyOf(unreadable);
        this.workspace = workspace;
        this.reader = reader;
        this.profiles = profiles;
        this.media = media;
        this.parts = parts;
        this.firmware = catalogue();
        this.zone = zone;
    }

    /** Whether there is a workspace in a folder; looking makes none. */
    public static boolean isWorkspace(Path folder) {
        return Workspace.isOne(folder);
    }

    /** Where a workspace is when nobody names a folder. */
    public static Path usualFolder() {
        return Workspace.usualFolder();
    }

    @Override
    public void close() {
        workspace.close();
    }

    /**
     * What ships is read when it is first asked for; what the user added is read now, so that a fault in it is told at once.
     * The zone is where the user's days begin and end.
     */
    public static Workbench of(Workspace workspace, ZoneId zone, Machine machine) throws IOException {
        List<String> unreadable = new ArrayList<>();
        ProfileReader reader = new ProfileReader();
        Lazy<BoardProfiles> profiles = new Lazy<>(BoardProfiles::shipped);
        Path boards = workspace.folder().resolve("profiles");
        if (holdsAny(boards)) {
            BoardProfiles both = profiles.get().withFolder(reader, boards);
            unreadable.addAll(both.unreadable());
            profiles = new Lazy<>(() -> both);
        }
        Lazy<MediaCatalogue> media = new Lazy<>(MediaCatalogue::shipped);
        Path kinds = boards.resolve("media");
        if (holdsAny(kinds)) {
            MediaCatalogue both = media.get().withFolder(reader, kinds, wrong -> unreadable.add(Sentence.of(wrong)));
            media = new Lazy<>(() -> both);
        }
        Lazy<PartsCatalogue> parts = new Lazy<>(PartsCatalogue::shipped);
        Path own = boards.resolve("parts");
        if (holdsAny(own)) {
            PartsCatalogue both = parts.get().withFolder(reader, own, wrong -> unreadable.add(Sentence.of(wrong)));
            parts = new Lazy<>(() -> both);
        }
        return new Workbench(workspace, reader, profiles, media, parts, zone, unreadable, machine);
    }

    private static boolean holdsAny(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return false;
        }
        try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*.yaml")) {
            return files.iterator().hasNext();
        }
    }

    public Workspace workspace() {
        return workspace;
    }

    /** What is on record. */
    public Records records() {
        return new Records(this);
    }

    /** House rules and the like, as they are now; what is decided by them is kept at once. */
    public HouseRules rules() {
        return new HouseRules(workspace.settings().all(), workspace.settings()::put);
    }

    /** Keeps what was decided, under its key. */
    public void keep(String key, String value) {
        workspace.settings().put(key, value);
    }

    /** The workspace's folder. */
    public Path folder() {
        return workspace.folder();
    }

    public Path drives() {
        return workspace.drives();
    }

    public Path images() {
        return workspace.images();
    }

    public Path vault() {
        return workspace.vault();
    }

    /** Where the vault lies, and whether it is there. */
    public VaultStanding standing() {
        return new VaultStanding(workspace);
    }

    /** The machine this runs on. */
    public Machine machine() {
        return machine;
    }

    public Clock clock() {
        return workspace.clock();
    }

    public ProfileReader reader() {
        return reader;
    }

    /** What is wrong with those of the user's own files that could not be read; the rest counts. */
    public List<String> unreadable() {
        return unreadable;
    }

    /** Reads the families anew, the workspace's own among them: one was described. */
    public void profilesChanged() throws IOException {
        BoardProfiles now = BoardProfiles.shipped().withFolder(reader, folder().resolve("profiles"));
        profiles = new Lazy<>(() -> now);
        families = null;
    }

    /** Those that ship, with its user's own; read when they are asked for. */
    public TriedPasswords triedPasswords() throws IOException {
        return TriedPasswords.with(folder().resolve("profiles"));
    }

    /** With what the releases of their firmware enable, starts that were timed, and settings as images brought them. */
    public BoardProfiles profiles() {
        BoardProfiles known = families;
        if (known == null) {
            FirmwareCatalogue releases = firmware();
            MeasuredStarts measured = measuredStarts();
            List<StockForms.Form> forms = new StockShelf(folder(), reader).all();
            known = profiles.get()
                    .mapped(family -> StockShelf.with(
                            measured.calibrated(family.enabledBy(releases.enabled(family.id()))), forms));
            families = known;
        }
        return known;
    }

    /** What comes onto the families from elsewhere is put together anew. */
    public void familiesChanged() {
        families = null;
    }

    public MediaCatalogue media() {
        return media.get();
    }

    /** What work on boards needs beside media, enclosures among it. */
    public PartsCatalogue parts() {
        return parts.get().with(media().enclosures());
    }

    /** What is put down to work or to fail; nothing where the list cannot be read, which its own command says. */
    public Works works() {
        try {
            return new WorksShelf(folder(), reader).all();
        } catch (IOException e) {
            return Works.NONE;
        }
    }

    /** Starts that were timed on boards. */
    public MeasuredStarts measuredStarts() {
        return new MeasuredStarts(folder(), reader);
    }

    public FirmwareCatalogue firmware() {
        return firmware.get();
    }

    public ZoneId zone() {
        return zone;
    }

    public LocalDate today() {
        return LocalDate.ofInstant(workspace.clock().instant(), zone);
    }

    /** A board of the register with its profile and the board itself. */
    public record BoardAtHand(Boards.Board register, BoardProfile profile, BoardState board) {
        /** The value of its start order, wherever this family keeps it. */
        public String order() {
            return board.chip().config().value(profile.order().key()).orElse("");
        }

        public Optional<String> stagedOrder() {
            return board.chip()
                    .stagedConfig()
                    .flatMap(config -> config.value(profile.order().key()))
                    .filter(value -> !value.equals(order()));
        }
    }

    public BoardAtHand board(String id) throws IOException {
        return atHand(workspace.boards().require(id));
    }

    public BoardAtHand atHand(Boards.Board register) throws IOException {
        return new BoardAtHand(register, profiles.get().require(register.profile()), boards.loaded(register.id()));
    }

    /** Files of boards, and what is done to boards by their ways. */
    public BoardFiles boards() {
        return boards;
    }

    /** What can be reached from this workspace: its drives, files, and those of the machine where the house rules allow them. */
    public Targets targets() {
        return new Targets(reader, machine.drives(), folder(), rules().realDrives()).recognisedBy(recognition());
    }

    /** Which medium of the register a drive of this machine is. */
    public Recognition recognition() {
        return new Recognition(workspace, machine);
    }

    public FirmwareShelf firmwareShelf() {
        return new FirmwareShelf(folder().resolve("firmware"), reader);
    }

    /** A release came or went. */
    public void firmwareChanged() {
        firmware = catalogue();
        families = null;
    }

    private Lazy<FirmwareCatalogue> catalogue() {
        return new Lazy<>(() -> {
            try {
                return firmwareShelf().catalogue(new ArrayList<>());
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /** Media as they were last read. */
    public Readings readings() {
        return readings;
    }

    public Path driveFile(String file) {
        return workspace.drives().resolve(file);
    }

    /** Whether a medium's bytes are a drive of the workspace, so that something can be done to it. */
    public boolean isHere(Media.Medium medium) {
        return VirtualDrive.isOne(driveFile(medium.file()));
    }

    /** The medium a board starts from: the first drive plugged in, in the order of the board's ports. */
    public Optional<Media.Medium> mainMedium(BoardAtHand board) {
        return mainMedium(board, workspace.media().listed());
    }

    public static Optional<Media.Medium> mainMedium(BoardAtHand board, List<Media.Listed> media) {
        return board.profile().ports().stream()
                .flatMap(port -> board.board().attached().stream()
                        .filter(plug -> plug.port().equals(port.id())))
                .findFirst()
                .flatMap(plug -> RegisterSnapshot.byFile(media, plug.drive()));
    }

    /**
     * The register's entry behind a target: a drive of the workspace by its file, one of the machine as {@link Recognition} has it, or
     * as it was when it was asked for first; a target that is being written stays the medium it was.
     */
    public Optional<Media.Medium> registered(Targets.Target target) {
        if (!target.simulated() && !target.serial().isEmpty()) {
            return workspace.media().bySerial(target.serial());
        }
        Optional<MachineDrive> drive = target.opener().ofMachine();
        if (drive.isPresent()) {
            // Refused drives are not even looked at.
            return Finding.anyStops(target.description().refusals())
                    ? Optional.empty()
                    : byContents.computeIfAbsent(target, asked -> recognition().of(drive.get()));
        }
        Path path = target.description().path();
        boolean ours = path.toAbsolutePath()
                .normalize()
                .startsWith(workspace.drives().toAbsolutePath().normalize());
        return ours ? workspace.media().byFile(String.valueOf(path.getFileName())) : Optional.empty();
    }

    /** A drive of the machine was taken into the register, or out of it. */
    public void recogniseAnew(Targets.Target target) {
        byContents.remove(target);
    }

    /** The board that a drive of the workspace is plugged into. */
    public Optional<BoardAtHand> holder(String driveFile) throws IOException {
        Optional<Boards.Board> holder = Optional.ofNullable(inService().get(driveFile));
        return holder.isEmpty() ? Optional.empty() : Optional.of(atHand(holder.get()));
    }

    /** Which drive of the workspace is in which board. */
    public Map<String, Boards.Board> inService() throws IOException {
        Map<String, Boards.Board> service = new HashMap<>();
        for (Boards.Board register : workspace.boards().all()) {
            atHand(register).board().attached().forEach(plug -> service.put(plug.drive(), register));
        }
        return service;
    }

    /** The name of the board each drive of the workspace is in, by the drive's file. */
    public Map<String, String> inServiceAt() throws IOException {
        Map<String, String> names = new HashMap<>();
        inService().forEach((drive, board) -> names.put(drive, board.name()));
        return names;
    }

    /** The day of the newest proven copy of a medium that is in the vault. */
    public Optional<LocalDate> lastCopyOf(String medium) throws IOException {
        Path vault = workspace.vault();
        Predicate<Copies.Copy> counts = VaultStanding.counting(vault, standing().away());
        return workspace.copies().all().stream()
                .filter(copy -> copy.medium().filter(medium::equals).isPresent())
                .filter(counts)
                .reduce((first, last) -> last)
                .map(copy -> LocalDate.ofInstant(copy.proven(), zone));
    }

    /** All kinds of medium that are known. */
    public List<MediumKind> kinds() {
        return media.get().kinds();
    }

    /** @throws UnreadableInput naming the kind */
    public MediumKind kind(String id) throws UnreadableInput {
        return media.get()
                .kind(id)
                .orElseThrow(() -> new UnknownName(
                        "There is no kind of medium \"" + id + "\".",
                        id,
                        media.get().kinds().stream().map(MediumKind::id).toList()));
    }

    /** What usually goes into a port. */
    public MediumKind usualKind(BoardProfile.Port port) {
        return media.get().kinds().stream()
                .filter(each -> port.buses().contains(each.bus()))
                .findFirst()
                .orElseThrow();
    }

    /** As it is up for choice, by what was measured of it. */
    public MediumKind.Medium asCandidate(Media.Medium medium, List<MediumHealth.Pace> measured) throws UnreadableInput {
        return new MediumKind.Medium(
                medium.id(),
                medium.name(),
                kind(medium.kind()),
                medium.size(),
                medium.ratedWrites(),
                medium.written(),
                0,
                last(measured, "read"),
                last(measured, "write"),
                Optional.empty());
    }

    /** The pace a medium was last measured at; kind: read or write. */
    public Optional<ByteRate> measured(String medium, String kind) {
        return last(workspace.signs().of(medium).paces(), kind);
    }

    private static Optional<ByteRate> last(List<MediumHealth.Pace> measured, String kind) {
        return measured.stream()
                .filter(each -> each.kind().equals(kind))
                .reduce((first, last) -> last)
                .map(MediumHealth.Pace::rate);
    }
}

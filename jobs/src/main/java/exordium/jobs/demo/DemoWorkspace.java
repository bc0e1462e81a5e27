// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.demo;

import exordium.core.access.BoardFile;
import exordium.core.access.BoardState;
import exordium.core.access.BoardWays;
import exordium.core.access.CarrierKind;
import exordium.core.access.Knowledge;
import exordium.core.access.Known;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareChip;
import exordium.core.image.PublishedChecksum;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.writing.Ending;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.run.Opening;
import exordium.jobs.shelf.Intake;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;

/** Makes the demo workspace from what ships: real images and drives, boards in every state of health, a year of log. */
public final class DemoWorkspace {
    static final String DEMO = "/exordium/demo/";
    /** A folder without this file was not made here, and is not deleted here. */
    private static final String MARK = ".exordium-demo";

    private final ProfileReader reader = new ProfileReader();
    private final DemoScenario scenario = reader.shipped(DemoScenario.RESOURCE, DemoScenario.class);
    private final Workspace workspace;
    private final Instant now;

    private DemoWorkspace(Workspace workspace) {
        this.workspace = workspace;
        this.now = workspace.clock().instant();
    }

    /**
     * Makes the demo in a folder that is new or empty.
     *
     * @param reset whether an earlier demo in it is deleted first
     * @throws UnreadableInput when the folder holds something else, or a demo that is not to be reset
     */
    public static Workbench make(Path folder, boolean reset, Clock clock, ZoneId zone) throws IOException {
        if (isDemo(folder)) {
            if (!reset) {
                throw new NotPossible("There is a demo workspace in " + folder + " already; --reset makes it afresh.");
            }
            Folders.delete(folder);
        } else if (Files.isDirectory(folder) && !isEmpty(folder)) {
            throw new UnreadableInput(folder + " holds something else; the demo needs a new or empty folder.");
        }
        Files.createDirectories(folder);
        Files.writeString(folder.resolve(MARK), "Made by exordium demo; deleted whole by exordium demo --reset.\n");
        Workspace workspace = Workspace.open(folder, clock);
        new DemoWorkspace(workspace).fill();
        return Opening.of(workspace, zone);
    }

    public static boolean isDemo(Path folder) {
        return Files.isRegularFile(folder.resolve(MARK));
    }

    private void fill() throws IOException {
        HouseRules rules = new HouseRules(workspace.settings().all(), workspace.settings()::put);
        rules.workspaceName(scenario.name());
        // Nothing in the demo begins by itself.
        rules.dueRuns(false);
        rules.reminders(false);
        for (DemoScenario.DemoMedium medium : scenario.media()) {
            if (medium.readDays().isEmpty()) {
                drive(medium);
            } else {
                put(medium, fileOf(medium.id()));
            }
        }
        for (DemoScenario.DemoBoard board : scenario.boards()) {
            board(board);
        }
        images();
        history();
        new DemoCopies(workspace, scenario, now).put();
        register();
        DemoPlans.make(Opening.of(workspace, ZoneOffset.UTC), reader);
    }

    /** Labels, what is on each medium, and how quick it was when it was written and since. */
    private void register() throws IOException {
        MediaRegister register = new MediaRegister(Opening.of(workspace, ZoneOffset.UTC));
        register.labelAll();
        register.lookIntoAll();
        for (DemoScenario.DemoMedium medium : scenario.media()) {
            if (medium.readDays().isPresent()) {
                away(register, medium);
            }
        }
        for (DemoScenario.DemoWrite write : scenario.writes()) {
            DemoScenario.DemoMedium medium = scenario.media().stream()
                    .filter(each -> each.id().equals(write.medium()))
                    .findFirst()
                    .orElseThrow();
            double worn =
                    (double) medium.written().bytes() / medium.ratedWrites().bytes();
            for (int back = 2; back >= 0; back--) {
                // A worn card has slowed down since it was young.
                double pace = 0.97 - 0.35 * worn * (2 - back) / 2;
                Instant at = ago(write.days() + 100 * back);
                workspace
                        .signs()
                        .measured(
                                medium.id(),
                                at,
                                "write",
                                new ByteRate(medium.writeRate().bytesPerSecond() * pace));
                workspace
                        .signs()
                        .measured(
                                medium.id(),
                                at,
                                "read",
                                new ByteRate(medium.readRate().bytesPerSecond() * pace));
            }
        }
        for (DemoScenario.DemoEntry entry : scenario.history()) {
            if (entry.kind().equals("read-errors")) {
                scenario.writes().stream()
                        .filter(write -> write.board().equals(entry.board()))
                        .findFirst()
                        .ifPresent(write -> workspace.signs().fault(write.medium(), ago(entry.days()), entry.text()));
            }
        }
    }

    /** A real medium that was read here and taken away again: its bytes are laid out, read, and gone. */
    private void away(MediaRegister register, DemoScenario.DemoMedium medium) throws IOException {
        Path laid = Files.createTempFile(workspace.folder(), "away", ".img");
        try {
            pour(medium.contents().orElseThrow(), laid);
            try (BlockDevice device = FileDevice.sparse(laid, medium.size())) {
                register.keepAsRead(
                        workspace.media().require(medium.id()),
                        device,
                        ago(medium.readDays().orElseThrow()));
            }
        } finally {
            Files.delete(laid);
        }
    }

    private void drive(DemoScenario.DemoMedium medium) throws IOException {
        Path file = workspace.drives().resolve(fileOf(medium.id()));
        String bus = MediaCatalogue.shipped().kind(medium.kind()).orElseThrow().bus();
        VirtualDrive.create(
                reader,
                file,
                new DriveDescription(
                        medium.name(),
                        bus,
                        medium.serial(),
                        medium.size(),
                        Optional.of(medium.writeRate()),
                        Optional.of(medium.readRate()),
                        List.of()));
        if (medium.contents().isPresent()) {
            pour(medium.contents().get(), file);
        }
        put(medium, fileOf(medium.id()));
    }

    private void put(DemoScenario.DemoMedium medium, String file) {
        workspace
                .media()
                .add(new Media.Medium(
                        medium.id(),
                        medium.name(),
                        medium.kind(),
                        medium.serial(),
                        medium.size(),
                        file,
                        Optional.of(medium.ratedWrites()),
                        medium.written(),
                        medium.place()));
    }

    /** A real one goes by its serial; it has no file here. */
    private String fileOf(String medium) {
        return scenario.media().stream()
                .filter(each -> each.id().equals(medium) && each.readDays().isPresent())
                .findFirst()
                .map(each -> "drive:" + each.serial())
                .orElse(medium + ".img");
    }

    /** The shipped form of a drive: a zip whose entries are named by the byte they begin at. */
    private static void pour(String contents, Path file) throws IOException {
        try (ZipInputStream zip = new ZipInputStream(shipped("drives/" + contents + ".zip"));
                FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                ByteBuffer bytes = ByteBuffer.wrap(zip.readAllBytes());
                long at = Long.parseLong(entry.getName());
                while (bytes.hasRemaining()) {
                    at += channel.write(bytes, at);
                }
            }
        }
    }

    private void board(DemoScenario.DemoBoard board) throws IOException {
        workspace
                .boards()
                .add(new Boards.Board(
                        board.id(),
                        board.name(),
                        board.place(),
                        board.profile(),
                        board.channel().orElse(Channel.DEFAULT),
                        board.lightlyUsed(),
                        board.slotReachable().orElse(true),
                        board.dailyWrites(),
                        board.toldDays().isPresent() ? BoardWays.byHand() : BoardWays.simulated(),
                        board.toldDays().isPresent()
                                ? "Lights the slipway at dusk; its box is opened with the square key."
                                : ""));
        List<BoardState.Plug> plugs = board.drive()
                .map(drive -> List.of(new BoardState.Plug(
                        board.port().orElseThrow(),
                        fileOf(drive),
                        kindOf(drive),
                        board.carrier().flatMap(CarrierKind::named).orElse(CarrierKind.ANNOUNCING),
                        true)))
                .orElse(List.of());
        BoardState state = new BoardState(
                board.profile(),
                board.memory(),
                board.serial(),
                board.mac(),
                board.supply(),
                FirmwareChip.running(board.firmware(), board.config()),
                board.overlay(),
                plugs,
                Optional.empty(),
                board.toldDays().map(days -> told(days, board)).orElse(Knowledge.NOTHING));
        new BoardFile(reader, workspace.boardFile(board.id())).create(state);
        board.setting().ifPresent(where -> workspace
                .roles()
                .put(
                        board.id(),
                        Role.USUAL
                                .withDailyWrites(board.dailyWrites())
                                .withSlotReachable(board.slotReachable().orElse(true))
                                .withOverlay(board.overlay())
                                .withPlace(where)));
    }

    /** Of its firmware and its start somebody told; of its order nobody has. */
    private Knowledge told(int days, DemoScenario.DemoBoard board) {
        Instant at = ago(days);
        return new Knowledge(
                Optional.of(Known.told(at)),
                Optional.of(Known.byDefault(ago(days + 2))),
                Optional.of(Knowledge.Seen.of("/dev/mmcblk0p2", Known.told(at))),
                board.port().map(port -> Knowledge.Seen.of(port, Known.told(at))),
                Optional.empty());
    }

    private String kindOf(String medium) {
        return scenario.media().stream()
                .filter(each -> each.id().equals(medium))
                .findFirst()
                .orElseThrow()
                .kind();
    }

    private void images() throws IOException {
        List<String> names = Arrays.asList(
                "marshlinux-2026.10-lite",
                "marshlinux-2026.04-lite",
                "marshlinux-2025.11-lite-32",
                "fenix-lite-2026.07",
                "dunlin-vm-7.2");
        try (InputStream sums = shipped("images/SHA256SUMS")) {
            Files.copy(sums, workspace.images().resolve("SHA256SUMS"));
        }
        for (String name : names) {
            Path file = workspace.images().resolve(name + ".img.xz");
            try (InputStream stream = shipped("images/" + name + ".img.xz")) {
                Files.copy(stream, file);
            }
            shelve(name, file);
        }
    }

    private void history() {
        for (DemoScenario.DemoWrite write : scenario.writes()) {
            String target = fileOf(write.medium());
            workspace
                    .operations()
                    .addPast(ago(write.days()), write.board(), write.medium(), target, write.image(), write.ending());
            boolean verified = write.ending() == Ending.VERIFIED;
            log(
                    write.days(),
                    write.board(),
                    Step.IMAGE,
                    "write-" + write.ending().code(),
                    write.image() + " to " + nameOf(write.medium()) + ": "
                            + (verified ? "every byte was read back and agrees." : "written, not read back."));
        }
        for (DemoScenario.DemoEntry entry : scenario.history()) {
            Step step = Arrays.stream(Step.values())
                    .filter(each -> each.code().equals(entry.step()))
                    .findFirst()
                    .orElseThrow();
            log(entry.days(), entry.board(), step, entry.kind(), entry.text());
        }
    }

    private void log(int days, String board, Step step, String kind, String text) {
        workspace.log().addPast(ago(days), Optional.of(board), step, kind, text, Optional.empty());
    }

    private Instant ago(int days) {
        return now.minus(Duration.ofDays(days));
    }

    private String nameOf(String medium) {
        return scenario.media().stream()
                .filter(each -> each.id().equals(medium))
                .findFirst()
                .orElseThrow()
                .name();
    }

    private static InputStream shipped(String name) {
        InputStream stream = DemoWorkspace.class.getResourceAsStream(DEMO + name);
        if (stream == null) {
            throw new IllegalStateException("not shipped: " + name);
        }
        return stream;
    }

    private static boolean isEmpty(Path folder) throws IOException {
        try (Stream<Path> entries = Files.list(folder)) {
            return entries.findAny().isEmpty();
        }
    }

    private void shelve(String id, Path file) throws IOException {
        workspace
                .imageShelf()
                .add(Intake.shelved(
                        id, file.getFileName().toString(), file, PublishedChecksum.check(file), TransferWatch.NONE));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.TransferWatch;
import exordium.core.block.linux.LinuxDrives;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.layout.PartitionTables;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Ending;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.media.DriveWork;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.run.Opening;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Deeds that are cut off at each of their writes in turn, with the page under way torn in two: at the next opening of the
 * workspace the medium is as it was or as it was to be, what is told of it is true, and nothing is left over.
 */
class KilledDeedsTest {
    private static final int MOST_WRITES = 2000;

    @TempDir
    Path folder;

    private Path made;
    private Path drive;
    private Workspace workspace;
    private Workbench bench;

    @BeforeEach
    void medium() throws IOException {
        made = new DiskBuilder(folder)
                .id("7c41e0b2")
                .root("etc/fstab", "PARTUUID=7c41e0b2-02 / ext4 defaults 0 1\n# a note of some length\n")
                .build("made.img");
        open();
        drive = workspace.drives().resolve("card.img");
        VirtualDrive.create(
                new ProfileReader(), drive, DriveDescription.plain("card", "sd", ByteSize.of(96 * DiskBuilder.MIB)));
        workspace
                .media()
                .add(new Media.Medium(
                        "card",
                        "Tidewell card",
                        "card-quick",
                        "",
                        ByteSize.of(96 * DiskBuilder.MIB),
                        "card.img",
                        Optional.empty(),
                        ByteSize.ZERO,
                        "drawer"));
        fresh();
    }

    private void open() throws IOException {
        workspace = Workspace.open(folder.resolve("house"), House.CLOCK);
        bench = Opening.of(workspace, ZoneOffset.UTC);
    }

    private void fresh() throws IOException {
        byte[] content = Arrays.copyOf(Files.readAllBytes(made), (int) (96 * DiskBuilder.MIB));
        Files.write(drive, content);
    }

    /** Dies at its n-th write, of which the first half still goes through. */
    private static final class Dying extends DelegatingDevice {
        private int left;

        Dying(BlockDevice inner, int writes) {
            super(inner);
            this.left = writes;
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            if (left-- <= 0) {
                int half = Math.max(512, source.remaining() / 2 / 512 * 512);
                super.write(position, source.slice(source.position(), Math.min(half, source.remaining())));
                throw new Killed();
            }
            super.write(position, source);
        }
    }

    private static final class Killed extends Error {
        private static final long serialVersionUID = 1L;
    }

    private interface Deed {
        void on(Targets.Target target) throws IOException;
    }

    private Targets.Target target(int writes) throws IOException {
        Targets.Target plain =
                new Targets(bench.reader(), new LinuxDrives(), workspace.folder(), false).at(drive, ByteSize.ZERO);
        return new Targets.Target(
                plain.description(),
                plain.simulated(),
                plain.serial(),
                forWriting -> new Dying(plain.opener().open(forWriting), writes));
    }

    /** True when it came to its end before it died. */
    private boolean survives(int writes, Deed deed) throws IOException {
        try {
            deed.on(target(writes));
            return true;
        } catch (Killed e) {
            pretendGone();
            open();
            return false;
        }
    }

    /** The process of every row that runs is one that was never there. */
    private void pretendGone() {
        try (Connection connection = DriverManager.getConnection(
                        "jdbc:sqlite:" + workspace.folder().resolve("exordium.db"));
                Statement statement = connection.createStatement()) {
            statement.executeUpdate("UPDATE operation SET process = 999999999 WHERE ending = 'running'");
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }

    private void nothingLeft() throws IOException {
        try (Stream<Path> all = Files.walk(workspace.folder())) {
            assertThat(all.map(Path::toString)
                            .filter(name -> name.endsWith(".pages")
                                    || name.endsWith(".new")
                                    || name.endsWith(".part")
                                    || name.endsWith(".broken")))
                    .isEmpty();
        }
        assertThat(workspace.operations().all())
                .extracting(Operations.Operation::ending)
                .doesNotContain(Ending.RUNNING);
    }

    /** Cut off at the first write, the second, and so on until it comes through; what it is then must be one of these. */
    private int everywhere(Deed deed, byte[] before, String after) throws IOException {
        int writes = 0;
        while (true) {
            assertThat(writes).isLessThan(MOST_WRITES);
            fresh();
            boolean through = survives(writes, deed);
            String what = "cut off at write " + writes;
            if (!Arrays.equals(Files.readAllBytes(drive), before)) {
                assertThat(state()).as(what).isEqualTo(after);
            }
            nothingLeft();
            if (through) {
                return writes;
            }
            assertThat(workspace.log().all().stream().map(entry -> entry.kind()))
                    .anyMatch(kind -> kind.endsWith("-interrupted"));
            writes++;
        }
    }

    /** What the deed makes of it when nothing goes wrong. */
    private String whole(Deed deed) throws IOException {
        fresh();
        assertThat(survives(MOST_WRITES, deed)).isTrue();
        return state();
    }

    /** Table and files as general tools see them; only when a file was last changed is left out. */
    private String state() throws IOException {
        String table = GeneralTools.run("sfdisk", "-d", drive.toString());
        if (table.contains("label: gpt")) {
            GeneralTools.run("sgdisk", "-v", drive.toString());
            return table;
        }
        String fat = drive + "@@" + 4 * DiskBuilder.MIB;
        Path slice = folder.resolve("slice.fat");
        GeneralTools.run("dd", "if=" + drive, "of=" + slice, "bs=1M", "skip=4", "count=40", "status=none");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", slice.toString())).isZero();
        String root = drive + "?offset=" + 44 * DiskBuilder.MIB;
        assertThat(GeneralTools.exitOf("e2fsck", "-f", "-n", root)).isZero();
        return table
                + GeneralTools.run("mdir", "-b", "-i", fat, "::")
                + GeneralTools.run("mtype", "-i", fat, "::cmdline.txt")
                + GeneralTools.run("debugfs", "-R", "cat /etc/fstab", root);
    }

    private byte[] before() throws IOException {
        fresh();
        return Files.readAllBytes(drive);
    }

    @Test
    void aFirstStartIsTheOldOneOrTheNewOne() throws IOException {
        Deed deed = target -> new FirstStartJob(bench)
                .apply(new FirstStartJob.Order(
                        target,
                        bench.profiles().require("plover-5"),
                        IntentsReader.of(
                                Map.of("remoteLogin", true, "fixedAddress", "169.254.20.7", "hostName", "tide-clock")),
                        Optional.empty()));
        assertThat(everywhere(deed, before(), whole(deed))).isGreaterThan(2);
    }

    @Test
    void aGrownTableIsTheOldOneOrTheNewOne() throws IOException {
        Deed deed = target -> new DriveWork(bench, () -> 7).grow(target, "card.img");
        everywhere(deed, before(), whole(deed));
    }

    @Test
    void aGrownGptKeepsBothCopies() throws IOException {
        Path gpt = folder.resolve("gpt.img");
        DiskBuilder.blank(gpt, 64 * DiskBuilder.MIB);
        GeneralTools.feed("label: gpt\nsize=8MiB\nsize=40MiB\n", "sfdisk", "-q", gpt.toString());
        made = gpt;
        Deed deed = target -> new DriveWork(bench, () -> 7).grow(target, "card.img");
        String grown = whole(deed);
        assertThat(everywhere(deed, before(), grown)).isGreaterThan(2);
    }

    @Test
    void aNewIdentifierComesWithTheLinesThatNameIt() throws IOException {
        Media.Medium medium = workspace.media().byFile("card.img").orElseThrow();
        Deed deed = target -> new NewIdentity(bench, () -> 0x5eed1234L).give(medium, target);
        String given = whole(deed);
        try (BlockDevice device = VirtualDrive.open(bench.reader(), drive, false)) {
            assertThat(PartitionTables.read(device).diskId().orElseThrow().text())
                    .isEqualTo("5eed1234");
        }
        assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/fstab", drive + "?offset=" + 44 * DiskBuilder.MIB))
                .startsWith("PARTUUID=5eed1234-02 / ext4");
        assertThat(GeneralTools.exitOf("e2fsck", "-f", "-n", drive + "?offset=" + 44 * DiskBuilder.MIB))
                .isZero();
        assertThat(everywhere(deed, before(), given)).isGreaterThan(2);
    }

    @Test
    void aQuickProofPutsEverythingBack() throws IOException {
        Deed deed = target ->
                new DriveWork(bench, () -> 7).prove(target, "card.img", DriveWork.Proof.QUICK, TransferWatch.NONE);
        byte[] before = before();
        for (int writes : List.of(0, 1, 5, 20, 22, 23, 24, 30, 44)) {
            fresh();
            survives(writes, deed);
            assertThat(Arrays.equals(Files.readAllBytes(drive), before))
                    .as("cut off at write " + writes)
                    .isTrue();
            nothingLeft();
        }
    }
}

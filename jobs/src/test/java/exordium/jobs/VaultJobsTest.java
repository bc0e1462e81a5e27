// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.copies.schedule.Retention;
import exordium.core.copies.schedule.TimerUnits;
import exordium.core.finding.Finding;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Refused;
import exordium.core.finding.UnknownName;
import exordium.core.image.ImageFile;
import exordium.core.rehearsal.Trace;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.CloneJob;
import exordium.jobs.copies.care.DrillJob;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.copies.schedule.DueRun;
import exordium.jobs.copies.schedule.ScheduleJob;
import exordium.jobs.copies.vault.CopyFiles;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import exordium.jobs.order.OrderJob;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The vault in use, in a house of real small disks: copies, single files, clones, drills, what is due, what is kept, the timer. */
class VaultJobsTest {
    private static final String BOARD = SmallCard.BOARD;

    @TempDir
    private Path folder;

    private House house;
    private CopyJob copies;

    @BeforeEach
    void aBoardWithASmallCard() throws IOException {
        house = House.demo(folder);
        copies = new CopyJob(house.bench, house.sheets);
        lay("first");
        SmallCard.plug(house);
    }

    /** A whole small system, made by general tools. */
    private void lay(String words) throws IOException {
        SmallCard.lay(
                house,
                new DiskBuilder(folder)
                        .root("var/log/words", words)
                        .root("etc/hostname", "first\n")
                        .root("etc/machine-id", "0123456789abcdef0123456789abcdef\n")
                        .build("system-" + words + ".img"));
    }

    private static List<String> codes(List<Finding> findings) {
        return findings.stream().map(Finding::code).toList();
    }

    /** debugfs takes the same file out of the card; the history names the copies in which it changed. */
    @Test
    void singleFilesComeBackAndTheirHistoryIsKnown() throws IOException {
        copies.run(BOARD, TransferWatch.NONE);
        house.clock.advance(java.time.Duration.ofDays(1));
        copies.run(BOARD, TransferWatch.NONE);
        lay("second");
        house.clock.advance(java.time.Duration.ofDays(1));
        copies.run(BOARD, TransferWatch.NONE);
        CopyFiles files = new CopyFiles(house.bench, copies);
        List<CopyFiles.Version> history = files.history(BOARD, "/var/log/words");
        assertThat(history)
                .extracting(CopyFiles.Version::bytes)
                .containsExactly(Optional.of(5L), Optional.of(5L), Optional.of(6L));
        assertThat(history).extracting(CopyFiles.Version::changed).containsExactly(true, false, true);
        assertThat(history).extracting(CopyFiles.Version::which).containsExactly(1, 1, 2);
        Path out = folder.resolve("words");
        files.takeOut(BOARD, "/var/log/words", out);
        assertThat(out).hasContent("second");
        assertThatThrownBy(() -> files.takeOut(BOARD, "/var/log/words", out)).isInstanceOf(NameTaken.class);
        assertThatThrownBy(() -> files.look(BOARD, "/var/log/none")).isInstanceOf(UnknownName.class);
        assertThatThrownBy(() -> files.look(BOARD, "7:/x")).isInstanceOf(UnknownName.class);
        assertThat(files.look(BOARD, "1:/").entries())
                .extracting(each -> each.name())
                .contains("start.elf");
        assertThat(files.look(BOARD, "/etc").entries())
                .extracting(each -> each.name())
                .contains("hostname");
    }

    /** The clone equals its source on every byte to the end of the last partition (cmp); a target that is too small is refused. */
    @Test
    void aCloneEqualsItsSourceAndFitsWhereItsLastPartitionEnds() throws IOException {
        Path from = house.bench.driveFile("spare-card-32.img");
        Path small = SmallCard.drive(house, "small.img", 70L << 20);
        CloneJob clone = new CloneJob(house.bench, house.benches);
        CloneJob.Done done = clone.run(
                house.targets(),
                new CloneJob.Order(
                        from, small, "small.img", WriteMode.WHOLE, new AfterWrite.Wanted(false, Optional.empty())),
                TransferWatch.NONE);
        assertThat(done.report().verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(GeneralTools.exitOf("cmp", "-n", String.valueOf(60L << 20), from.toString(), small.toString()))
                .isZero();
        assertThat(done.alone().map(Trace::runs)).contains(true);
        assertThat(codes(done.findings())).contains("clone-starts", "clone-is-twin");
        Path tiny = SmallCard.drive(house, "tiny.img", 50L << 20);
        assertThatThrownBy(() -> clone.run(
                        house.targets(),
                        new CloneJob.Order(
                                from,
                                tiny,
                                "tiny.img",
                                WriteMode.WHOLE,
                                new AfterWrite.Wanted(false, Optional.empty())),
                        TransferWatch.NONE))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("too few");
        assertThatThrownBy(() -> clone.run(
                        house.targets(),
                        new CloneJob.Order(
                                from, small, "other", WriteMode.WHOLE, new AfterWrite.Wanted(false, Optional.empty())),
                        TransferWatch.NONE))
                .isInstanceOf(Refused.class);
    }

    /** Put where it fits, the board does not look there under the order it has: which one it needs is said, and it starts by it. */
    @Test
    void whichOrderACloneNeedsInThePortThatTakesItIsSaid() throws IOException {
        new OrderJob(house.bench).stage(house.bench.board(BOARD), "0xf1");
        house.boards.restart(house.bench.board(BOARD));
        Path stick = SmallCard.drive(house, "stick.img", 70L << 20, "usb");
        CloneJob.Done done = new CloneJob(house.bench, house.benches)
                .run(
                        house.targets(),
                        new CloneJob.Order(
                                house.bench.driveFile("spare-card-32.img"),
                                stick,
                                "stick.img",
                                WriteMode.USED,
                                new AfterWrite.Wanted(true, Optional.empty())),
                        TransferWatch.NONE);
        assertThat(done.alone().map(Trace::runs)).contains(false);
        assertThat(done.findings()).anySatisfy(each -> {
            assertThat(each.code()).isEqualTo("clone-does-not-start");
            assertThat(each.text()).contains("this one on usb").contains("with the order 0xf14: stage that");
        });
        Path nvme = SmallCard.drive(house, "bare.img", 70L << 20, "nvme");
        assertThat(codes(new CloneJob(house.bench, house.benches)
                        .run(
                                house.targets(),
                                new CloneJob.Order(
                                        stick,
                                        nvme,
                                        "bare.img",
                                        WriteMode.USED,
                                        new AfterWrite.Wanted(true, Optional.empty())),
                                TransferWatch.NONE)
                        .findings()))
                .doesNotContain("clone-starts");
    }

    /** What runs beside its original: sfdisk and debugfs see another disk identifier, host name and no machine identity. */
    @Test
    void aCloneOfItsOwnRunsBesideItsOriginal() throws IOException {
        Path from = house.bench.driveFile("spare-card-32.img");
        Path to = SmallCard.drive(house, "own.img", 70L << 20);
        CloneJob.Done done = new CloneJob(house.bench, house.benches)
                .run(
                        house.targets(),
                        new CloneJob.Order(
                                from,
                                to,
                                "own.img",
                                WriteMode.USED,
                                new AfterWrite.Wanted(true, Optional.of("second"))),
                        TransferWatch.NONE);
        assertThat(done.alone().map(Trace::runs)).contains(true);
        assertThat(codes(done.findings())).contains("clone-starts").doesNotContain("clone-is-twin");
        assertThat(GeneralTools.run("sfdisk", "--disk-id", to.toString()).strip())
                .isNotEqualTo(
                        GeneralTools.run("sfdisk", "--disk-id", from.toString()).strip());
        Path root = folder.resolve("root.ext");
        GeneralTools.run("dd", "if=" + to, "of=" + root, "bs=1M", "skip=44", "count=16", "status=none");
        assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/hostname", root.toString()))
                .contains("second");
        GeneralTools.run("e2fsck", "-fn", root.toString());
    }

    @Test
    void aDrillSaysWhetherTheCopyStarts() throws IOException {
        copies.run(BOARD, TransferWatch.NONE);
        DrillJob drill = new DrillJob(house.bench, house.benches, copies);
        DrillJob.Done done = drill.run(BOARD, TransferWatch.NONE);
        assertThat(done.passed()).isTrue();
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("drill-passed");
        // Tried today: the next one comes in a year, and then it is due.
        assertThat(CopyYear.drillsDue(house.bench, house.sheets)).doesNotContain(BOARD);
        house.clock.advance(java.time.Duration.ofDays(364));
        assertThat(CopyYear.drillsDue(house.bench, house.sheets)).doesNotContain(BOARD);
        house.clock.advance(java.time.Duration.ofDays(1));
        assertThat(CopyYear.drillsDue(house.bench, house.sheets)).contains(BOARD);
        try (var left = Files.newDirectoryStream(house.workspace.drives(), "drill-*")) {
            assertThat(left).isEmpty();
        }
        // A copy that is proven and does not start: nothing on the card is for this board any more.
        Path card = house.bench.driveFile("spare-card-32.img");
        long size = Files.size(card);
        Path other =
                new DiskBuilder(folder).id("0badd15c").without("kernel-64.img").build("other.img");
        Files.copy(other, card, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        DiskBuilder.blank(card, size);
        house.clock.advance(java.time.Duration.ofDays(1));
        copies.run(BOARD, TransferWatch.NONE);
        DrillJob.Done failed = drill.run(BOARD, TransferWatch.NONE);
        assertThat(failed.passed()).isFalse();
        assertThat(failed.sentence()).contains("does not start");
    }

    @Test
    void whatIsDueIsCopiedAndWhatIsAwayIsNamed() throws IOException {
        DueRun due = new DueRun(house.bench, house.sheets);
        assertThat(due.due()).extracting(each -> each.board().id()).contains(BOARD, "slipway-lamp");
        // The others of the demo keep a card's pace: only their drives are taken away here.
        for (DueRun.DueBoard each : due.due()) {
            if (!each.board().id().equals(BOARD)) {
                Files.deleteIfExists(house.bench.driveFile(each.medium().file()));
            }
        }
        Map<String, DueRun.State> states = new java.util.HashMap<>();
        due.run(TransferWatch.NONE).forEach(each -> states.put(each.board(), each.state()));
        assertThat(states).containsEntry(BOARD, DueRun.State.COPIED).containsEntry("slipway-lamp", DueRun.State.AWAY);
        assertThat(due.due()).extracting(each -> each.board().id()).doesNotContain(BOARD);
    }

    @Test
    void theHousesRuleSaysWhatGoes() throws IOException {
        house.bench.rules().retention(new Retention(2, 0, 0, 1));
        copies.run(BOARD, new CopyJob.Wanted(false, Optional.of("firmware")), TransferWatch.NONE);
        for (int i = 0; i < 4; i++) {
            lay("words" + i);
            house.clock.advance(java.time.Duration.ofDays(1));
            copies.run(BOARD, new CopyJob.Wanted(i == 1, Optional.empty()), TransferWatch.NONE);
        }
        VaultJob vault = new VaultJob(house.bench);
        assertThat(vault.preview(Optional.of(BOARD)).going()).hasSize(2);
        assertThat(house.workspace.copies().of(BOARD)).hasSize(5);
        VaultJob.Pruned pruned = vault.prune(Optional.of(BOARD), TransferWatch.NONE);
        assertThat(pruned.freed().bytes()).isPositive();
        List<Copies.Copy> left = house.workspace.copies().of(BOARD);
        assertThat(left).hasSize(3);
        assertThat(left.get(0).before()).contains("firmware");
        assertThat(copies.check(Optional.of(BOARD))).allMatch(CopyJob.Checked::whole);
        assertThat(vault.check(OptionalInt.empty(), TransferWatch.NONE).whole()).isTrue();
        assertThat(ImageFile.open(house.workspace.vault().resolve(left.get(2).file())).stream()
                        .transferTo(java.io.OutputStream.nullOutputStream()))
                .isEqualTo(left.get(2).source());
    }

    /** systemd-analyze(1) takes the units and the times they name; nothing of others' is touched. */
    @Test
    void theTimerIsVerifiedBySystemdAndTakenBack() throws IOException {
        Path units = folder.resolve("units with 100 %");
        ScheduleJob job = new ScheduleJob(units, false);
        Path program = Files.createFile(folder.resolve("exo program"));
        assertThat(program.toFile().setExecutable(true)).isTrue();
        TimerUnits timer = new TimerUnits(LocalTime.of(21, 5), program, folder.resolve("work space"));
        job.install(timer);
        assertThat(GeneralTools.exitOf("systemd-analyze", "calendar", "--iterations=3", "*-*-* 21:05:00"))
                .isZero();
        assertThat(GeneralTools.exitOf(
                        "env",
                        "XDG_RUNTIME_DIR=" + folder,
                        "systemd-analyze",
                        "--user",
                        "verify",
                        units.resolve(TimerUnits.TIMER).toString()))
                .isZero();
        assertThat(job.remove()).hasSize(2);
        assertThat(job.remove()).isEmpty();
        Files.writeString(units.resolve(TimerUnits.TIMER), "[Timer]\nOnCalendar=daily\n");
        assertThatThrownBy(() -> job.install(timer)).isInstanceOf(NameTaken.class);
        assertThat(job.remove()).isEmpty();
        assertThat(units.resolve(TimerUnits.TIMER)).exists();
        assertThat(timer.cronLine())
                .startsWith("5 21 * * * '")
                .contains(" copy run --due; '")
                .endsWith("copy drill --due");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.copies.care.Changes;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.firststart.dialect.MarkedFile;
import exordium.core.inspection.ImageComparison.FileChange;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.CareJob;
import exordium.jobs.copies.care.ChangesJob;
import exordium.jobs.copies.care.RestoreJob;
import exordium.jobs.copies.schedule.DueRun;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.media.HealthJob;
import exordium.jobs.storage.StorageQuestion;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What changed since a copy, putting it back onto another size, what a copy asks for, and how its medium is. */
class CopyChangesTest {
    private static final String BOARD = SmallCard.BOARD;
    private static final String DRIVE = SmallCard.DRIVE;
    private static final String PACKAGES =
            """
            Package: lamp
            Status: install ok installed
            Version: 1.0-2

            Package: horn
            Status: deinstall ok config-files
            Version: 3.1

            Package: bell
            Status: install ok installed
            Version: %s
            """;

    @TempDir
    private Path folder;

    private House house;
    private CopyJob copies;

    @BeforeEach
    void aBoardWithASmallCard() throws IOException {
        house = House.demo(folder);
        copies = new CopyJob(house.bench, house.sheets);
        SmallCard.lay(
                house,
                new DiskBuilder(folder)
                        .root("etc/hostname", "first\n")
                        .root("etc/shadow", "root:one:\n")
                        .root("etc/words", "same\n")
                        .root("var/log/gone", "x")
                        .root("var/lib/dpkg/status", PACKAGES.formatted("0.9"))
                        .build("one.img"));
        SmallCard.plug(house);
    }

    private void laySecond() throws IOException {
        SmallCard.lay(
                house,
                new DiskBuilder(folder)
                        .start("note.txt", "new\n")
                        .root("etc/hostname", "second\n")
                        .root("etc/shadow", "root:two:\n")
                        .root("etc/words", "same\n")
                        .root("var/log/new", "yes")
                        .root("var/lib/dpkg/status", PACKAGES.formatted("1.1"))
                        .build("two.img"));
    }

    /** The files that diff(1) finds between what debugfs(8) takes out of the two roots, and no other. */
    @Test
    void whatChangedIsWhatDiffFinds() throws IOException {
        Path before = folder.resolve("before");
        Path after = folder.resolve("after");
        takeOut(before);
        copies.run(BOARD, TransferWatch.NONE);
        laySecond();
        takeOut(after);
        Changes changes = new ChangesJob(house.bench, copies)
                .of(BOARD, "copy", Optional.empty(), TransferWatch.NONE)
                .changes();
        TreeSet<String> ours = new TreeSet<>();
        changes.files().stream().filter(each -> each.partition() == 2).forEach(each -> ours.add(each.path()));
        TreeSet<String> diffs = new TreeSet<>();
        GeneralTools.said("diff", "-rqN", before.toString(), after.toString())
                .lines()
                .forEach(line -> diffs.add(line.replaceFirst("^Files " + before + "(/\\S+) and .*$", "$1")));
        assertThat(ours).isNotEmpty().isEqualTo(diffs);
        assertThat(changes.files())
                .contains(new FileChange(1, "/note.txt", FileChange.ChangeKind.NEW))
                .contains(new FileChange(2, "/var/log/gone", FileChange.ChangeKind.GONE));
        assertThat(changes.settings())
                .extracting(MarkedFile::file)
                .contains("/etc/hostname", "note.txt")
                .doesNotContain("/etc/shadow", "/etc/words");
        assertThat(changes.settings().stream()
                        .filter(each -> each.file().equals("/etc/hostname"))
                        .findFirst()
                        .orElseThrow()
                        .lines())
                .extracting(MarkedFile.Line::text)
                .containsExactly("first", "second");
        assertThat(changes.packages())
                .containsExactly(new Changes.PackageChange("bell", Optional.of("0.9"), Optional.of("1.1")));
        house.clock.advance(Duration.ofDays(1));
        copies.run(BOARD, TransferWatch.NONE);
        ChangesJob job = new ChangesJob(house.bench, copies);
        assertThat(job.of(BOARD, "copy", Optional.empty(), TransferWatch.NONE)
                        .changes()
                        .none())
                .isTrue();
        String first = String.valueOf(house.workspace.copies().of(BOARD).get(0).id());
        assertThat(job.of(BOARD, first, Optional.of(BOARD), TransferWatch.NONE).changes())
                .isEqualTo(changes);
        assertThatThrownBy(() -> job.of(BOARD, "image", Optional.empty(), TransferWatch.NONE))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("not on record");
    }

    private void takeOut(Path to) throws IOException {
        Path root = folder.resolve("root.ext");
        GeneralTools.run(
                "dd",
                "if=" + house.bench.driveFile(DRIVE),
                "of=" + root,
                "bs=1M",
                "skip=44",
                "count=16",
                "status=none");
        Files.createDirectories(to);
        GeneralTools.run("debugfs", "-R", "rdump / " + to, root.toString());
    }

    /** sfdisk(8) and e2fsck(8): on a larger drive the last partition takes the rest, and the identifier is another one. */
    @Test
    void aCopyGoesBackOntoAnotherSizeWithAnIdentityOfItsOwn() throws IOException {
        copies.run(BOARD, TransferWatch.NONE);
        Path large = SmallCard.drive(house, "large.img", 90L << 20);
        RestoreJob restore = new RestoreJob(house.bench, house.benches, copies);
        RestoreJob.Done done = restore.run(order(large, true, true), TransferWatch.NONE);
        assertThat(done.report().verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(done.alone().orElseThrow().runs()).isTrue();
        assertThat(done.findings())
                .extracting(Finding::code)
                .contains("clone-starts")
                .doesNotContain("clone-is-twin");
        String table = GeneralTools.run("sfdisk", "-d", large.toString());
        long sectors = Long.parseLong(table.replaceFirst("(?s).*\\.img2 .*?size= *(\\d+).*", "$1"));
        assertThat(sectors * 512).isGreaterThan(40L << 20);
        assertThat(GeneralTools.run("sfdisk", "--disk-id", large.toString()).strip())
                .isNotEqualTo(GeneralTools.run(
                                "sfdisk",
                                "--disk-id",
                                house.bench.driveFile(DRIVE).toString())
                        .strip());
        Path small = SmallCard.drive(house, "small.img", 40L << 20);
        assertThatThrownBy(() -> restore.run(order(small, false, false), TransferWatch.NONE))
                .hasMessageContaining("too few");
        Path twin = SmallCard.drive(house, "twin.img", 90L << 20);
        assertThat(restore.run(order(twin, false, false), TransferWatch.NONE).findings())
                .extracting(Finding::code)
                .contains("clone-is-twin");
    }

    private RestoreJob.Order order(Path to, boolean grow, boolean own) throws IOException {
        return new RestoreJob.Order(
                copies.newestOf(BOARD),
                house.targets().at(to, ByteSize.ZERO),
                String.valueOf(to.getFileName()),
                WriteMode.USED,
                grow,
                new AfterWrite.Wanted(own, Optional.empty()));
    }

    /** The demo's clock stands on a Tuesday in the morning. */
    @Test
    void aBoardThatMayNotBeOffNowWaits() throws IOException {
        for (DueRun.DueBoard each : new DueRun(house.bench, house.sheets).due()) {
            if (!each.board().id().equals(BOARD)) {
                Files.deleteIfExists(house.bench.driveFile(each.medium().file()));
            }
        }
        CareJob care = new CareJob(house.bench);
        care.tell(BOARD, Optional.of(" the  bell "), Optional.empty(), Optional.of("sun 01:00-02:00"));
        care.tell(BOARD, Optional.empty(), Optional.of("the bell"), Optional.empty());
        assertThat(care.of(BOARD).stopFirst()).isEqualTo("the bell");
        assertThat(care.of(BOARD).quiet().text()).isEqualTo("sun 01:00-02:00");
        assertThatThrownBy(() -> care.tell(BOARD, Optional.empty(), Optional.empty(), Optional.of("never")))
                .isInstanceOf(BadArgument.class);
        assertThat(state()).isEqualTo(DueRun.State.WAITS);
        care.tell(BOARD, Optional.empty(), Optional.empty(), Optional.of(""));
        assertThat(state()).isEqualTo(DueRun.State.COPIED);
    }

    private DueRun.State state() throws IOException {
        return new DueRun(house.bench, house.sheets)
                .run(TransferWatch.NONE).stream()
                        .filter(each -> each.board().equals(BOARD))
                        .findFirst()
                        .orElseThrow()
                        .state();
    }

    /** What a medium tells reaches the day sheet, the choice of storage, and when its copy is due. */
    @Test
    void aMediumThatTellsItsEndIsReplacedInTime() throws IOException {
        copies.run(BOARD, TransferWatch.NONE);
        HealthJob health = new HealthJob(house.bench);
        Media.Medium medium = house.workspace.media().byFile(DRIVE).orElseThrow();
        assertThat(health.of(medium).last().mounts()).isNotNegative();
        tells(0.5);
        health.ask(medium);
        house.clock.advance(Duration.ofDays(40));
        tells(0.7);
        HealthJob.Known known = health.ask(medium);
        // Twenty per cent in forty days: the last thirty take sixty.
        assertThat(known.health().replacement().orElseThrow().daysLeft()).isEqualTo(60);
        assertThat(house.sheets.now().board(BOARD).cell(Step.STORAGE).pennant()).isEqualTo(Pennant.DUE);
        assertThat(house.sheets.due(house.bench.board(BOARD).register()).allowed())
                .isEqualTo(15);
        tells(1.0);
        health.ask(medium);
        assertThat(house.sheets.now().board(BOARD).cell(Step.STORAGE).pennant()).isEqualTo(Pennant.FAILING);
        StorageAssessment judged = new StorageQuestion(house.bench)
                .ranked(house.bench.board(BOARD), Optional.empty()).stream()
                        .filter(each -> each.medium().id().equals(medium.id()))
                        .findFirst()
                        .orElseThrow();
        assertThat(judged.findings()).extracting(Finding::code).contains("medium-replace");
        assertThat(judged.fits()).isFalse();
        assertThatThrownBy(() -> health.fault(medium, " ")).isInstanceOf(BadArgument.class);
        health.fault(medium, "corrupted");
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("medium-fault");
    }

    private void tells(double used) throws IOException {
        Path description = house.bench.driveFile(DRIVE + ".drive.yaml");
        String plain = Files.readString(description).replaceAll("(?ms)^tells:.*", "");
        Files.writeString(description, plain + "tells:\n  lifeUsed: " + used + "\n");
    }
}

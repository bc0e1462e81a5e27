// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.block.TransferWatch;
import exordium.core.block.linux.LinuxDrives;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.writing.Verdict;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.writing.WriteJob;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Writing into the house and copying out of it, with what the registers and the logbook then say. */
class WriteAndCopyTest {
    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
    }

    /** The demo's drives keep a card's pace; tests have no time for that. */
    private void hurry(String drive) throws IOException {
        Path description = house.bench.driveFile(drive + ".drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
    }

    private void fault(String drive, String fault) throws IOException {
        Path description = house.bench.driveFile(drive + ".drive.yaml");
        Files.writeString(
                description,
                Files.readString(description).replaceAll("(?m)^faults: .*$", "faults: [\"" + fault + "\"]"));
    }

    private WriteReport write(String image, String drive) throws IOException {
        ImageFile file = ImageFile.open(house.workspace.images().resolve(image));
        Targets.Target target = new TargetHistory(house.bench).known(house.target(drive));
        WritePlan plan = WritePlan.of(
                file, file.uncompressedSize().orElseThrow(), target.description(), WritePlan.Options.USUAL, drive);
        return WriteJob.run(house.bench, plan, target, Optional.empty(), TransferWatch.NONE);
    }

    @Test
    void aProvenWriteShowsInTheRegisterTheLogbookAndTheDaySheet() throws IOException {
        hurry("spare-card-32.img");
        ByteSize before = house.workspace
                .media()
                .byFile("spare-card-32.img")
                .orElseThrow()
                .written();
        WriteReport report = write("marshlinux-2026.10-lite.img.xz", "spare-card-32.img");
        assertThat(report.verdict()).isEqualTo(Verdict.VERIFIED);
        Media.Medium medium =
                house.workspace.media().byFile("spare-card-32.img").orElseThrow();
        assertThat(medium.written()).isEqualTo(before.plus(ByteSize.of(report.writtenBytes())));
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("write-verified");
        house.boards.plug(
                house.bench.board("store-room-spare"),
                new BoardState.Plug("card", "spare-card-32.img", "card-quick", CarrierKind.ANNOUNCING, true));
        assertThat(house.sheets.now().board("store-room-spare").cell(Step.IMAGE).pennant())
                .isEqualTo(Pennant.PROVEN);
        assertThat(house.sheets
                        .now()
                        .board("store-room-spare")
                        .cell(Step.REHEARSAL)
                        .pennant())
                .isEqualTo(Pennant.PROVEN);
    }

    /** The unpacked bytes are compared by xz and cmp, not by this program. */
    @Test
    void theTargetIsTheImageByTheWordOfGeneralTools() throws IOException {
        hurry("spare-card-32.img");
        write("marshlinux-2026.10-lite.img.xz", "spare-card-32.img");
        Path image = folder.resolve("image.img");
        GeneralTools.run(
                "sh",
                "-c",
                "xz -dc " + house.workspace.images().resolve("marshlinux-2026.10-lite.img.xz") + " > " + image);
        assertThat(GeneralTools.exitOf(
                        "cmp",
                        "-n",
                        String.valueOf(Files.size(image)),
                        image.toString(),
                        house.bench.driveFile("spare-card-32.img").toString()))
                .isZero();
    }

    @Test
    void aDriveThatGivesBackSomethingElseIsNeverShownAsGood() throws IOException {
        hurry("spare-card-32.img");
        fault("spare-card-32.img", "flip:50000000");
        assertThat(write("marshlinux-2026.10-lite.img.xz", "spare-card-32.img").verdict())
                .isEqualTo(Verdict.DIFFERENT);
        house.boards.plug(
                house.bench.board("store-room-spare"),
                new BoardState.Plug("card", "spare-card-32.img", "card-quick", CarrierKind.ANNOUNCING, true));
        assertThat(house.sheets.now().board("store-room-spare").cell(Step.IMAGE).pennant())
                .isEqualTo(Pennant.FAILING);
    }

    /** A drive that goes away half-way leaves a journal; plugged in again, the write goes on and is proven. */
    @Test
    void aWriteThatWasUnpluggedGoesOnFromItsJournal() throws IOException {
        hurry("spare-card-32.img");
        fault("spare-card-32.img", "unplug:60000000");
        assertThat(write("marshlinux-2026.10-lite.img.xz", "spare-card-32.img").verdict())
                .isEqualTo(Verdict.FAILED);
        Path description = house.bench.driveFile("spare-card-32.img.drive.yaml");
        Files.writeString(description, Files.readString(description).replaceAll("unplug:\\d+", "flip:30000000000"));
        WriteJob.Unfinished cut = WriteJob.unfinished(house.bench).get(0);
        assertThat(cut.sentence()).contains("It can go on from there");
        Targets targets = new Targets(house.bench.reader(), new LinuxDrives(), house.workspace.folder(), false);
        assertThatThrownBy(() -> WriteJob.resume(
                        house.bench,
                        WriteJob.again(house.bench, targets, cut, Optional.empty(), "other", TransferWatch.NONE),
                        cut))
                .isInstanceOf(Refused.class);
        WriteReport report = WriteJob.resume(
                house.bench,
                WriteJob.again(house.bench, targets, cut, Optional.empty(), "spare-card-32.img", TransferWatch.NONE),
                cut);
        assertThat(report.verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(WriteJob.unfinished(house.bench)).isEmpty();
    }

    @Test
    void aTargetThatCannotBeOpenedLeavesNoTrace() throws IOException {
        Targets.Target target = house.target("spare-card-32.img");
        ImageFile file = ImageFile.open(house.workspace.images().resolve("dunlin-vm-7.2.img.xz"));
        WritePlan plan = WritePlan.of(
                file,
                file.uncompressedSize().orElseThrow(),
                target.description(),
                WritePlan.Options.USUAL,
                "spare-card-32.img");
        Targets.Target shut = new Targets.Target(target.description(), true, "", forWriting -> {
            throw new UnreadableInput("No rights.");
        });
        assertThatThrownBy(() -> WriteJob.run(house.bench, plan, shut, Optional.empty(), TransferWatch.NONE))
                .hasMessageContaining("No rights");
        assertThat(house.workspace.operations().lastWrites()).doesNotContainKey("spare-card-32");
    }

    @Test
    void thePlanSaysWhatWouldBeLost() throws IOException {
        TargetHistory history = new TargetHistory(house.bench);
        assertThat(history.known(house.target("tide-clock-card.img"))
                        .description()
                        .loses())
                .hasValueSatisfying(words -> assertThat(words)
                        .contains("Tidewell 32 (TW32-0417)")
                        .contains("Tide clock")
                        .contains("2026-11-12"));
        assertThat(history.known(house.target("film-loop-nvme.img"))
                        .description()
                        .loses())
                .hasValueSatisfying(words -> assertThat(words).contains("No copy of it"));
        assertThat(history.known(house.target("spare-card-32.img"))
                        .description()
                        .loses())
                .hasValueSatisfying(words -> assertThat(words).contains("in service nowhere"));
    }

    @Test
    void theNameOfTheTargetIsAskedFor() throws IOException {
        ImageFile file = ImageFile.open(house.workspace.images().resolve("dunlin-vm-7.2.img.xz"));
        Targets.Target target = house.target("spare-card-32.img");
        for (String typed : List.of("", "spare-card-16.img", "SPARE-CARD-32.IMG")) {
            WritePlan plan = WritePlan.of(
                    file, file.uncompressedSize().orElseThrow(), target.description(), WritePlan.Options.USUAL, typed);
            assertThatThrownBy(() -> WriteJob.run(house.bench, plan, target, Optional.empty(), TransferWatch.NONE))
                    .isInstanceOf(Refused.class);
        }
        assertThat(house.workspace.operations().lastWrites()).doesNotContainKey("spare-card-32");
    }

    @Test
    void aCopyIsProvenDatedAndDueByTheHouseRule() throws IOException {
        hurry("spare-card-32.img");
        write("marshlinux-2026.10-lite.img.xz", "spare-card-32.img");
        house.boards.plug(
                house.bench.board("store-room-spare"),
                new BoardState.Plug("card", "spare-card-32.img", "card-quick", CarrierKind.ANNOUNCING, true));
        CopyJob.Done done = new CopyJob(house.bench, house.sheets).run("store-room-spare", TransferWatch.NONE);
        assertThat(done.next().date()).isEqualTo(LocalDate.parse("2026-12-24"));
        assertThat(GeneralTools.run("sha256sum", done.report().file().toString()))
                .startsWith(done.report().fileSha256());
        assertThat(house.workspace.log().last().orElseThrow().text()).contains("next due 2026-12-24");
        assertThat(house.workspace.copies().of("store-room-spare")).hasSize(1);
        Path unpacked = folder.resolve("copy.img");
        GeneralTools.run(
                "sh",
                house.workspace.vault().resolve("restore.sh").toString(),
                done.report().file().toString(),
                unpacked.toString());
        assertThat(GeneralTools.exitOf(
                        "cmp",
                        "-n",
                        String.valueOf(Files.size(unpacked)),
                        unpacked.toString(),
                        house.bench.driveFile("spare-card-32.img").toString()))
                .isZero();
        // What is no file, such as a drive, is not replaced by one.
        Path pipe = folder.resolve("pipe");
        GeneralTools.run("mkfifo", pipe.toString());
        assertThat(GeneralTools.exitOf(
                        "sh",
                        house.workspace.vault().resolve("restore.sh").toString(),
                        done.report().file().toString(),
                        pipe.toString()))
                .isNotZero();
        assertThat(GeneralTools.exitOf("test", "-p", pipe.toString())).isZero();
    }

    @Test
    void aStoppedCopyLeavesNothingBehind() {
        TransferWatch stopped = new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

            @Override
            public boolean cancelled() {
                return true;
            }
        };
        assertThatThrownBy(() -> new CopyJob(house.bench, house.sheets).run("door-counter", stopped))
                .isInstanceOf(CancellationException.class);
        assertThat(house.workspace.copies().of("door-counter")).hasSize(1);
        assertThat(house.workspace.vault().resolve("door-counter").toFile().list())
                .noneMatch(name -> name.endsWith(".part"));
    }

    @Test
    void aCopyThatRottedIsFoundAndNotRestored() throws IOException {
        String file = house.workspace.copies().of("wave-tank").get(1).file();
        DiskBuilder.flip(house.workspace.vault().resolve(file), 100);
        List<CopyJob.Checked> checked = new CopyJob(house.bench, house.sheets).check(Optional.of("wave-tank"));
        assertThat(checked).extracting(CopyJob.Checked::whole).containsExactly(true, false);
        assertThat(checked.get(1).text()).contains("do not restore");
    }

    @Test
    void theNewestCopyThatIsThereIsTheOneToRestore() throws IOException {
        CopyJob copies = new CopyJob(house.bench, house.sheets);
        assertThat(copies.newestOf("ticket-desk").file()).endsWith("ticket-desk-2026-10-21.img.zst");
        Files.delete(house.workspace.vault().resolve("ticket-desk/ticket-desk-2026-10-21.img.zst"));
        assertThat(copies.newestOf("ticket-desk").file()).endsWith("ticket-desk-2026-09-19.img.zst");
        assertThatThrownBy(() -> copies.newestOf("film-loop")).hasMessageContaining("no copy of film-loop");
    }

    @Test
    void aPlainFileIsATargetButAFolderIsNot() throws IOException {
        Targets.Target file = house.targets().at(folder.resolve("new.img"), ByteSize.of(1000));
        assertThat(file.description().size()).isEqualTo(ByteSize.of(1000));
        assertThat(file.description().loses()).isEmpty();
        Files.writeString(folder.resolve("old.img"), "something");
        assertThat(house.targets()
                        .at(folder.resolve("old.img"), ByteSize.of(1000))
                        .description()
                        .loses())
                .isPresent();
        assertThatThrownBy(() -> house.targets().at(folder, ByteSize.ZERO)).hasMessageContaining("is a folder");
        assertThatThrownBy(() -> house.targets().at(folder.resolve("no/where.img"), ByteSize.ZERO))
                .hasMessageContaining("no folder");
    }

    @Test
    void drivesOfTheMachineAreListedAndRefusedWhileTheyAreOff() throws IOException {
        house.targets().ofMachine().forEach(drive -> assertThat(house.targets().refusals(drive))
                .extracting(Finding::code)
                .contains("real-drives-off"));
    }
}

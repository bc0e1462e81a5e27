// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import exordium.core.block.TransferWatch;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.Stopped;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Stopping;
import exordium.core.writing.Ending;
import exordium.core.writing.Verdict;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.media.DriveWork;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.order.OrderJob;
import exordium.jobs.run.Recovery;
import exordium.jobs.shelf.Intake;
import exordium.jobs.writing.WriteJob;
import exordium.store.Operations;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is told of a medium is true after every deed, however it ends, and nothing is claimed that was not proven. */
class HonestDeedsTest {
    private static final String TIDE = "tide-clock-card.img";

    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
        Path description = house.bench.driveFile(TIDE + ".drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
    }

    private Cell image() throws IOException {
        return house.sheets.now().board("tide-clock").cell(Step.IMAGE);
    }

    private DriveWork work() {
        return new DriveWork(house.bench, () -> 7);
    }

    /** Evidence falls with every deed that touches the medium, and says which. */
    @ParameterizedTest
    @ValueSource(strings = {"cleared", "proof of its size", "edited", "identifier"})
    void whatWasProvenIsNotProvenAnyMoreAfterADeed(String deed) throws IOException {
        assertThat(image().pennant()).isEqualTo(Pennant.PROVEN);
        switch (deed) {
            case "cleared" -> work().clear(house.target(TIDE), TIDE, TransferWatch.NONE);
            case "proof of its size" ->
                work().prove(house.target(TIDE), TIDE, DriveWork.Proof.QUICK, TransferWatch.NONE);
            case "edited" ->
                new FirstStartJob(house.bench)
                        .apply(
                                house.bench.board("tide-clock"),
                                TIDE,
                                IntentsReader.of(Map.of("remoteLogin", true, "fixedAddress", "169.254.20.7")));
            default ->
                new NewIdentity(house.bench, () -> 0x5eed1234L)
                        .give(house.workspace.media().byFile(TIDE).orElseThrow());
        }
        assertThat(image().pennant()).isNotEqualTo(Pennant.PROVEN);
        assertThat(image().reason()).contains(deed);
        assertThat(house.sheets.now().board("tide-clock").cell(Step.STORAGE).pennant())
                .isNotEqualTo(Pennant.PROVEN);
    }

    /** A deed that came to nothing takes nothing away. */
    @Test
    void aDeedThatTouchedNothingLeavesWhatWasProven() throws IOException {
        new FirstStartJob(house.bench)
                .apply(house.bench.board("tide-clock"), TIDE, IntentsReader.of(Map.of("remoteLogin", true)));
        assertThat(image().pennant()).isEqualTo(Pennant.PROVEN);
        assertThatThrownBy(() -> work().clear(house.target(TIDE), TIDE + " ", TransferWatch.NONE))
                .isInstanceOf(Refused.class);
        assertThat(image().pennant()).isEqualTo(Pennant.PROVEN);
    }

    /** Two deeds run beside each other, but not on one target, by whatever process. */
    @Test
    void theSecondDeedOnATargetIsRefusedWithTheFirstOnesName() throws IOException {
        AtomicInteger moved = new AtomicInteger();
        TransferWatch during = new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                if (moved.getAndIncrement() == 0) {
                    assertThatThrownBy(() -> clear(TIDE))
                            .isInstanceOf(Refused.class)
                            .hasMessage("Proving " + TIDE + " is not finished; " + TIDE
                                    + " is in its hands until then. Wait for it or stop it.");
                    assertThatCode(() -> clear("spare-card-32.img")).doesNotThrowAnyException();
                }
            }

            @Override
            public boolean cancelled() {
                return moved.get() > 0;
            }
        };
        assertThatThrownBy(() -> work().prove(house.target(TIDE), TIDE, DriveWork.Proof.WHOLE, during))
                .isInstanceOf(Stopped.class);
        assertThat(house.workspace.operations().running()).isEmpty();
        assertThat(clear(TIDE)).contains(TIDE);
    }

    private String clear(String drive) throws IOException {
        return work().clear(house.target(drive), drive, TransferWatch.NONE);
    }

    /** What is done to a board has its row as well. */
    @Test
    void stagingRestartingAndSwitchingOffAreOnRecord() throws IOException {
        new OrderJob(house.bench).stage(house.bench.board("wave-tank"), "0xf146");
        house.boards.restart(house.bench.board("wave-tank"));
        house.boards.switchOff(house.bench.board("wave-tank"));
        assertThat(house.workspace.operations().all())
                .extracting(each -> each.deed().kind(), Operations.Operation::ending)
                .endsWith(tuple("order", Ending.DONE), tuple("restart", Ending.DONE), tuple("switch-off", Ending.DONE));
        assertThat(house.workspace.operations().lastTouching()).isEmpty();
    }

    @Test
    void aStoppedProofSaysThatItOverwroteTheDriveAndIsInTheLogbook() throws IOException {
        assertThatThrownBy(() -> work().prove(house.target(TIDE), TIDE, DriveWork.Proof.WHOLE, Stopping.after(2)))
                .isInstanceOf(Stopped.class)
                .hasMessageContaining("what was on it is lost");
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("prove-whole-stopped");
        assertThat(house.workspace.operations().all()).last().satisfies(row -> {
            assertThat(row.ending()).isEqualTo(Ending.STOPPED);
            assertThat(row.deed().touches()).isTrue();
        });
    }

    @Test
    void aStopBeforeAnythingWasWrittenSaysThat() throws IOException {
        assertThatThrownBy(() -> work().clear(house.target(TIDE), TIDE, Stopping.after(0)))
                .isInstanceOf(Stopped.class)
                .hasMessageContaining("Nothing on it was changed");
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("clear-stopped");
        assertThat(image().pennant()).isEqualTo(Pennant.PROVEN);
    }

    @Test
    void aStoppedQuickProofPutsEverythingBackAndSaysSo() throws IOException {
        String name = new Intake(house.bench)
                .drive("Bench card", "card-quick", ByteSize.of(96 * DiskBuilder.MIB))
                .file();
        Path drive = house.bench.driveFile(name);
        try (RandomAccessFile file = new RandomAccessFile(drive.toFile(), "rw")) {
            for (long at = 0; at < 96 * DiskBuilder.MIB; at += 4096) {
                file.seek(at);
                file.writeLong(at * 31 + 7);
            }
        }
        String before = GeneralTools.run("cksum", drive.toString());
        assertThatThrownBy(() -> work().prove(house.target(name), name, DriveWork.Proof.QUICK, Stopping.after(15)))
                .isInstanceOf(Stopped.class)
                .hasMessageContaining("put back");
        assertThat(GeneralTools.run("cksum", drive.toString())).isEqualTo(before);
        assertThat(house.workspace.folder().resolve("deeds")).isEmptyDirectory();
    }

    /** Somebody writes to the drive while it is copied: neither old nor new, and not kept. */
    @Test
    void aDriveThatIsWrittenToMeanwhileGivesNoCopy() throws IOException {
        Path drive = house.bench.driveFile(house.bench
                .mainMedium(house.bench.board("door-counter"))
                .orElseThrow()
                .file());
        Path description = drive.resolveSibling(drive.getFileName() + ".drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
        TransferWatch writer = new TransferWatch() {
            private boolean done;

            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                if (!done) {
                    done = true;
                    try (RandomAccessFile file = new RandomAccessFile(drive.toFile(), "rw")) {
                        file.seek(5_000_000);
                        file.write(1);
                    } catch (IOException e) {
                        throw new AssertionError(e);
                    }
                }
            }

            @Override
            public boolean cancelled() {
                return false;
            }
        };
        int copies = house.workspace.copies().all().size();
        assertThatThrownBy(() -> new CopyJob(house.bench, house.sheets).run("door-counter", writer))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("was written to while it was being copied");
        assertThat(house.workspace.copies().all()).hasSize(copies);
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("copy-failed");
    }

    // Writes

    private WriteJob.Order order(Path image, Path target, TransferWatch watch) throws IOException {
        ImageFile file = ImageFile.open(image);
        ByteSize size = file.uncompressedSize().orElseThrow();
        Targets.Target found = house.targets().at(target, size);
        WritePlan plan = WritePlan.of(
                file,
                size,
                found.description(),
                WritePlan.Options.USUAL,
                target.getFileName().toString());
        return new WriteJob.Order(plan, found, Optional.empty(), watch);
    }

    private WriteReport write(Path image, Path target, TransferWatch watch) throws IOException {
        return WriteJob.runAll(house.bench, List.of(order(image, target, watch)))
                .get(0);
    }

    @Test
    void aWriteToANewFileThatWasCutOffGoesOnAndCanBeBegunAgain() throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        Path target = folder.resolve("fresh.img");
        assertThat(write(image, target, Stopping.after(6)).verdict()).isEqualTo(Verdict.CANCELLED);
        WriteJob.Unfinished cut = WriteJob.unfinished(house.bench).get(0);
        WriteJob.Order again =
                WriteJob.again(house.bench, house.targets(), cut, Optional.empty(), "fresh.img", TransferWatch.NONE);
        assertThat(WriteJob.resume(house.bench, again, cut).verdict()).isEqualTo(Verdict.VERIFIED);
        GeneralTools.run("cmp", image.toString(), target.toString());
        assertThat(write(image, folder.resolve("second.img"), Stopping.after(6)).verdict())
                .isEqualTo(Verdict.CANCELLED);
        assertThat(write(image, folder.resolve("second.img"), TransferWatch.NONE)
                        .verdict())
                .isEqualTo(Verdict.VERIFIED);
    }

    /** Two things of one name are two things. */
    @Test
    void anotherTargetOfTheSameNameLeavesAnUnfinishedWriteAlone() throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        Path one = Files.createDirectories(folder.resolve("one")).resolve("card.img");
        Path other = Files.createDirectories(folder.resolve("other")).resolve("card.img");
        assertThat(write(image, one, Stopping.after(6)).verdict()).isEqualTo(Verdict.CANCELLED);
        assertThat(write(image, other, TransferWatch.NONE).verdict()).isEqualTo(Verdict.VERIFIED);
        assertThat(WriteJob.unfinished(house.bench))
                .extracting(WriteJob.Unfinished::target)
                .containsExactly(one);
    }

    @Test
    void anImageThatChangesWhileItIsWrittenIsTold() throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        TransferWatch changer = new TransferWatch() {
            private boolean done;

            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {
                if (!done && phase == Phase.WRITING) {
                    done = true;
                    try {
                        DiskBuilder.flip(image, 60_000_000);
                    } catch (IOException e) {
                        throw new AssertionError(e);
                    }
                }
            }

            @Override
            public boolean cancelled() {
                return false;
            }
        };
        WriteReport report = write(image, folder.resolve("target.img"), changer);
        assertThat(report.verdict()).isEqualTo(Verdict.FAILED);
        assertThat(report.sentence()).contains("was changed while it was being written");
    }

    /** Killed between the report and the removal of its journal: proven, and never told as cut off. */
    @Test
    void theJournalOfAProvenWriteIsNoUnfinishedOne() throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        write(image, folder.resolve("target.img"), Stopping.after(6));
        Path journal = WriteJob.unfinished(house.bench).get(0).journal();
        byte[] kept = Files.readAllBytes(journal);
        assertThat(write(image, folder.resolve("target.img"), TransferWatch.NONE)
                        .verdict())
                .isEqualTo(Verdict.VERIFIED);
        Operations.Operation last = house.workspace.operations().writes().stream()
                .reduce((first, next) -> next)
                .orElseThrow();
        Path left = house.workspace.writeJournal(last.id());
        Files.write(left, kept);
        assertThat(WriteJob.unfinished(house.bench)).isEmpty();
        new Recovery(house.bench).atOpening();
        assertThat(left).doesNotExist();
    }

    /** Where the journal cannot be begun, no row says that anything was written. */
    @Test
    void aWriteThatCannotBeginLeavesNoRowOpen() throws IOException {
        Path image = new DiskBuilder(folder).build("image.img");
        Files.writeString(house.workspace.folder().resolve("writes"), "in the way of the journals' folder");
        assertThatThrownBy(() -> write(image, folder.resolve("target.img"), TransferWatch.NONE))
                .isInstanceOf(IOException.class);
        assertThat(house.workspace.operations().writes())
                .extracting(Operations.Operation::ending)
                .doesNotContain(Ending.RUNNING);
    }

    @Test
    void oneNameInTwoContainersGoesOnTheShelfTwice() throws IOException {
        Path image = new DiskBuilder(folder).build("twofold.img");
        GeneralTools.run("xz", "-k", "-0", image.toString());
        Intake intake = new Intake(house.bench);
        assertThat(intake.image(image, TransferWatch.NONE).id()).isEqualTo("twofold");
        assertThat(intake.image(folder.resolve("twofold.img.xz"), TransferWatch.NONE)
                        .id())
                .isEqualTo("twofold.img.xz");
        assertThatThrownBy(() -> intake.image(image, TransferWatch.NONE))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("on the shelf already");
    }

    /** A release must know every place an order asks for, before it is staged. */
    @Test
    void anOrderTheRunningFirmwareDoesNotKnowIsNotStaged() throws IOException {
        assertThatThrownBy(() -> new OrderJob(house.bench).stage(house.bench.board("ticket-desk"), "0xf71"))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("Update the firmware");
    }
}

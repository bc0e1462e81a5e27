// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.CarrierKind;
import exordium.core.block.TransferWatch;
import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.BadArgument;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Step;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.PlayedMachine;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.media.MediaRegister;
import exordium.jobs.media.PluggedIn;
import exordium.jobs.writing.WriteJob;
import exordium.store.Logbook;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A real medium in a board: here, then away and judged by what was read of it; or never read, and nothing said of it. */
class AwayMediumTest {
    private static final String BOARD = "store-room-spare";

    @TempDir
    Path folder;

    @TempDir
    Path root;

    private House house;
    private PlayedMachine machine;
    private PluggedIn pluggedIn;
    private MediaRegister register;

    @BeforeEach
    void open() throws IOException {
        machine = new PlayedMachine(root);
        house = House.demo(folder, machine.machine());
        house.bench.rules().realDrives(true);
        pluggedIn = new PluggedIn(house.bench);
        register = new MediaRegister(house.bench);
    }

    private Media.Medium stick() throws IOException {
        Path image = new DiskBuilder(folder).start("ssh", "").build("stick.img");
        Path node = machine.plug("sdx", Files.size(image), "BR-7001");
        Files.copy(image, node, StandardCopyOption.REPLACE_EXISTING);
        return pluggedIn.takeIn(pluggedIn.now().get(0).drive(), "Brack stick", "stick");
    }

    private Cell cell(Step step) throws IOException {
        BoardRow board = house.sheets.now().board(BOARD);
        return board.cell(step);
    }

    @Test
    void aMediumThatIsAwayIsJudgedAsItWasRead() throws IOException {
        Media.Medium medium = stick();
        house.boards.plug(house.bench.board(BOARD), "usb1", medium, CarrierKind.ANNOUNCING);
        machine.unplug("sdx");
        assertThat(house.sheets.now().boards()).hasSize(11);
        assertThat(cell(Step.REHEARSAL).pennant()).isEqualTo(Pennant.PROVEN);
        assertThat(cell(Step.REHEARSAL).reason())
                .contains("Brack stick is not here; this is as it was read on 2026-11-24.");
        assertThat(cell(Step.FIRST_START).reason()).contains("as it was read on");
        assertThatThrownBy(() -> register.read(medium))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("is not here");
        assertThatThrownBy(() -> new CopyJob(house.bench, house.sheets).run(BOARD, TransferWatch.NONE))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("is not here");
        assertThatThrownBy(() -> new FirstStartJob(house.bench)
                        .apply(house.bench.board(BOARD), medium.file(), IntentsReader.of(Map.of("remoteLogin", true))))
                .hasMessageContaining("is not here");
        assertThat(house.workspace.drives().resolve(medium.file())).doesNotExist();
    }

    @Test
    void aMediumOfTheRegisterIsATargetWhileItIsPluggedIn() throws IOException {
        Media.Medium medium = stick();
        Targets reach = new Targets(house.bench.reader(), machine.drives(), house.folder, true);
        assertThat(reach.of(medium).description().id()).isEqualTo("sdx");
        machine.unplug("sdx");
        assertThatThrownBy(() -> reach.of(medium)).hasMessageContaining("is not here");
    }

    /** A reader tells no serial of the card in it: what was on it says which card it is, before a write and after it. */
    @Test
    void aCardInAReaderStaysTheMediumItWasWhenItIsWrittenAnew() throws IOException {
        Path first = new DiskBuilder(folder).build("first.img");
        Path node = machine.plug("sdx", Files.size(first), "");
        Files.copy(first, node, StandardCopyOption.REPLACE_EXISTING);
        Media.Medium card = pluggedIn.takeIn(pluggedIn.now().get(0).drive(), "Reader card", "card-quick");
        assertThat(house.workspace.media().details(card.id()).diskId()).contains("5eed0001");
        Targets reach = new Targets(house.bench.reader(), machine.drives(), house.folder, true);
        Path second = new DiskBuilder(folder).id("5eed0007").build("second.img");
        ImageFile image = ImageFile.open(second);
        Targets.Target target = reach.at(node, ByteSize.of(Files.size(second)));
        assertThat(house.bench.registered(target)).contains(card);
        WritePlan plan = WritePlan.of(
                image,
                ByteSize.of(Files.size(second)),
                target.description(),
                new WritePlan.Options(WriteMode.WHOLE, true, false, Optional.empty()),
                "sdx");
        WriteJob.runAll(house.bench, List.of(new WriteJob.Order(plan, target, Optional.empty(), TransferWatch.NONE)));
        assertThat(house.workspace.media().details(card.id()).diskId()).contains("5eed0007");
        assertThat(house.workspace.operations().writes())
                .last()
                .satisfies(write -> assertThat(write.deed().medium()).contains(card.id()));
        assertThat(pluggedIn.now().get(0).medium().map(Media.Medium::id)).contains(card.id());
    }

    @Test
    void ofTwoCardsAlikeNeitherIsTakenForTheOneThatComes() throws IOException {
        Path image = new DiskBuilder(folder).build("first.img");
        for (String name : List.of("One", "Two")) {
            Path node = machine.plug("sdx", Files.size(image), "SER-" + name);
            Files.copy(image, node, StandardCopyOption.REPLACE_EXISTING);
            pluggedIn.takeIn(pluggedIn.now().get(0).drive(), name, "card-quick");
            machine.unplug("sdx");
        }
        Path node = machine.plug("sdx", Files.size(image), "");
        Files.copy(image, node, StandardCopyOption.REPLACE_EXISTING);
        PluggedIn.Plugged came = pluggedIn.now().get(0);
        assertThat(came.medium()).isEmpty();
        assertThat(came.alike()).hasSize(2).anyMatch(each -> each.contains("One"));
    }

    /** Two cards of one image have one identifier; a larger one is not the one in the register all the same. */
    @Test
    void aCardOfAnotherSizeIsNotTheOneOfTheSameImage() throws IOException {
        Path image = new DiskBuilder(folder).build("first.img");
        Files.copy(image, machine.plug("sdx", Files.size(image), ""), StandardCopyOption.REPLACE_EXISTING);
        Media.Medium card = pluggedIn.takeIn(pluggedIn.now().get(0).drive(), "One", "card-quick");
        machine.unplug("sdx");
        for (long more : new long[] {0, 8 << 20}) {
            Path node = machine.plug("sdx", Files.size(image) + more, "");
            Files.copy(image, node, StandardCopyOption.REPLACE_EXISTING);
            PluggedIn.Plugged came = pluggedIn.now().get(0);
            assertThat(came.medium()).isEqualTo(more == 0 ? Optional.of(card) : Optional.empty());
            machine.unplug("sdx");
        }
    }

    /** What changed on a medium while it was away is said when it is back, with the board it belongs to. */
    @Test
    void whatChangedElsewhereIsSaidWhenTheMediumIsBack() throws IOException {
        Media.Medium medium = stick();
        house.boards.plug(house.bench.board(BOARD), "usb1", medium, CarrierKind.ANNOUNCING);
        List<PluggedIn.Plugged> before = pluggedIn.now();
        machine.unplug("sdx");
        Path rewritten = new DiskBuilder(folder).id("5eed0009").build("elsewhere.img");
        Path node = machine.plug("sdx", Files.size(rewritten), "BR-7001");
        Files.copy(rewritten, node, StandardCopyOption.REPLACE_EXISTING);
        List<PluggedIn.Arrival> arrivals = pluggedIn.arrived(List.of(), pluggedIn.now());
        assertThat(before).hasSize(1);
        assertThat(arrivals).hasSize(1);
        assertThat(arrivals.get(0).board()).contains(BOARD);
        assertThat(arrivals.get(0).words())
                .contains("Its disk identifier was 5eed0001 and is 5eed0009.")
                .contains("Gone from its start partition: ssh.");
        assertThat(house.workspace.log().all()).extracting(Logbook.Entry::kind).contains("medium-changed");
        assertThat(pluggedIn.arrived(List.of(), pluggedIn.now()).get(0).words()).doesNotContain("Not as it was");
    }

    @Test
    void whatWasReadAgainCounts() throws IOException {
        Media.Medium medium = stick();
        house.boards.plug(house.bench.board(BOARD), "usb1", medium, CarrierKind.ANNOUNCING);
        Path blank = root.resolve("dev/sdx");
        long bytes = Files.size(blank);
        Files.delete(blank);
        DiskBuilder.blank(blank, bytes);
        assertThat(register.read(medium).holds()).isEqualTo("nothing");
        assertThat(house.workspace.log().last().map(Logbook.Entry::kind)).contains("medium-read");
        machine.unplug("sdx");
        assertThat(cell(Step.REHEARSAL).pennant()).isEqualTo(Pennant.FAILING);
    }

    @Test
    void ofAMediumThatWasNeverReadNothingIsSaid() throws IOException {
        Media.Medium medium = new Media.Medium(
                "lent-card",
                "Lent card",
                "card-quick",
                "LC-1",
                ByteSize.ofGigabytes(16),
                "drive:LC-1",
                Optional.empty(),
                ByteSize.ZERO,
                "drawer");
        house.workspace.media().add(medium);
        house.boards.plug(house.bench.board(BOARD), "card", medium, CarrierKind.ANNOUNCING);
        for (Step step : new Step[] {Step.STORAGE, Step.IMAGE, Step.FIRST_START, Step.REHEARSAL}) {
            assertThat(cell(step).pennant()).as(step.code()).isEqualTo(Pennant.UNKNOWN);
            assertThat(cell(step).reason()).contains("Lent card was never read here");
        }
        assertThat(house.benches.of(house.bench.board(BOARD)).attached()).hasSize(1);
    }

    @Test
    void portsAndCarriersNobodyKnowsAreRefusedAndAMediumComesOut() throws IOException {
        Media.Medium medium = stick();
        assertThatThrownBy(() -> house.boards.plug(house.bench.board(BOARD), "usb9", medium, CarrierKind.ANNOUNCING))
                .isInstanceOf(BadArgument.class)
                .hasMessageContaining("usb9")
                .hasMessageContaining("card");
        assertThatThrownBy(() -> CarrierKind.require("quiet")).isInstanceOf(BadArgument.class);
        house.boards.plug(house.bench.board(BOARD), "usb1", medium, CarrierKind.SILENT);
        assertThat(house.boards.unplug(house.bench.board(BOARD), medium).attached())
                .isEmpty();
        assertThatThrownBy(() -> house.boards.unplug(house.bench.board(BOARD), medium))
                .hasMessageContaining("is not in Store-room spare");
    }

    /** What was kept is nobody else's to read: a root's accounts are in it. */
    @Test
    void whatWasReadIsItsOwnersAlone() throws IOException {
        Media.Medium medium = stick();
        Path kept = house.folder.resolve("read").resolve(medium.id() + ".zip");
        assertThat(Files.getPosixFilePermissions(kept)).hasSize(2);
        house.bench.readings().forget(medium);
        assertThat(kept).doesNotExist();
    }
}

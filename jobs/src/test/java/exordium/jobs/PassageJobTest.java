// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.TransferWatch;
import exordium.core.finding.BadArgument;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.Deed;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Step;
import exordium.core.passage.Wish;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.media.MediumKind;
import exordium.core.writing.Ending;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.PassageParts;
import exordium.jobs.passage.Progress;
import exordium.jobs.shelf.Intake;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Passages;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Passages carried out in the demo house, step by step, by the jobs that do such things anywhere else. */
class PassageJobTest {
    private static final PassagePlan.Given NOTHING = PassagePlan.Given.NOTHING;

    @TempDir
    Path folder;

    private House house;
    private PassageJob job;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
        asQuickAsTheyAre();
        job = new PassageJob(house.bench, house.benches, house.sheets, house.targets());
    }

    /** Virtual drives keep the pace of their kind, which nobody waits for here. */
    private void asQuickAsTheyAre() throws IOException {
        try (Stream<Path> all = Files.list(house.workspace.drives())) {
            for (Path each :
                    all.filter(file -> file.toString().endsWith(".drive.yaml")).toList()) {
                Files.writeString(
                        each, Files.readString(each).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
            }
        }
    }

    private PassageJob.Shown done(String board, String step, String typed) throws IOException {
        return job.done(step, Optional.of(board), typed, Map.of(), TransferWatch.NONE);
    }

    /** Carries out whatever comes next, typing the name that is asked for. */
    private PassageJob.Shown toTheEnd(String board) throws IOException {
        PassageJob.Shown shown = job.show(Optional.of(board)).get(0);
        for (int i = 0; i < 40 && shown.underWay(); i++) {
            PassageJob.Standing next = shown.next().orElseThrow();
            shown = done(board, next.step().id(), next.confirm().orElse(""));
        }
        return shown;
    }

    private Trace start(String board) throws IOException {
        return Rehearsal.of(house.benches.of(house.bench.board(board)));
    }

    private static List<String> deeds(PassageJob.Shown shown) {
        return shown.steps().stream().map(each -> each.step().deed().code()).toList();
    }

    @Test
    void aNewBoardRunsFromACardThatIsProvenAndSetUp() throws IOException {
        String board = "store-room-spare";
        PassageJob.Shown shown = job.start(board, Wish.of(Wish.Kind.NEW_BOARD), NOTHING, 1);
        assertThat(deeds(shown)).containsExactly("write", "set-up", "plug", "power-on", "look");
        assertThat(shown.next().orElseThrow().confirm()).contains("spare-card-32.img");
        // Without its name nothing is written, and the step is the next one still.
        assertThatThrownBy(() -> done(board, "write-spare-card-32", "")).isInstanceOf(Refused.class);
        assertThatThrownBy(() -> done(board, "plug-spare-card-32", ""))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("comes after write-spare-card-32");
        shown = toTheEnd(board);
        assertThat(shown.state()).isEqualTo(Passages.State.DONE);
        assertThat(shown.steps()).allMatch(each -> each.progress() == Progress.DONE);
        assertThat(start(board).rootFrom()).contains("card");
        assertThat(house.workspace.log().all())
                .extracting(entry -> entry.kind())
                .contains("write-verified", "drive-plugged", "start-seen");
    }

    /** Its order never reaches its drive, and its kernel line names a card: the card that helps, the drive mended at the PC, the order. */
    @Test
    void aBoardThatDoesNotStartComesBackToItsDrive() throws IOException {
        String board = "film-loop";
        assertThat(start(board).runs()).isFalse();
        PassageJob.Shown shown =
                job.start(board, Wish.parse("order=0xf461"), new PassagePlan.Given(Set.of("usb-m2-nvme"), Set.of()), 1);
        assertThat(deeds(shown))
                .containsExactly(
                        "write",
                        "take-out",
                        "set-up",
                        "plug",
                        "plug",
                        "power-on",
                        "stage-order",
                        "restart",
                        "power-off",
                        "take-out",
                        "power-on",
                        "look");
        shown = toTheEnd(board);
        assertThat(shown.state()).isEqualTo(Passages.State.DONE);
        assertThat(start(board).rootFrom()).contains("nvme");
        assertThat(house.bench.board(board).order()).isEqualTo("0xf461");
    }

    @Test
    void whatFailsHalfWayIsPlannedAnewAndSaysWhy() throws IOException {
        String board = "store-room-spare";
        job.start(board, Wish.of(Wish.Kind.NEW_BOARD), NOTHING, 1);
        Path description = house.bench.driveFile("spare-card-32.img.drive.yaml");
        Files.writeString(
                description,
                Files.readString(description).replaceAll("(?m)^faults: .*$", "faults: [\"stale:0+20971520\"]"));
        assertThatThrownBy(() -> done(board, "write-spare-card-32", "spare-card-32.img"))
                .isInstanceOf(NotPossible.class);
        PassageJob.Shown shown = job.show(Optional.of(board)).get(0);
        assertThat(shown.steps().get(0).progress()).isEqualTo(Progress.FALLEN);
        assertThat(shown.changed()).contains("Planned anew");
        assertThat(shown.underWay()).isTrue();
        assertThat(shown.next()).isPresent();
    }

    @Test
    void aStepFallsWhenItsEvidenceFalls() throws IOException {
        String board = "store-room-spare";
        job.start(board, Wish.of(Wish.Kind.NEW_BOARD), NOTHING, 1);
        done(board, "write-spare-card-32", "spare-card-32.img");
        done(board, "set-up-spare-card-32", "");
        done(board, "plug-spare-card-32", "");
        house.boards.unplug(
                house.bench.board(board),
                house.workspace.media().byFile("spare-card-32.img").orElseThrow());
        PassageJob.Shown shown = job.show(Optional.of(board)).get(0);
        assertThat(shown.changed()).startsWith("Tidewell 32 is not in card any more.");
        assertThat(shown.steps())
                .filteredOn(each -> each.step().deed() == Deed.PLUG)
                .extracting(PassageJob.Standing::progress)
                .contains(Progress.FALLEN);
        assertThat(toTheEnd(board).state()).isEqualTo(Passages.State.DONE);
        assertThat(start(board).runs()).isTrue();
    }

    /** Whether it is used where nothing else of the drawer is. */
    private boolean uses(String board, String medium) throws IOException {
        Set<String> others = house.workspace.media().all().stream()
                .map(Media.Medium::id)
                .filter(id -> !id.equals(medium))
                .collect(Collectors.toSet());
        return job.plan(board, Wish.of(Wish.Kind.NEW_BOARD), new PassagePlan.Given(Set.of(), others)).routes().stream()
                .flatMap(route -> route.steps().stream())
                .anyMatch(step -> step.medium().filter(medium::equals).isPresent());
    }

    /** What a board wrote to a card is nowhere else: nobody writes over it, whatever was written to it before that. */
    @Test
    void aCardThatWasInABoardIsNotWrittenOver() throws IOException {
        String board = "store-room-spare";
        job.start(board, Wish.of(Wish.Kind.NEW_BOARD), NOTHING, 1);
        done(board, "write-spare-card-32", "spare-card-32.img");
        assertThat(uses("film-loop", "spare-card-32")).isTrue();
        done(board, "set-up-spare-card-32", "");
        done(board, "plug-spare-card-32", "");
        done(board, "power-on", "");
        job.stop(board);
        house.boards.unplug(
                house.bench.board(board),
                house.workspace.media().byFile("spare-card-32.img").orElseThrow());
        assertThat(uses("film-loop", "spare-card-32")).isFalse();
        // Its own board may have it in again, as it is.
        assertThat(job.plan(board, Wish.of(Wish.Kind.NEW_BOARD), NOTHING)
                        .routes()
                        .get(0)
                        .steps())
                .filteredOn(step -> step.medium().equals(Optional.of("spare-card-32")))
                .extracting(Step::deed)
                .containsExactly(Deed.PLUG);
    }

    /** What came out of a board that ran from it is no free medium, whatever was begun on it since. */
    @Test
    void aSystemsCardThatWasTakenOutHoldsWhatItHeld() throws IOException {
        Media.Medium card =
                house.workspace.media().byFile("tide-clock-card.img").orElseThrow();
        house.boards.unplug(house.bench.board("tide-clock"), card);
        assertThat(uses("film-loop", card.id())).isFalse();
        Operations operations = house.workspace.operations();
        long row = operations.begin(
                new Operations.Action(
                        "first-start", Optional.empty(), Optional.of(card.id()), card.file(), "key", true),
                "setting up");
        operations.end(row, Ending.INTERRUPTED, true, "");
        assertThat(uses("film-loop", card.id())).isFalse();
        assertThat(uses("film-loop", "spare-card-32")).isTrue();
    }

    /** A bare M.2 drive and what it stands in are bought; what came is taken into the register, and its board knows the enclosure. */
    @Test
    void whatWasBoughtGoesIntoItsEnclosureAndTheBoardStartsFromIt() throws IOException {
        String board = "film-loop";
        Set<String> others = house.bench.media().kinds().stream()
                .filter(kind -> !kind.bus().equals("network") && !kind.bus().equals("emmc"))
                .map(MediumKind::id)
                .filter(kind -> !kind.equals("ssd-m2-sata"))
                .collect(Collectors.toSet());
        PassageJob.Shown shown =
                job.start(board, Wish.of(Wish.Kind.NEW_BOARD), new PassagePlan.Given(Set.of(), others), 1);
        assertThat(deeds(shown)).startsWith("buy", "buy");
        assertThatThrownBy(() -> done(board, "buy-m2-sata-240", "")).hasMessageContaining("into the register first");
        new Intake(house.bench).drive("bought-240", "ssd-m2-sata", ByteSize.ofGigabytes(240));
        asQuickAsTheyAre();
        done(board, "buy-m2-sata-240", "");
        shown = toTheEnd(board);
        assertThat(shown.state()).isEqualTo(Passages.State.DONE);
        assertThat(house.bench.board(board).board().attached())
                .filteredOn(plug -> plug.port().startsWith("usb"))
                .singleElement()
                .satisfies(plug -> assertThat(plug.enclosure()).contains("usb-m2-sata"));
        assertThat(start(board).rootFrom()).contains("usb1");
        assertThat(job.show(Optional.of(board)).get(0).state()).isEqualTo(Passages.State.DONE);
    }

    /** What is done at a board by hand is told with what was seen, and never taken for granted. */
    @Test
    void atABoardByHandWhatWasSeenIsTold() throws IOException {
        String board = "slipway-lamp";
        job.start(board, Wish.parse("order=0xf1"), NOTHING, 1);
        done(board, "stage-order-0xf1", "");
        assertThatThrownBy(() -> done(board, "restart", ""))
                .isInstanceOf(BadArgument.class)
                .hasMessageContaining("order=VALUE");
        job.done("restart", Optional.empty(), "", Map.of("order", "0xf1"), TransferWatch.NONE);
        assertThatThrownBy(() -> done(board, "look", ""))
                .isInstanceOf(BadArgument.class)
                .hasMessageContaining("rootDevice");
        assertThatThrownBy(() -> job.done("look", Optional.empty(), "", Map.of("rot", "x"), TransferWatch.NONE))
                .isInstanceOf(UnknownName.class);
        PassageJob.Shown shown =
                job.done("look", Optional.empty(), "", Map.of("rootDevice", "/dev/mmcblk0p2"), TransferWatch.NONE);
        assertThat(shown.state()).isEqualTo(Passages.State.DONE);
        assertThat(house.bench.board(board).order()).isEqualTo("0xf1");
    }

    @Test
    void aRootThatIsElsewhereIsNoProof() throws IOException {
        job.start("slipway-lamp", Wish.parse("order=0xf1"), NOTHING, 1);
        done("slipway-lamp", "stage-order-0xf1", "");
        job.done("restart", Optional.empty(), "", Map.of("order", "0xf1"), TransferWatch.NONE);
        assertThatThrownBy(() ->
                        job.done("look", Optional.empty(), "", Map.of("rootDevice", "/dev/sda2"), TransferWatch.NONE))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("/dev/sda2");
    }

    @Test
    void oneAtATimeAndItCanBeLeft() throws IOException {
        String board = "mast-webcam";
        job.start(board, Wish.parse("order=0xf1"), NOTHING, 1);
        assertThatThrownBy(() -> job.start(board, Wish.of(Wish.Kind.SPARE), NOTHING, 1))
                .isInstanceOf(NotPossible.class)
                .hasMessageContaining("order=0xf1");
        assertThat(job.stop(board).state()).isEqualTo(Passages.State.STOPPED);
        assertThatThrownBy(() -> job.stop(board)).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> job.start(board, Wish.parse("order=0xf1"), NOTHING, 4))
                .isInstanceOf(BadArgument.class);
    }

    @Test
    void aPartThatIsBoughtIsAtHandFromThenOn() throws IOException {
        PassageParts parts = new PassageParts(house.bench, house.benches, job);
        job.start("wave-tank", Wish.of(Wish.Kind.RETIRE), NOTHING, 1);
        assertThat(parts.shopping()).extracting(PassageParts.ToBuy::thing).contains("usb-m2-nvme");
        done("wave-tank", "buy-usb-m2-nvme", "");
        assertThat(parts.shopping()).isEmpty();
        assertThat(parts.parts())
                .filteredOn(each -> each.part().id().equals("usb-m2-nvme"))
                .allMatch(PassageParts.AtHand::here);
        parts.tell("reader", false);
        assertThat(parts.parts())
                .filteredOn(each -> each.part().id().equals("reader"))
                .noneMatch(PassageParts.AtHand::here);
        assertThatThrownBy(() -> parts.tell("raeder", true)).isInstanceOf(UnknownName.class);
    }

    @Test
    void thingsThatAreForbiddenAreNotBoughtEither() throws IOException {
        PassagePlan without =
                job.plan("wave-tank", Wish.of(Wish.Kind.RETIRE), new PassagePlan.Given(Set.of(), Set.of("enclosure")));
        assertThat(without.possible()).isFalse();
        assertThat(without.missing()).extracting(PassagePlan.Missing::thing).contains("usb-m2-nvme");
        assertThatThrownBy(() -> job.plan(
                        "wave-tank", Wish.of(Wish.Kind.RETIRE), new PassagePlan.Given(Set.of("raeder"), Set.of())))
                .isInstanceOf(UnknownName.class);
    }

    /** Nothing of a passage lies only in memory: another opening of the workspace goes on with it. */
    @Test
    void itGoesOnAfterTheProgramWasClosed() throws IOException {
        job.start("store-room-spare", Wish.of(Wish.Kind.NEW_BOARD), NOTHING, 1);
        done("store-room-spare", "write-spare-card-32", "spare-card-32.img");
        PassageJob again = new PassageJob(house.bench, house.benches, house.sheets, house.targets());
        assertThat(again.show(Optional.empty())
                        .get(0)
                        .next()
                        .orElseThrow()
                        .step()
                        .deed())
                .isEqualTo(Deed.SET_UP);
    }

    @Test
    void aPassageOfSomebodyElsesThatIsNoneIsRefused() {
        Passages.Passage passage = new Passages.Passage(
                1, "film-loop", "to-nvme", Passages.State.UNDER_WAY, House.NOW, "{\"steps\":[null]}", "");
        assertThatThrownBy(() -> PassageJob.requireWhole(passage)).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> PassageJob.requireWhole(passage.with(Passages.State.DONE, "[[[[", "")))
                .isInstanceOf(UnreadableInput.class);
    }
}

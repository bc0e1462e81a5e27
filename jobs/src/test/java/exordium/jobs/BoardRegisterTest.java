// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardState;
import exordium.core.access.BoardWay;
import exordium.core.access.BoardWays;
import exordium.core.access.Knowledge;
import exordium.core.access.Known;
import exordium.core.access.Sighting;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Supply;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.board.SightingJob;
import exordium.jobs.firmware.FirmwareJob;
import exordium.jobs.order.OrderJob;
import exordium.store.Boards;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Boards of one's own: described, changed, and told what was seen at them. */
class BoardRegisterTest {
    private static final LocalDate OLD = LocalDate.parse("2025-06-03");
    private static final LocalDate NEW = LocalDate.parse("2026-09-02");

    @TempDir
    Path folder;

    private House house;
    private BoardRegister register;

    @BeforeEach
    void open() throws IOException {
        house = House.empty(folder);
        register = new BoardRegister(house.bench);
    }

    private static BoardRegister.Description wanted(String name, String profile, String memory) {
        return BoardRegister.Description.of(name, profile, memory);
    }

    private static Optional<String> none() {
        return Optional.empty();
    }

    /** What is said of a board beside its name, family and memory. */
    private static BoardRegister.Description said(
            BoardWay reach, String supply, String mac, LocalDate firmware, String order, String carrier) {
        return new BoardRegister.Description(
                none(),
                none(),
                none(),
                none(),
                Optional.ofNullable(reach),
                Optional.ofNullable(supply),
                none(),
                Optional.ofNullable(mac),
                Optional.ofNullable(firmware),
                Optional.empty(),
                Optional.ofNullable(order),
                Optional.empty(),
                Optional.ofNullable(carrier),
                Optional.empty(),
                Optional.empty(),
                none());
    }

    private void byHand(String name, String profile, String memory) throws IOException {
        Boards.Board board = register.add(wanted(name, profile, memory));
        register.edit(house.bench.board(board.id()), said(BoardWays.byHand(), null, null, OLD, "0xf41", null));
    }

    private SightingJob.Outcome tell(String board, Sighting telling) throws IOException {
        return new SightingJob(house.bench, house.benches).told(house.bench.board(board), telling);
    }

    private static Sighting telling(LocalDate firmware, String order, String root, String started) {
        return new Sighting(
                Optional.ofNullable(firmware),
                Optional.ofNullable(order),
                Optional.ofNullable(root),
                Optional.ofNullable(started),
                none());
    }

    @ParameterizedTest
    @CsvSource({
        "plover-3, 1 GB",
        "plover-4, 4 GB",
        "plover-5, 8 GB",
        "curlew-e, 512 MB",
        "dunlin-u, 8 GB",
    })
    void aNewBoardOfEveryFamilyStandsInTheDaySheet(String profile, String memory) throws IOException {
        Boards.Board board = register.add(wanted("Tide clock", profile, memory));
        assertThat(board.id()).isEqualTo("tide-clock");
        assertThat(board.way()).isEqualTo(BoardWays.simulated());
        var state = house.sheets.now().board("tide-clock");
        assertThat(state.cell(Step.STORAGE).pennant()).isEqualTo(Pennant.UNKNOWN);
        assertThat(state.cell(Step.ORDER).pennant()).isEqualTo(Pennant.PROVEN);
        assertThat(house.workspace.log().last().orElseThrow().kind()).isEqualTo("board-added");
    }

    @Test
    void unknownFirmwareIsTakenAsTheOldestAndSaysSo() throws IOException {
        register.add(wanted("One", "plover-5", "8 GB"));
        assertThat(house.bench.board("one").board().firmware()).isEqualTo(LocalDate.parse("2025-01-15"));
        assertThat(house.bench.board("one").register().place()).isEqualTo("Workbench");
        assertThat(house.workspace.log().last().orElseThrow().text()).contains("not known");
    }

    @Test
    void whatCannotBeABoardIsNamedAndNothingIsKept() {
        assertThatThrownBy(() -> register.add(wanted("  ", "plover-4", "4 GB"))).hasMessageContaining("name");
        assertThatThrownBy(() -> register.add(wanted("A", "plover-9", "4 GB"))).hasMessageContaining("plover-9");
        assertThatThrownBy(() -> register.add(wanted("A", "plover-4", "3 GB"))).hasMessageContaining("3 GB");
        assertThat(house.workspace.boards().all()).isEmpty();
    }

    @Test
    void twoBoardsCannotHaveOneNameNorOneHardwareAddress() throws IOException {
        register.add(wanted("Tide clock", "plover-4", "4 GB"));
        assertThatThrownBy(() -> register.add(wanted("tide  CLOCK!", "plover-4", "4 GB")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("already");
        register.add(wanted("Mast", "plover-4", "4 GB"));
        register.edit(house.bench.board("mast"), said(null, null, "02-47-50-00-00-0A", null, null, null));
        assertThat(house.bench.board("mast").board().mac()).isEqualTo("02:47:50:00:00:0a");
        assertThatThrownBy(() -> register.edit(
                        house.bench.board("tide-clock"), said(null, null, "02:47:50:00:00:0a", null, null, null)))
                .isInstanceOf(NameTaken.class)
                .hasMessageContaining("Mast");
    }

    @Test
    void whatIsEditedChangesAndTheRestStays() throws IOException {
        register.add(wanted("Tide clock", "plover-5", "8 GB"));
        BoardState before = house.bench.board("tide-clock").board();
        register.edit(house.bench.board("tide-clock"), said(null, "poe-at", null, NEW, "0xf416", "silent 2230, 2242"));
        BoardState after = house.bench.board("tide-clock").board();
        assertThat(after.supply()).isEqualTo(new Supply(5, 5, "poe-at"));
        assertThat(after.firmware()).isEqualTo(NEW);
        assertThat(house.bench.board("tide-clock").order()).isEqualTo("0xf416");
        assertThat(after.carrier()).contains(new BoardState.Carrier(false, List.of(2230, 2242)));
        assertThat(after.memory()).isEqualTo(before.memory());
        assertThat(after.known()).isEqualTo(Knowledge.NOTHING);
        assertThatThrownBy(
                        () -> register.edit(house.bench.board("tide-clock"), said(null, null, null, null, null, null)))
                .hasMessageContaining("what is to be changed");
    }

    @ParameterizedTest
    @ValueSource(strings = {"12 V 2 A", "5 V", "poe", "5 V 0 A", "lots"})
    void aSupplyThatCannotBeIsRefused(String supply) throws IOException {
        register.add(wanted("Tide clock", "plover-5", "8 GB"));
        BoardState before = house.bench.board("tide-clock").board();
        assertThatThrownBy(() ->
                        register.edit(house.bench.board("tide-clock"), said(null, supply, null, null, null, null)))
                .isInstanceOf(BadArgument.class);
        assertThat(house.bench.board("tide-clock").board()).isEqualTo(before);
    }

    @Test
    void ofANewBoardByHandNothingIsKnownThatNobodyTold() throws IOException {
        register.add(new BoardRegister.Description(
                Optional.of("Own"),
                none(),
                Optional.of("plover-4"),
                Optional.of("4 GB"),
                Optional.of(BoardWays.byHand()),
                none(),
                none(),
                none(),
                Optional.of(OLD),
                Optional.empty(),
                none(),
                Optional.empty(),
                none(),
                Optional.empty(),
                Optional.empty(),
                none()));
        Knowledge told = house.bench.board("own").board().known();
        assertThat(told.firmware().map(Known::by)).contains(Known.By.TOLD);
        assertThat(told.order().map(Known::by)).contains(Known.By.DEFAULT);
        assertThat(house.sheets.now().board("own").cell(Step.ORDER).pennant()).isEqualTo(Pennant.UNKNOWN);
        assertThat(house.sheets.now().board("own").cell(Step.FIRMWARE).by()).isEqualTo(Known.By.TOLD);
    }

    @Test
    void aRestartOfABoardByHandIsStepsAndOnlyTellingChangesWhatIsKnown() throws IOException {
        byHand("Own", "plover-4", "4 GB");
        new FirmwareJob(house.bench)
                .stage(
                        house.bench.board("own"),
                        house.bench.firmware().find("plover-4", NEW).orElseThrow());
        assertThat(house.boards.restart(house.bench.board("own")).trace()).isEmpty();
        assertThat(house.boards.restart(house.bench.board("own")).steps())
                .anyMatch(step -> step.contains("take firmware 2026-09-02"))
                .anyMatch(step -> step.contains("do not switch it off"));
        assertThat(house.boards.switchOff(house.bench.board("own")).steps())
                .anyMatch(step -> step.contains("is lost by this"));
        BoardState waiting = house.bench.board("own").board();
        assertThat(waiting.firmware()).isEqualTo(OLD);
        assertThat(waiting.chip().staged()).contains(NEW);

        List<Finding> findings = tell("own", telling(OLD, null, null, null)).findings();
        assertThat(findings).extracting(Finding::code).containsExactly("told-not-taken-over");
        assertThat(tell("own", telling(NEW, null, null, null)).findings()).isEmpty();
        BoardState done = house.bench.board("own").board();
        assertThat(done.firmware()).isEqualTo(NEW);
        assertThat(done.chip().anythingStaged()).isFalse();
        assertThat(house.workspace.log().all())
                .extracting(each -> each.kind())
                .contains("firmware-staged", "firmware-updated", "board-told");
    }

    @Test
    void anOrderToldAsItWasMeantIsSetAndAnotherOneStillWaits() throws IOException {
        byHand("Own", "plover-4", "4 GB");
        new OrderJob(house.bench).stage(house.bench.board("own"), "0xf14");
        assertThat(tell("own", telling(null, "0xf41", null, null)).findings())
                .extracting(Finding::code)
                .containsExactly("told-not-taken-over");
        assertThat(house.bench.board("own").stagedOrder()).contains("0xf14");
        tell("own", telling(null, "0xf14", null, null));
        assertThat(house.bench.board("own").order()).isEqualTo("0xf14");
        assertThat(house.bench.board("own").stagedOrder()).isEmpty();
    }

    @Test
    void aStartThatWasToldIsHeldAgainstTheRehearsal() throws IOException {
        byHand("Own", "plover-4", "4 GB");
        // Nothing is plugged in as far as anybody knows, so it cannot have started from the card.
        assertThat(tell("own", telling(null, null, "mmcblk0p2", "card")).findings())
                .extracting(Finding::code)
                .containsExactly("told-otherwise");
        Knowledge told = house.bench.board("own").board().known();
        assertThat(told.root().map(Knowledge.Seen::what)).contains("/dev/mmcblk0p2");
        assertThat(told.started().map(Knowledge.Seen::what)).contains("card");
        tell("own", new Sighting(Optional.empty(), none(), none(), none(), Optional.of("red lamp, seven blinks")));
        Knowledge broken = house.bench.board("own").board().known();
        assertThat(broken.trouble().map(Knowledge.Seen::what)).contains("red lamp, seven blinks");
        assertThat(broken.started()).isEmpty();
        assertThat(broken.firmware().map(Known::by)).contains(Known.By.TOLD);
    }

    @Test
    void whatCannotBeToldIsRefusedAndChangesNothing() throws IOException {
        register.add(wanted("Played", "plover-4", "4 GB"));
        assertThatThrownBy(() -> tell("played", telling(NEW, null, null, null))).hasMessageContaining("simulated");
        byHand("Own", "plover-4", "4 GB");
        BoardState before = house.bench.board("own").board();
        assertThatThrownBy(() -> tell("own", telling(null, null, null, null))).hasMessageContaining("Tell something");
        assertThatThrownBy(() -> tell("own", telling(LocalDate.parse("2999-01-01"), null, null, null)))
                .isInstanceOf(BadArgument.class);
        assertThatThrownBy(() -> tell("own", telling(null, "0xF4G", null, null)))
                .isInstanceOf(BadArgument.class);
        assertThatThrownBy(() -> tell("own", telling(null, null, "over there", null)))
                .isInstanceOf(BadArgument.class);
        assertThatThrownBy(() -> tell("own", telling(null, null, null, "nvme"))).hasMessageContaining("no port");
        assertThat(house.bench.board("own").board()).isEqualTo(before);
    }

    @Test
    void aPlayedBoardMadeByHandIsKnownAsItWasReadLastAndBackAgainLosesWhatWaits() throws IOException {
        register.add(wanted("Own", "plover-4", "4 GB"));
        register.edit(house.bench.board("own"), said(BoardWays.byHand(), null, null, null, null, null));
        assertThat(house.bench.board("own").board().known().firmware().map(Known::by))
                .contains(Known.By.READ);
        tell("own", telling(NEW, null, null, null));
        new OrderJob(house.bench).stage(house.bench.board("own"), "0xf14");
        register.edit(house.bench.board("own"), said(BoardWays.simulated(), null, null, null, null, null));
        assertThat(house.bench.board("own").board().known()).isEqualTo(Knowledge.NOTHING);
        assertThat(house.bench.board("own").board().chip().anythingStaged()).isFalse();
    }
}

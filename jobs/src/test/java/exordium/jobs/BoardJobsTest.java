// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareRelease;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firmware.FirmwareJob;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.order.OrderJob;
import exordium.store.Logbook;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BoardJobsTest {
    private static final LocalDate NEWEST = LocalDate.parse("2026-09-02");

    @TempDir
    Path folder;

    private House house;

    @BeforeEach
    void open() throws IOException {
        house = House.demo(folder);
    }

    private Workbench.BoardAtHand board(String id) throws IOException {
        return house.bench.board(id);
    }

    private FirmwareRelease newest(String board) throws IOException {
        return new FirmwareJob(house.bench).release(board(board), NEWEST);
    }

    private List<String> newEntries(String board) {
        return house.workspace.log().all().stream()
                .filter(entry -> entry.at().equals(House.NOW)
                        && entry.board().filter(board::equals).isPresent())
                .map(Logbook.Entry::kind)
                .toList();
    }

    @Test
    void anUpdateTakesEffectAtTheRestart() throws IOException {
        new FirmwareJob(house.bench).stage(board("ticket-desk"), newest("ticket-desk"));
        assertThat(board("ticket-desk").board().firmware()).isEqualTo(LocalDate.parse("2025-06-03"));
        assertThat(house.sheets.now().board("ticket-desk").cell(Step.FIRMWARE).figure())
                .isEqualTo("staged");
        Trace trace = house.boards.restart(board("ticket-desk")).trace().orElseThrow();
        assertThat(trace.runs()).isTrue();
        assertThat(board("ticket-desk").board().firmware()).isEqualTo(NEWEST);
        assertThat(house.sheets.now().board("ticket-desk").cell(Step.FIRMWARE).pennant())
                .isEqualTo(Pennant.PROVEN);
        assertThat(newEntries("ticket-desk")).containsExactly("firmware-staged", "firmware-updated", "start-seen");
    }

    @Test
    void switchingOffInsteadLosesTheUpdate() throws IOException {
        new FirmwareJob(house.bench).stage(board("ticket-desk"), newest("ticket-desk"));
        house.boards.switchOff(board("ticket-desk"));
        assertThat(board("ticket-desk").board().firmware()).isEqualTo(LocalDate.parse("2025-06-03"));
        assertThat(newEntries("ticket-desk")).containsExactly("firmware-staged", "staged-lost", "start-seen");
    }

    @Test
    void theReadOnlyOverlayRefusesAnUpdate() throws IOException {
        assertThatThrownBy(() ->
                        new FirmwareJob(house.bench).stage(board("oral-history-booth"), newest("oral-history-booth")))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("overlay");
        assertThat(board("oral-history-booth").board().chip().anythingStaged()).isFalse();
        assertThat(newEntries("oral-history-booth")).isEmpty();
    }

    /** The film loop's whole story: wrong order, then a root named by its place, then it runs. */
    @Test
    void theFilmLoopIsMendedStepByStep() throws IOException {
        new OrderJob(house.bench).stage(board("film-loop"), "0xf416");
        Trace first = house.boards.restart(board("film-loop")).trace().orElseThrow();
        assertThat(first.cause()).isEqualTo(Cause.ROOT_NOT_FOUND);
        FirstStartPlan plan = new FirstStartJob(house.bench)
                .apply(board("film-loop"), "film-loop-nvme.img", IntentsReader.of(Map.of("rootByIdentifier", true)));
        assertThat(plan.edits()).hasSize(1);
        Trace second = house.boards.restart(board("film-loop")).trace().orElseThrow();
        assertThat(second.runs()).isTrue();
        assertThat(second.startedFrom()).contains("nvme");
        assertThat(newEntries("film-loop"))
                .containsExactly("order-staged", "order-changed", "start-failed", "first-start-edited", "start-seen");
    }

    @Test
    void anOrderThatCannotBeReadIsRefusedAndChangesNothing() throws IOException {
        for (String value : List.of("0xF41", "f41", "0xf4g", "", "0x123456789")) {
            assertThatThrownBy(() -> new OrderJob(house.bench).stage(board("tide-clock"), value))
                    .isInstanceOf(Refused.class);
        }
        assertThat(board("tide-clock").board().chip().anythingStaged()).isFalse();
    }

    @Test
    void aFuseIsNotASetting() {
        assertThatThrownBy(() -> new OrderJob(house.bench).stage(board("engine-room-sound"), "3020000a"))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("bit 29")
                .hasMessageContaining("never be undone");
    }

    @Test
    void aReleaseThatIsNotThereIsNamed() {
        assertThatThrownBy(
                        () -> new FirmwareJob(house.bench).release(board("ticket-desk"), LocalDate.parse("2024-01-01")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("2024-01-01");
    }

    @Test
    void pluggingADriveTakesItOutOfWhereItWas() throws IOException {
        house.boards.plug(
                board("store-room-spare"),
                new BoardState.Plug("card", "tide-clock-card.img", "card-quick", CarrierKind.ANNOUNCING, true));
        assertThat(board("tide-clock").board().attached()).isEmpty();
        assertThat(house.bench
                        .holder("tide-clock-card.img")
                        .orElseThrow()
                        .register()
                        .id())
                .isEqualTo("store-room-spare");
        assertThat(newEntries("store-room-spare")).containsExactly("drive-plugged");
    }

    @Test
    void nothingToChangeWritesNothing() throws IOException {
        FirstStartPlan plan =
                new FirstStartJob(house.bench).apply(board("tide-clock"), "tide-clock-card.img", Intents.NONE);
        assertThat(plan.edits()).isEmpty();
        assertThat(newEntries("tide-clock")).isEmpty();
    }
}

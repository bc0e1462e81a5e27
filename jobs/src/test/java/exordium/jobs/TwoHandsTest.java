// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.access.BoardState;
import exordium.core.finding.Refused;
import exordium.core.rehearsal.Companions;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.order.OrderJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** One board in two hands: what either does is there, or was refused. */
class TwoHandsTest {
    private static final String BOARD = SmallCard.BOARD;

    @TempDir
    private Path folder;

    private House house;
    private BoardRegister register;

    @BeforeEach
    void aHouse() throws IOException {
        house = House.demo(folder);
        register = new BoardRegister(house.bench);
    }

    private static BoardRegister.Description note(String note) {
        BoardRegister.Description none = BoardRegister.Description.of("", "", "");
        return new BoardRegister.Description(
                Optional.empty(),
                none.place(),
                Optional.empty(),
                Optional.empty(),
                none.way(),
                none.supply(),
                none.serial(),
                none.mac(),
                none.firmware(),
                none.channel(),
                none.order(),
                none.overlay(),
                none.carrier(),
                none.lightlyUsed(),
                none.slotReachable(),
                Optional.of(note));
    }

    /** A form that was opened before, and is confirmed after something was plugged in and staged. */
    @Test
    void whatWasDoneMeanwhileStays() throws IOException {
        Workbench.BoardAtHand opened = house.bench.board(BOARD);
        SmallCard.plug(house);
        new OrderJob(house.bench).stage(house.bench.board(BOARD), "0xf14");
        register.edit(opened, note("in the store"));
        BoardState now = house.bench.board(BOARD).board();
        assertThat(now.attached()).extracting(BoardState.Plug::drive).contains(SmallCard.DRIVE);
        assertThat(now.chip().stagedConfig()).isPresent();
        assertThat(house.bench.board(BOARD).register().note()).isEqualTo("in the store");
        // What goes with an order was worked out from settings that are others by now.
        Workbench.BoardAtHand seen = house.bench.board(BOARD);
        Companions with = new OrderJob(house.bench).companions(seen, house.benches.of(seen), List.of());
        new OrderJob(house.bench).stage(house.bench.board(BOARD), "0xf4");
        assertThatThrownBy(() -> new OrderJob(house.bench).stage(seen, "0xf1", with))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("set otherwise");
    }

    /** Many at once, in threads of one process: one after the other, and nothing of any is lost. */
    @Test
    void deedsAtOneBoardGoOneAfterTheOther() throws Exception {
        SmallCard.plug(house);
        List<Callable<Object>> deeds = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            String note = "note " + i;
            deeds.add(() -> register.edit(house.bench.board(BOARD), note(note)));
            deeds.add(() -> new OrderJob(house.bench).stage(house.bench.board(BOARD), "0xf14"));
        }
        ExecutorService hands = Executors.newFixedThreadPool(4);
        try {
            for (Future<Object> each : hands.invokeAll(deeds)) {
                each.get();
            }
        } finally {
            hands.shutdown();
        }
        Workbench.BoardAtHand now = house.bench.board(BOARD);
        assertThat(now.stagedOrder()).contains("0xf14");
        assertThat(now.register().note()).startsWith("note ");
        assertThat(now.board().attached()).extracting(BoardState.Plug::drive).contains(SmallCard.DRIVE);
        assertThat(house.workspace.operations().running()).isEmpty();
    }
}

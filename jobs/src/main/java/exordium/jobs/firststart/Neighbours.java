// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.access.BoardState;
import exordium.core.board.StartSource;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.Surroundings;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Reach;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What was set up for each board, and how the others are called and reached. */
public final class Neighbours {
    private static final String KEY = HouseRules.FIRST_START;
    private static final ObjectMapper JSON = new ObjectMapper();

    private final Workbench workbench;
    private final BenchReader benches;

    public Neighbours(Workbench workbench) {
        this(workbench, new BenchReader(workbench));
    }

    /** Where benches: has read most of it already. */
    public Neighbours(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** What was set up last, for the next time; it holds no password and no pass phrase. */
    void keep(String board, Intents intents) {
        Optional<Intents> before = kept(board);
        try {
            String text = JSON.writeValueAsString(
                    before.isPresent()
                            ? IntentsReader.merged(IntentsReader.fields(before.get()), IntentsReader.fields(intents))
                            : IntentsReader.fields(intents));
            workbench.keep(KEY + board, text);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    void forget(String board) {
        workbench.keep(KEY + board, "");
    }

    /** What was set up for a board; empty where nothing was, or it is not understood any more. */
    public Optional<Intents> kept(String board) {
        String text = workbench.workspace().settings().get(KEY + board).orElse("");
        try {
            return text.isEmpty() ? Optional.empty() : Optional.of(IntentsReader.read(JSON.readTree(text)));
        } catch (JsonProcessingException | UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** Where board: the one that is set up, which is no neighbour of itself. */
    public Surroundings around(Optional<String> board) throws IOException {
        List<Surroundings.Neighbour> others = new ArrayList<>();
        for (Boards.Board each : workbench.workspace().boards().all()) {
            if (!board.equals(Optional.of(each.id()))) {
                others.add(known(each));
            }
        }
        int freeTail = workbench.rules().freeTail();
        if (board.isEmpty()) {
            return new Surroundings(Optional.empty(), "", false, false, others, freeTail);
        }
        Workbench.BoardAtHand at = workbench.board(board.get());
        List<BoardState.Plug> nvme = at.board().attached().stream()
                .filter(plug -> at.profile()
                        .port(plug.port())
                        .filter(port -> port.source() == StartSource.NVME)
                        .isPresent())
                .toList();
        return new Surroundings(
                Optional.of(ByteSize.parse(at.board().memory())),
                at.board().mac(),
                !nvme.isEmpty(),
                nvme.stream().anyMatch(BoardState.Plug::silent),
                others,
                freeTail);
    }

    /** By what was set up for it here, else by the address its medium fixes. */
    private Surroundings.Neighbour known(Boards.Board board) throws IOException {
        Surroundings.Neighbour set = neighbour(board.name(), kept(board.id()).orElse(Intents.NONE));
        if (set.address().isPresent()) {
            return set;
        }
        Workbench.BoardAtHand at = workbench.atHand(board);
        Optional<MediumContents> contents = benches.mainContents(at);
        return new Surroundings.Neighbour(
                board.name(), set.hostName(), contents.flatMap(each -> Reach.fixedAddress(each, at.profile())));
    }

    static Surroundings.Neighbour neighbour(String name, Intents intents) {
        return new Surroundings.Neighbour(
                name,
                intents.hostName(),
                intents.wantedNetwork()
                        .flatMap(Intents.Network::address)
                        .map(address -> address.replaceFirst("/.*", "")));
    }
}

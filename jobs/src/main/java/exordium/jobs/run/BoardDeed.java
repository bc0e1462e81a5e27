// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import exordium.core.access.BoardDeeds;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.util.Optional;

/** One board that something is done to: its deeds, and the words and rows that go by its name. */
public record BoardDeed(Workbench workbench, Workbench.BoardAtHand at) {
    public BoardDeeds deeds() {
        return workbench.boards().deeds(at.register());
    }

    /** What is done at a board that nobody else does anything to; now: the board as it is at that moment. */
    public interface Deed<T> {
        JobRunner.Outcome<T> at(BoardDeed now) throws IOException;
    }

    /** Does it as one deed, with its row and its end in the logbook, to the board as it is by then. @throws Refused while another goes on */
    public <T> T run(JobRunner.DeedKind kind, Deed<T> deed) throws IOException {
        return new JobRunner(workbench).onBoard(kind, at.register().id(), () -> deed.at(now()));
    }

    /** The same where a medium goes in or out: the row names it. */
    public <T> T run(JobRunner.DeedKind kind, Optional<String> medium, Deed<T> deed) throws IOException {
        String board = at.register().id();
        return new JobRunner(workbench)
                .keyed(kind, Key.board(board).about(medium), Optional.of(board), () -> deed.at(now()));
    }

    private BoardDeed now() throws IOException {
        return new BoardDeed(workbench, workbench.board(at.register().id()));
    }

    /**
     * What was worked out from the board as it was looked at before.
     *
     * @throws Refused when what it starts by is set otherwise by now
     */
    public void requireSettingsAsIn(Workbench.BoardAtHand seen) {
        if (!at.board().chip().nextConfig().equals(seen.board().chip().nextConfig())) {
            throw new Refused(Finding.stop(
                    "board-changed",
                    at.register().name()
                            + " was set otherwise since this was planned; look again. Nothing was changed.",
                    Basis.computed("its settings then and now")));
        }
    }

    /** What came of it; the words follow the board's name. */
    public <T> JobRunner.Outcome<T> outcome(T value, String kind, String words) {
        return new JobRunner.Outcome<>(value, kind, at.register().name() + ": " + words);
    }

    /** Tells the logbook something beside the end. */
    public void log(Step step, String kind, String words) {
        workbench
                .workspace()
                .log()
                .add(
                        Optional.of(at.register().id()),
                        step,
                        kind,
                        at.register().name() + ": " + words,
                        Optional.empty());
    }
}

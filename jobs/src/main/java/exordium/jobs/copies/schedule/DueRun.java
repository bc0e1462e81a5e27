// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.schedule;

import exordium.core.block.TransferWatch;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.care.CareJob;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.daysheet.DaySheets;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Makes the copies that are due, of media that are here; of those that are not it says so. One that fails holds up no other. */
public final class DueRun {
    private final Workbench workbench;
    private final DaySheets sheets;

    public DueRun(Workbench workbench, DaySheets sheets) {
        this.workbench = workbench;
        this.sheets = sheets;
    }

    /** What is to become of one board. */
    public enum State {
        COPIED,
        /** Its medium is not at this machine. */
        AWAY,
        /** Its board may not be off now. */
        WAITS,
        FAILED
    }

    public record Result(String board, State state, String text, Optional<CopyJob.Done> done) {
        public boolean good() {
            return state != State.FAILED;
        }
    }

    /** A board whose copy is due. */
    public record DueBoard(Boards.Board board, CopyRule.Due due, Media.Medium medium, boolean here) {}

    /** Longest overdue first. */
    public List<DueBoard> due() throws IOException {
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        List<DueBoard> due = new ArrayList<>();
        for (Boards.Board board : record.boards()) {
            CopyRule.Due next = sheets.due(board, record);
            Optional<Media.Medium> medium = Workbench.mainMedium(workbench.atHand(board), record.media());
            if (medium.isPresent() && !next.date().isAfter(workbench.today())) {
                due.add(new DueBoard(
                        board, next, medium.get(), workbench.targets().isHere(medium.get())));
            }
        }
        due.sort(Comparator.comparingLong((DueBoard each) -> each.due().overdueDays())
                .reversed());
        return due;
    }

    public List<Result> run(TransferWatch watch) throws IOException {
        List<Result> results = new ArrayList<>();
        for (DueBoard each : due()) {
            String name = each.board().name();
            if (!each.here()) {
                results.add(new Result(
                        each.board().id(),
                        State.AWAY,
                        name + ": due, and " + each.medium().name() + " is not at this machine. Bring it here, or copy"
                                + " it where it is.",
                        Optional.empty()));
                continue;
            }
            if (!new CareJob(workbench).mayBeOff(each.board().id())) {
                results.add(new Result(
                        each.board().id(),
                        State.WAITS,
                        name + ": due, and it may be off only "
                                + new CareJob(workbench)
                                        .of(each.board().id())
                                        .quiet()
                                        .text() + ".",
                        Optional.empty()));
                continue;
            }
            try {
                CopyJob.Done done =
                        new CopyJob(workbench, sheets).run(each.board().id(), watch);
                results.add(new Result(
                        each.board().id(),
                        State.COPIED,
                        name + ": copied and proven; next due " + done.next().date() + ".",
                        Optional.of(done)));
            } catch (Refused | IOException e) {
                results.add(
                        new Result(each.board().id(), State.FAILED, name + ": " + Sentence.of(e), Optional.empty()));
            }
        }
        return results;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.finding.Step;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** All boards and steps, and what to do today, worst first. */
public record DaySheet(List<BoardRow> boards, List<Task> tasks) {

    public static DaySheet of(List<BoardFacts> facts) {
        List<BoardRow> states = facts.stream().map(CellRules::judge).toList();
        List<Task> tasks = new ArrayList<>();
        for (BoardRow state : states) {
            TaskRules.forBoard(state).ifPresent(tasks::addAll);
        }
        tasks.sort(Comparator.comparing((Task task) -> -task.pennant().weight()));
        return new DaySheet(states, List.copyOf(tasks));
    }

    public BoardRow board(String id) {
        return boards.stream()
                .filter(state -> state.id().equals(id))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("no board " + id));
    }

    public long wouldNotStart() {
        return boards.stream()
                .filter(state -> state.cell(Step.REHEARSAL).pennant() == Pennant.FAILING)
                .count();
    }

    /** What is to be said of all starts together; a board of which nothing is known does not count as one that would start. */
    public String starts() {
        long failing = wouldNotStart();
        boolean nothingKnown =
                boards.stream().allMatch(state -> state.cell(Step.REHEARSAL).pennant() == Pennant.UNKNOWN);
        String count = boards.size() == 1 ? "1 board, " : boards.size() + " boards, ";
        if (boards.isEmpty()) {
            return count + "nothing to look after yet";
        }
        if (nothingKnown) {
            return count + "nothing is known of a start yet";
        }
        return count
                + (failing == 0
                        ? "all would start"
                        : failing == 1 ? "one would not start" : failing + " would not start");
    }

    public long due() {
        return tasks.size();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.finding.Step;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Which cells ask for something to be done, in words that name the thing and the deed. */
final class TaskRules {
    private TaskRules() {}

    /** One task for each step that is due or fails; a failing rehearsal only where no earlier step explains it. */
    static Optional<List<Task>> forBoard(BoardRow state) {
        List<Task> tasks = new ArrayList<>();
        boolean explained = false;
        for (Cell cell : state.cells()) {
            boolean failing = cell.pennant() == Pennant.FAILING;
            if (!failing && cell.pennant() != Pennant.DUE) {
                continue;
            }
            if (cell.step() == Step.REHEARSAL && explained) {
                continue;
            }
            explained |= failing && cell.step() != Step.STORAGE;
            tasks.add(new Task(
                    state.id(), cell.step(), cell.pennant(), title(state.name(), cell), cell.reason(), action(cell)));
        }
        return tasks.isEmpty() ? Optional.empty() : Optional.of(tasks);
    }

    private static String title(String name, Cell cell) {
        boolean failing = cell.pennant() == Pennant.FAILING;
        return switch (cell.step()) {
            case STORAGE -> name + storage(cell, failing);
            case IMAGE -> name + ": write not to be trusted";
            case FIRST_START -> name + (failing ? ": settings broken" : ": check first start");
            case FIRMWARE -> name + ": firmware " + cell.figure() + " behind";
            case ORDER, REHEARSAL -> name + " would not start";
            case COPIES ->
                name + (cell.figure().equals("never") ? ": never copied" : ": copy " + cell.figure() + " old");
        };
    }

    private static String storage(Cell cell, boolean failing) {
        if (cell.figure().startsWith("worn")) {
            return ": medium worn out";
        }
        if (cell.figure().endsWith(" left")) {
            return ": replace its medium, " + cell.figure();
        }
        return failing ? ": replace its medium" : ": medium nearly full";
    }

    private static String action(Cell cell) {
        return switch (cell.step()) {
            case STORAGE -> "Choose its next storage";
            case IMAGE -> "Write it again";
            case FIRST_START -> "Look at its settings";
            case FIRMWARE -> "Plan the update";
            case ORDER -> "Change the order";
            case REHEARSAL -> "See where it breaks";
            case COPIES -> "Make the copy";
        };
    }
}

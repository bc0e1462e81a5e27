// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.OrderComparison;
import java.util.List;
import java.util.Optional;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** A start order being put together: rungs that move, and the value they make. */
public final class OrderDraft {
    private final OrderDialect dialect;
    private final String stored;
    private final ObservableList<StartSource> rungs = FXCollections.observableArrayList();

    public OrderDraft(BoardProfile profile, String stored) {
        this.dialect = OrderDialect.of(profile);
        this.stored = stored;
        rungs.setAll(dialect.decode(stored).sources());
    }

    public ObservableList<StartSource> rungs() {
        return rungs;
    }

    /** Sources that are not on the ladder. */
    public List<StartSource> unused() {
        return dialect.available().stream()
                .filter(source -> !rungs.contains(source))
                .toList();
    }

    public void move(int from, int to) {
        if (from >= 0 && from < rungs.size() && to >= 0 && to < rungs.size() && from != to) {
            StartSource moved = rungs.remove(from);
            rungs.add(to, moved);
        }
    }

    public void remove(int index) {
        if (index >= 0 && index < rungs.size()) {
            rungs.remove(index);
        }
    }

    /** Adds before what ends the order, where it would never be reached. */
    public void add(StartSource source) {
        int end = 0;
        while (end < rungs.size() && rungs.get(end) != StartSource.RESTART && rungs.get(end) != StartSource.STOP) {
            end++;
        }
        boolean ends = source == StartSource.RESTART || source == StartSource.STOP;
        rungs.add(ends ? rungs.size() : end, source);
    }

    /** The value the rungs make; empty where they cannot be written down. */
    public Optional<String> value() {
        try {
            return Optional.of(dialect.encode(rungs));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    public boolean changed() {
        return value().filter(value -> !value.equals(stored)).isPresent();
    }

    public List<Finding> findings() {
        return OrderComparison.judge(dialect, rungs);
    }
}

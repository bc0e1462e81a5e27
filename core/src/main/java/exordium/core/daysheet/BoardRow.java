// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.access.BoardWay;
import exordium.core.finding.Step;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** One line of the day sheet. */
public record BoardRow(
        String id, String name, String place, String profile, String memory, BoardWay way, List<Cell> cells) {

    public Cell cell(Step step) {
        return cells.stream()
                .filter(cell -> cell.step() == step)
                .findFirst()
                .orElseThrow(() -> new IllegalStateException("no cell for " + step));
    }

    public Pennant worst() {
        return cells.stream()
                .map(Cell::pennant)
                .max(Comparator.comparingInt(Pennant::weight))
                .orElse(Pennant.UNKNOWN);
    }

    /** The first step that would fail: there the track of the start line breaks. */
    public Optional<Step> breaksAt() {
        return cells.stream()
                .filter(cell -> cell.pennant() == Pennant.FAILING)
                .map(Cell::step)
                .findFirst();
    }
}

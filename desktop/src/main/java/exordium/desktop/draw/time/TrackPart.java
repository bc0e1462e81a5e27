// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.core.daysheet.BoardRow;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.desktop.draw.Drawing;
import java.util.List;

/** The track behind the start line's stations: thick where proven, thin where set, broken where the start would break. */
public final class TrackPart extends Drawing {
    private final List<Cell> cells;

    public TrackPart(BoardRow state) {
        super("The way from power to running, step by step");
        this.cells = state.cells();
        setMouseTransparent(true);
    }

    @Override
    protected void draw(double width, double height) {
        double part = width / cells.size();
        double y = 17;
        boolean broken = false;
        double first = part / 2;
        line(4, y, first - 14, y, "line-ink").setStrokeWidth(1.4);
        for (int i = 0; i + 1 < cells.size(); i++) {
            double from = part * (i + 0.5) + 14;
            double to = part * (i + 1.5) - 14;
            boolean breaks = !broken && cells.get(i).pennant() == Pennant.FAILING;
            broken |= breaks;
            if (breaks) {
                double middle = (from + to) / 2;
                line(from, y, middle - 6, y, "line-soft", "dashed");
                line(middle + 6, y, to, y, "line-soft", "dashed");
                path("line-magenta", middle - 4, y - 9, middle + 3, y - 2, middle - 3, y + 2, middle + 4, y + 9)
                        .setStrokeWidth(2);
            } else if (broken) {
                line(from, y, to, y, "line-soft", "dashed");
            } else {
                boolean solid = cells.get(i).pennant() == Pennant.PROVEN;
                line(from, y, to, y, "line-ink").setStrokeWidth(solid ? 3 : 1);
            }
        }
    }
}

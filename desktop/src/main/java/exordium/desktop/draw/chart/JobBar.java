// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.chart;

import exordium.core.block.TransferWatch.Phase;
import exordium.core.writing.TransferMeter;
import exordium.desktop.draw.Drawing;
import java.util.Optional;

/** How far the running job is: what is done solid, what is to come chequered, as the edge of a chart. */
public final class JobBar extends Drawing {
    private double share;

    public JobBar() {
        super("progress");
        setPrefSize(360, 10);
        setMinSize(120, 10);
        setMaxHeight(10);
    }

    public void show(Optional<TransferMeter.Moment> moment, boolean twoPhases) {
        share = moment.map(each -> twoPhases
                        ? (each.phase() == Phase.READING_BACK || each.phase() == Phase.COMPARING ? 0.5 : 0)
                                + each.share() / 2
                        : each.share())
                .orElse(0.0);
        setAccessibleText(10 * Math.round(share * 10) + " % done");
        redraw();
    }

    @Override
    protected void draw(double width, double height) {
        double end = (width - 2) * share;
        box(0, 1, width - 2, height - 3, "fill-paper", "line-ink");
        for (double x = end; x < width - 2; x += 24) {
            box(x + 12, 1, Math.max(0, Math.min(12, width - 2 - x - 12)), height - 3, "fill-ink");
        }
        box(0, 1, end, height - 3, "fill-deep");
    }
}

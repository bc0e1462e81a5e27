// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.chart;

import exordium.core.health.MediumHealth;
import exordium.core.quantity.ByteRate;
import exordium.desktop.draw.Drawing;
import java.util.List;

/** How quick a medium was each time it was measured: writing below, reading above. */
public final class PaceLine extends Drawing {
    private static final double LEFT = 6;

    private final List<MediumHealth.Pace> all;

    public PaceLine(List<MediumHealth.Pace> all) {
        super("Measured rates over time, " + all.size() + " of them", 84);
        standsAlone();
        this.all = all;
    }

    @Override
    protected void draw(double width, double height) {
        double floor = height - 16;
        line(0, floor, width - 1, floor, "line-soft");
        double most = all.stream()
                .mapToDouble(each -> each.rate().bytesPerSecond())
                .max()
                .orElse(1);
        curve("write", width, floor, most, "line-deep");
        curve("read", width, floor, most, "line-ink");
    }

    private void curve(String kind, double width, double floor, double most, String style) {
        List<MediumHealth.Pace> list =
                all.stream().filter(each -> each.kind().equals(kind)).toList();
        if (list.isEmpty()) {
            return;
        }
        long first = all.get(0).at().getEpochSecond();
        long last = Math.max(first + 1, all.get(all.size() - 1).at().getEpochSecond());
        double[] points = new double[list.size() * 2];
        for (int i = 0; i < list.size(); i++) {
            double share = (list.get(i).at().getEpochSecond() - first) / (double) (last - first);
            points[2 * i] = LEFT + share * (width - 132);
            points[2 * i + 1] = floor - list.get(i).rate().bytesPerSecond() / most * (floor - 14);
            box(points[2 * i] - 2, points[2 * i + 1] - 2, 4, 4, "fill-paper", style);
        }
        path(style, points);
        ByteRate now = list.get(list.size() - 1).rate();
        text(points[points.length - 2] + 8, points[points.length - 1] + 4, kind + " " + now.said(), "figure", "soft");
    }
}

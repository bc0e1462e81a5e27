// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.copies.schedule.VaultForecast;
import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.Drawing;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;

/** The room a board's copies will take in the vault along a year, as steps. */
public final class RoomAhead extends Drawing {
    private static final double DAYS = 365;
    private static final double FIGURES = 86;
    private final List<VaultForecast.Point> points;

    public RoomAhead(List<VaultForecast.Point> points) {
        super(said(points), 92);
        standsAlone();
        this.points = points;
    }

    private static String said(List<VaultForecast.Point> points) {
        VaultForecast.Point last = points.get(points.size() - 1);
        return "In the vault ahead: " + points.get(0).room().said() + " now, "
                + last.room().said() + " in " + last.copies() + " copies after a year";
    }

    @Override
    protected void draw(double width, double height) {
        double room = width - FIGURES;
        double base = height - 20;
        long most =
                points.stream().mapToLong(point -> point.room().bytes()).max().orElse(1);
        line(0, base, room, base, "line-ink");
        double x = 0;
        double y = base;
        for (VaultForecast.Point point : points) {
            double at = ChronoUnit.DAYS.between(points.get(0).day(), point.day()) / DAYS * room;
            double top = base - (base - 18) * point.room().bytes() / Math.max(1, most);
            if (at > x) {
                box(x, y, at - x, base - y, "fill-shallow");
                line(x, y, at, y, "line-deep").setStrokeWidth(2);
                line(at, y, at, top, "line-deep");
            }
            x = at;
            y = top;
        }
        box(x, y, room - x, base - y, "fill-shallow");
        line(x, y, room, y, "line-deep").setStrokeWidth(2);
        text(room + 8, Math.max(12, y + 4), points.get(points.size() - 1).room().said(), "figure");
        for (int month = 1; month < 12; month += 2) {
            var day = points.get(0).day().plusMonths(month).withDayOfMonth(1);
            double at = ChronoUnit.DAYS.between(points.get(0).day(), day) / DAYS * room;
            line(at, base, at, base + 5, "line-soft");
            text(at + 3, height - 5, day.getMonth().getDisplayName(TextStyle.SHORT, Locale.ENGLISH), "soft", "small");
        }
        text(0, 10, ByteSize.of(most).said() + " at the most", "soft", "small");
    }
}

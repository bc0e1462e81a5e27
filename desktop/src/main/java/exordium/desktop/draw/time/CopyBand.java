// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.core.copies.schedule.CopyRule;
import exordium.desktop.draw.Drawing;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import javafx.scene.shape.Polygon;

/** Past copies and the next one due along a band of days around today. */
public final class CopyBand extends Drawing {
    private static final int BEFORE = 120;
    private static final int AFTER = 60;
    private final List<LocalDate> copies;
    private final CopyRule.Due due;
    private final LocalDate today;

    public CopyBand(List<LocalDate> copies, CopyRule.Due due, LocalDate today) {
        super(copies.size() + " copies, next due " + due.date(), 110);
        standsAlone();
        this.copies = copies;
        this.due = due;
        this.today = today;
    }

    @Override
    protected void draw(double width, double height) {
        double perDay = (width - 4) / (BEFORE + AFTER);
        double now = x(today, perDay);
        box(0, 30, width - 2, 36, "fill-paper", "line-ink");
        box(0, 30, now, 36, "fill-land");
        box(0, 30, width - 2, 36, "fill-none", "line-ink");
        for (LocalDate month = today.minusDays(BEFORE).withDayOfMonth(1).plusMonths(1);
                month.isBefore(today.plusDays(AFTER));
                month = month.plusMonths(1)) {
            double x = x(month, perDay);
            line(x, 66, x, 72, "line-soft");
            text(
                    x + 3,
                    86,
                    month.getMonth().getDisplayName(java.time.format.TextStyle.SHORT, Locale.ENGLISH) + " "
                            + month.getYear(),
                    "figure",
                    "soft");
        }
        for (LocalDate copy : copies) {
            double x = x(copy, perDay);
            if (x >= 0) {
                put(new Polygon(x, 36, x + 12, 42, x, 48), "fill-ink");
                line(x, 34, x, 62, "line-ink");
            }
        }
        double at = x(due.date(), perDay);
        if (due.overdue()) {
            box(Math.max(0, at), 30, now - Math.max(0, at), 36, "fill-none", "line-magenta");
            textRight(now - 6, 22, "due since " + due.date(), "alarm", "small");
        } else if (at < width) {
            put(new Polygon(at, 36, at + 12, 42, at, 48), "fill-paper", "line-ink");
            line(at, 34, at, 62, "line-ink");
            text(Math.min(at, width - 110), 22, "next due " + due.date(), "small");
        }
        line(now, 24, now, 72, "line-deep").setStrokeWidth(2);
        text(now + 4, 104, "today", "aside", "small");
    }

    private double x(LocalDate day, double perDay) {
        return (ChronoUnit.DAYS.between(today, day) + BEFORE) * perDay;
    }
}

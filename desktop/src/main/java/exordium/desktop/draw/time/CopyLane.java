// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.core.copies.schedule.CopyRule;
import exordium.desktop.draw.Drawing;
import java.time.LocalDate;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.shape.Polygon;

/** One board's line in the calendar of all: copies, drills, the days no copy covers, and the next one due; months across. */
public final class CopyLane extends Drawing {
    private static final int BEFORE = 150;
    private static final int AFTER = 100;
    private static final double TOP = 3;
    private static final double TALL = 24;
    /** Beside the flag of the same day. */
    private static final double COMING = 18;

    private final List<LocalDate> copies;
    private final List<LocalDate> drills;
    private final CopyRule.Due due;
    private final int allowed;
    private final Optional<LocalDate> nextDrill;
    private final LocalDate today;

    /** Where allowed: the days a copy covers by the house's rule. */
    public CopyLane(
            String name,
            List<LocalDate> copies,
            List<LocalDate> drills,
            CopyRule.Due due,
            int allowed,
            Optional<LocalDate> nextDrill,
            LocalDate today) {
        super(
                name + ": " + copies.size() + " copies, " + drills.size() + " drills, next due " + due.date()
                        + (due.overdue() ? ", which is past" : "")
                        + nextDrill
                                .map(day -> ", restore to be tried by " + day)
                                .orElse(""),
                40);
        this.copies = copies;
        this.drills = drills;
        this.due = due;
        this.allowed = allowed;
        this.nextDrill = nextDrill;
        this.today = today;
    }

    @Override
    protected void draw(double width, double height) {
        double perDay = (width - 2) / (BEFORE + AFTER);
        double now = x(today, perDay);
        box(0, TOP, width - 2, TALL, "fill-paper", "line-soft");
        CopyRule.gaps(copies, allowed, today.minusDays(BEFORE), today)
                .forEach(each -> gap(x(each.from(), perDay), x(each.until(), perDay)));
        for (LocalDate month = today.minusDays(BEFORE).withDayOfMonth(1).plusMonths(1);
                month.isBefore(today.plusDays(AFTER));
                month = month.plusMonths(1)) {
            double x = x(month, perDay);
            line(x, TOP, x, TOP + TALL + 3, "line-faint");
            if (x < width - 26) {
                String name = month.getMonth().getDisplayName(TextStyle.SHORT, Locale.ENGLISH);
                text(x + 3, height - 2, name, "soft", "small");
            }
        }
        for (LocalDate copy : copies) {
            flag(x(copy, perDay), "fill-ink");
        }
        for (LocalDate drill : drills) {
            lozenge(x(drill, perDay), width, "fill-deep");
        }
        nextDrill.ifPresent(
                drill -> lozenge(x(drill.isBefore(today) ? today : drill, perDay) + COMING, width, "fill-paper"));
        if (!due.overdue()) {
            flag(x(due.date(), perDay), "fill-paper");
        }
        line(now, TOP - 3, now, TOP + TALL + 3, "line-deep").setStrokeWidth(2);
    }

    private void gap(double from, double to) {
        if (to - from >= 1) {
            box(from, TOP, to - from, TALL, "fill-land");
            line(from, TOP + TALL / 2, to, TOP + TALL / 2, "line-magenta");
        }
    }

    /** Put back and started; open: yet to come. */
    private void lozenge(double x, double width, String fill) {
        if (x >= 0 && x < width - 8) {
            put(new Polygon(x, TOP + 6, x + 6, TOP + 12, x, TOP + 18, x - 6, TOP + 12), fill, "line-ink");
        }
    }

    private void flag(double x, String fill) {
        if (x >= 0) {
            put(new Polygon(x, TOP + 4, x + 11, TOP + 9, x, TOP + 14), fill, "line-ink");
            line(x, TOP + 2, x, TOP + TALL - 2, "line-ink");
        }
    }

    private double x(LocalDate day, double perDay) {
        return (ChronoUnit.DAYS.between(today, day) + BEFORE) * perDay;
    }
}

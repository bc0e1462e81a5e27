// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.chart;

import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.desktop.draw.Drawing;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.shape.Circle;

/** Every candidate by its life across and its price up; what is good enough and can be paid is shaded. */
public final class PriceAgainstLife extends Drawing {
    private static final double LEFT = 44;
    private static final double FOOT = 22;
    /** Years at the ends of the axis, which grows by powers. */
    private static final double SHORTEST = 0.25;

    private static final double LONGEST = 64;

    private final List<StorageAssessment> all;
    private final Role role;
    private final Optional<String> chosen;

    public PriceAgainstLife(List<StorageAssessment> all, Role role, Optional<String> chosen) {
        super(
                "Price against life: "
                        + all.stream().filter(StorageAssessment::fits).count() + " of " + all.size()
                        + " candidates fit",
                236);
        standsAlone();
        this.all = all;
        this.role = role;
        this.chosen = chosen;
    }

    @Override
    protected void draw(double width, double height) {
        double right = width - 14;
        double floor = height - FOOT;
        double dearest = Math.max(
                20, all.stream().mapToDouble(StorageAssessment::price).max().orElse(0) * 1.15);
        double perEuro = (floor - 10) / dearest;
        double good = x(role.years(), right);
        double top = role.budget() > 0 ? Math.max(8, floor - role.budget() * perEuro) : 8;
        box(good, top, right - good, floor - top, "fill-shallow");
        textRight(right - 6, top + 14, "lasts " + role.years() + " years and can be paid", "aside", "small");
        line(LEFT, floor, right, floor, "line-soft");
        for (double years = 0.5; years <= 32; years *= 2) {
            double x = x(years, right);
            line(x, floor, x, floor + 4, "line-soft");
            textCentred(x, floor + 17, years < 1 ? "0.5" : String.valueOf((int) years), "figure", "soft");
        }
        text(LEFT + 6, 12, "years in the cautious case across", "aside", "small");
        double step = dearest > 80 ? 25 : dearest > 40 ? 10 : 5;
        for (double euros = 0; euros <= dearest; euros += step) {
            line(LEFT, floor - euros * perEuro, right, floor - euros * perEuro, "line-faint");
            textRight(
                    LEFT - 6, floor - euros * perEuro + 4, String.format(Locale.ROOT, "%.0f", euros), "figure", "soft");
        }
        text(2, 12, "euros", "aside", "small");
        for (StorageAssessment each : all) {
            mark(each, right, floor - each.price() * perEuro);
        }
    }

    private void mark(StorageAssessment each, double right, double y) {
        double x = x(each.cautiousYears(), right);
        boolean here = chosen.filter(each.medium().id()::equals).isPresent();
        put(
                new Circle(x, y, here ? 6.5 : 4.5),
                here ? "fill-ink" : each.fits() ? "fill-water" : "fill-paper",
                each.fits() ? "line-ink" : "line-magenta");
        if (here) {
            textCentred(
                    Math.min(right - 50, Math.max(LEFT + 50, x)),
                    y - 11,
                    each.medium().name(),
                    "strong",
                    "small");
        }
    }

    private static double x(double years, double right) {
        double bounded = Math.max(SHORTEST, Math.min(LONGEST, years));
        double share = Math.log(bounded / SHORTEST) / Math.log(LONGEST / SHORTEST);
        return LEFT + 8 + share * (right - LEFT - 16);
    }
}

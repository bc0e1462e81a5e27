// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.quantity.ByteSize;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.LinkChain;
import exordium.desktop.draw.Drawing;
import java.util.Locale;

/** What one candidate would do, drawn to scale: capacity over the years, chain of links, life, power. */
public final class Bands extends Drawing {
    private static final double NAMES = 68;
    private static final double FIGURES = 118;
    private static final double YEARS_SHOWN = 12;

    private final StorageAssessment each;
    private final StorageNeed need;

    public Bands(StorageAssessment each, StorageNeed need) {
        super(
                each.medium().name() + ": " + each.medium().size().binary() + ", "
                        + each.effectiveRead().said() + " through "
                        + each.readChain().narrowest().title(),
                206);
        standsAlone();
        this.each = each;
        this.need = need;
    }

    @Override
    protected void draw(double width, double height) {
        double right = width - FIGURES;
        capacity(right);
        chain(right);
        years(right);
        power(right);
    }

    private void capacity(double right) {
        text(0, 18, "Capacity", "strong");
        ByteSize end = need.wantedAtTheEnd();
        double scale = (right - NAMES) / Math.max(each.medium().size().bytes(), end.bytes());
        boolean over = need.wantedNow().compareTo(each.medium().size()) > 0;
        double system = need.wantedNow().minusOrZero(need.role().data()).bytes() * scale;
        double now = need.wantedNow().bytes() * scale;
        box(NAMES, 4, each.medium().size().bytes() * scale, 20, "fill-paper", "line-ink");
        box(NAMES, 4, end.bytes() * scale, 20, "fill-shallow");
        box(NAMES, 4, Math.max(2, now), 20, over ? "fill-magenta" : "fill-water");
        box(NAMES, 4, Math.max(2, system), 20, "fill-deep");
        box(NAMES, 4, each.medium().size().bytes() * scale, 20, "fill-none", "line-ink");
        text(right + 8, 18, each.headroomAtTheEnd().said() + " left", "figure");
        text(
                NAMES,
                39,
                "system, data, growth over " + need.role().years() + " years; holds "
                        + each.medium().size().exact(),
                "aside",
                "small");
    }

    private void chain(double right) {
        text(0, 72, "Links", "strong");
        double widest = each.readChain().stages().stream()
                .mapToDouble(stage -> stage.ceiling().bytesPerSecond())
                .max()
                .orElse(1);
        double part = (right - NAMES) / each.readChain().stages().size();
        double x = NAMES;
        for (LinkChain.Stage stage : each.readChain().stages()) {
            boolean narrow = stage.equals(each.readChain().narrowest());
            double thick = Math.max(3, 26 * stage.ceiling().bytesPerSecond() / widest);
            box(
                    x,
                    66 - thick / 2,
                    part - 3,
                    thick,
                    narrow ? "fill-deep" : "fill-shallow",
                    narrow ? "line-ink" : "line-soft");
            text(x, 93, stage.title(), narrow ? "strong" : "soft", "small");
            text(x, 106, stage.ceiling().said(), "figure", "soft");
            x += part;
        }
        text(right + 8, 66, each.effectiveRead().said(), "figure");
        text(right + 8, 80, each.randomRead().said() + " rnd", "figure", "soft");
    }

    private void years(double right) {
        text(0, 135, "Years", "strong");
        double perYear = (right - NAMES) / YEARS_SHOWN;
        boolean enough = each.cautiousYears() >= need.role().years();
        double mean = Math.min(YEARS_SHOWN, each.enduranceYears()) * perYear;
        double cautious = Math.min(YEARS_SHOWN, each.cautiousYears()) * perYear;
        box(NAMES, 122, right - NAMES, 16, "fill-paper", "line-soft");
        box(NAMES, 122, mean, 16, "fill-shallow", "line-soft");
        box(NAMES, 122, Math.max(1, cautious), 16, enough ? "fill-water" : "fill-magenta");
        double wanted = NAMES + Math.min(YEARS_SHOWN, need.role().years()) * perYear;
        line(wanted, 118, wanted, 142, "line-ink").setStrokeWidth(2);
        textCentred(wanted, 154, need.role().years() + " wanted", "small");
        text(right + 8, 130, said(each.enduranceYears()), "figure");
        text(right + 8, 144, said(each.cautiousYears()) + " caut.", "figure", "soft");
    }

    private static String said(double years) {
        return years >= 99 ? "no end" : String.format(Locale.ROOT, "%.1f y", years);
    }

    private void power(double right) {
        text(0, 182, "Power", "strong");
        double board = need.host().draw().value();
        double supply = need.supply().power().value();
        double drive = each.draw().value();
        double perWatt = (right - NAMES) / Math.max(supply, board + drive);
        box(NAMES, 170, board * perWatt, 16, "fill-water", "line-soft");
        box(
                NAMES + board * perWatt,
                170,
                Math.max(2, drive * perWatt),
                16,
                each.powerMargin().value() < 0 ? "fill-magenta" : "fill-deep");
        box(NAMES, 170, supply * perWatt, 16, "fill-none", "line-ink");
        text(
                NAMES,
                201,
                "board " + need.host().draw().said() + ", medium " + each.draw().said() + " of "
                        + need.supply().power().said(),
                "aside",
                "small");
        text(right + 8, 182, each.powerMargin().said() + " left", "figure");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.LinkChain;
import exordium.core.storage.StorageAssessment;
import java.util.Locale;

/** What one candidate would do, drawn to scale: capacity, chain of links, years, power. */
public final class Bands extends Drawing {
    private static final double NAMES = 86;
    private static final double YEARS_SHOWN = 12;
    private final StorageAssessment each;
    private final ByteSize image;
    private final Watts supply;
    private final Watts board;

    public Bands(StorageAssessment each, ByteSize image, Watts supply, Watts board) {
        super(
                each.medium().name() + ": " + each.medium().size().binary() + ", "
                        + each.effectiveRead().said() + " through "
                        + each.readChain().narrowest().title(),
                214);
        this.each = each;
        this.image = image;
        this.supply = supply;
        this.board = board;
    }

    @Override
    protected void draw(double width, double height) {
        double right = width - 150;
        capacity(right);
        chain(right);
        years(right);
        power(right);
    }

    private void capacity(double right) {
        text(0, 18, "Capacity", "strong");
        double scale = (right - NAMES) / Math.max(each.medium().size().bytes(), image.bytes());
        boolean over = image.compareTo(each.medium().size()) > 0;
        box(NAMES, 4, each.medium().size().bytes() * scale, 20, "fill-paper", "line-ink");
        box(NAMES, 4, Math.max(2, image.bytes() * scale), 20, over ? "fill-magenta" : "fill-water");
        text(right + 10, 18, each.headroom().said() + " free", "figure");
        text(
                NAMES,
                40,
                "image to its last partition " + image.said() + " of "
                        + each.medium().size().exact(),
                "aside",
                "small");
    }

    private void chain(double right) {
        text(0, 76, "Links", "strong");
        double widest = each.readChain().stages().stream()
                .mapToDouble(stage -> stage.ceiling().bytesPerSecond())
                .max()
                .orElse(1);
        double part = (right - NAMES) / each.readChain().stages().size();
        double x = NAMES;
        for (LinkChain.Stage stage : each.readChain().stages()) {
            boolean narrow = stage.equals(each.readChain().narrowest());
            double thick = Math.max(3, 30 * stage.ceiling().bytesPerSecond() / widest);
            box(
                    x,
                    70 - thick / 2,
                    part - 3,
                    thick,
                    narrow ? "fill-deep" : "fill-shallow",
                    narrow ? "line-ink" : "line-soft");
            text(x, 100, stage.title(), narrow ? "strong" : "soft", "small");
            textRight(x + part - 8, 100, stage.ceiling().said(), "figure", "soft");
            x += part;
        }
        text(right + 10, 75, each.effectiveRead().said(), "figure");
    }

    private void years(double right) {
        text(0, 138, "Years", "strong");
        double perYear = (right - NAMES) / YEARS_SHOWN;
        box(NAMES, 126, right - NAMES, 16, "fill-paper", "line-soft");
        double shown = Math.min(YEARS_SHOWN, each.enduranceYears());
        box(NAMES, 126, Math.max(1, shown * perYear), 16, each.enduranceYears() < 3 ? "fill-magenta" : "fill-water");
        for (int year = 3; year < YEARS_SHOWN; year += 3) {
            line(NAMES + year * perYear, 126, NAMES + year * perYear, 142, "line-soft");
            textCentred(NAMES + year * perYear, 156, String.valueOf(year), "figure", "soft");
        }
        text(
                right + 10,
                138,
                each.enduranceYears() >= 99
                        ? "no end in sight"
                        : String.format(Locale.ROOT, "%.1f years", each.enduranceYears()),
                "figure");
    }

    private void power(double right) {
        text(0, 190, "Power", "strong");
        double drive = each.medium().kind().watts().value();
        double boardWatts = board.value();
        double supplyWatts = supply.value();
        double perWatt = (right - NAMES) / Math.max(supplyWatts, boardWatts + drive);
        box(NAMES, 178, boardWatts * perWatt, 16, "fill-water", "line-soft");
        box(
                NAMES + boardWatts * perWatt,
                178,
                Math.max(2, drive * perWatt),
                16,
                each.powerMargin().value() < 0 ? "fill-magenta" : "fill-deep");
        box(NAMES, 178, supplyWatts * perWatt, 16, "fill-none", "line-ink");
        text(
                NAMES,
                209,
                "board " + board.said() + ", drive "
                        + each.medium().kind().watts().said() + " of " + supply.said(),
                "aside",
                "small");
        text(right + 10, 190, each.powerMargin().said() + " left", "figure");
    }
}

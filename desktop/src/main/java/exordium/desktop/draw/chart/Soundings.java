// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.chart;

import exordium.core.quantity.ByteSize;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.desktop.draw.Drawing;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.shape.Polygon;

/**
 * Soundings of a medium: its place across, seconds for each 100 MB down. Deep places are slow ones; where bytes differ,
 * a line goes down to the name of the place.
 */
public final class Soundings extends Drawing {
    private static final double LEFT = 34;
    private static final double BOTTOM = 20;
    private static final double HEAD = 24;

    private final ByteSize size;
    private final double bestSecondsPer100Mb;
    private List<TransferMeter.Sounding> writing = List.of();
    private List<TransferMeter.Sounding> reading = List.of();
    private List<Difference> differences = List.of();
    private long written;
    private long proven;

    /** Where bestSecondsPer100Mb: what this medium is known to manage; 0 where nothing is known. */
    private final String doing;

    private final String done;
    private long said = -1;

    private int saidDiffer;

    /** Of a write. */
    public Soundings(ByteSize size, double bestSecondsPer100Mb) {
        this(size, bestSecondsPer100Mb, "writing", "written");
    }

    /** Of a copy: the medium is read once. */
    public static Soundings ofCopy(ByteSize size, double bestSecondsPer100Mb) {
        return new Soundings(size, bestSecondsPer100Mb, "reading", "read");
    }

    private Soundings(ByteSize size, double bestSecondsPer100Mb, String doing, String done) {
        super("Soundings: seconds for each 100 MB along the medium", 260);
        this.doing = doing;
        this.done = done;
        standsAlone();
        this.size = size;
        this.bestSecondsPer100Mb = bestSecondsPer100Mb;
    }

    /** It may be squeezed to half before it scrolls. */
    @Override
    protected double computeMinHeight(double width) {
        return computePrefHeight(width) / 2;
    }

    public void show(List<TransferMeter.Sounding> written, List<TransferMeter.Sounding> read, List<Difference> found) {
        this.writing = written;
        this.reading = read;
        this.differences = found;
        this.written = written.stream().mapToLong(TransferMeter.Sounding::bytes).sum();
        this.proven = read.stream().mapToLong(TransferMeter.Sounding::bytes).sum();
        readOut(found.size());
        redraw();
    }

    /** Read out at each tenth of the way, not several times a second. */
    private void readOut(int differ) {
        long tenths = 10 * (written + proven) / Math.max(1, size.bytes());
        if (tenths != said || differ != saidDiffer) {
            said = tenths;
            saidDiffer = differ;
            setAccessibleText(done + " " + ByteSize.of(written).said() + ", proven "
                    + ByteSize.of(proven).said() + ", " + differ + " places differ");
        }
    }

    @Override
    protected void draw(double width, double height) {
        double right = width - 2;
        double perByte = (right - LEFT) / Math.max(1.0, size.bytes());
        tide(perByte, right);
        double top = HEAD + 10;
        double floor = height - BOTTOM;
        double deepest = deepest();
        double perSecond = (floor - top) / deepest;
        grid(right, top, floor, deepest, perSecond);
        area(writing, perByte, top, perSecond, "fill-shallow", "line-deep");
        area(reading, perByte, top, perSecond, "fill-water", "line-ink");
        if (bestSecondsPer100Mb > 0 && bestSecondsPer100Mb < deepest) {
            double y = top + bestSecondsPer100Mb * perSecond;
            line(LEFT, y, right, y, "line-deep", "dashed");
            textRight(right, y - 4, "what this medium last managed, " + doing, "aside", "small");
        }
        label(writing, perByte, top, perSecond, doing, -5);
        label(reading, perByte, top, perSecond, "reading back", -5);
        for (Difference difference : differences.subList(0, Math.min(6, differences.size()))) {
            double x = LEFT + difference.offset() * perByte;
            line(x, 4, x, floor, "line-magenta", "dotted");
            text(Math.min(x + 4, right - 130), floor - 4, "differs at byte " + difference.offset(), "alarm", "small");
        }
    }

    private void tide(double perByte, double right) {
        box(LEFT, 4, right - LEFT, 16, "fill-paper", "line-soft");
        box(LEFT, 4, written * perByte, 16, "fill-water");
        box(LEFT, 4, proven * perByte, 16, "fill-ink");
        if (proven * perByte > 110) {
            text(LEFT + 6, 16, "proven " + ByteSize.of(proven).said(), "small", "inverse");
        } else if (written * perByte > 110) {
            text(LEFT + 6, 16, done + " " + ByteSize.of(written).said(), "small");
        }
        if (written < size.bytes() && (size.bytes() - written) * perByte > 120) {
            textRight(
                    right - 6,
                    16,
                    "to come " + ByteSize.of(size.bytes() - written).said(),
                    "small",
                    "soft");
        }
    }

    private void grid(double right, double top, double floor, double deepest, double perSecond) {
        double step = step(deepest);
        for (double mark = 0; mark <= deepest; mark += step) {
            double y = top + mark * perSecond;
            line(LEFT, y, right, y, mark == 0 ? "line-soft" : "line-faint");
            textRight(LEFT - 5, y + 4, mark == 0 ? "0 s" : number(mark), "figure", "soft");
        }
        for (int i = 0; i <= 4; i++) {
            double x = LEFT + (right - LEFT) * i / 4;
            String at = ByteSize.of(size.bytes() * i / 4).said();
            if (i == 0) {
                text(x, floor + 15, "0", "figure", "soft");
            } else {
                textRight(x, floor + 15, at, "figure", "soft");
            }
        }
    }

    private void area(
            List<TransferMeter.Sounding> list, double perByte, double top, double perSecond, String fill, String line) {
        if (list.isEmpty()) {
            return;
        }
        List<TransferMeter.Sounding> ordered = new ArrayList<>(list);
        ordered.sort(java.util.Comparator.comparingLong(TransferMeter.Sounding::position));
        double[] points = new double[ordered.size() * 4];
        int at = 0;
        for (TransferMeter.Sounding each : ordered) {
            double y = top + each.secondsPer100Mb() * perSecond;
            points[at++] = LEFT + each.position() * perByte;
            points[at++] = y;
            points[at++] = LEFT + (each.position() + each.bytes()) * perByte;
            points[at++] = y;
        }
        double[] closed = java.util.Arrays.copyOf(points, points.length + 4);
        closed[points.length] = points[points.length - 2];
        closed[points.length + 1] = top;
        closed[points.length + 2] = points[0];
        closed[points.length + 3] = top;
        put(new Polygon(closed), fill);
        path(line, points);
    }

    private void label(
            List<TransferMeter.Sounding> list,
            double perByte,
            double top,
            double perSecond,
            String words,
            double above) {
        if (list.size() > 3) {
            TransferMeter.Sounding at = list.get(Math.min(2, list.size() - 1));
            text(
                    LEFT + at.position() * perByte + 4,
                    top + at.secondsPer100Mb() * perSecond + above,
                    words,
                    "aside",
                    "small");
        }
    }

    private double deepest() {
        double deep = Math.max(1, bestSecondsPer100Mb * 1.3);
        for (TransferMeter.Sounding each : writing) {
            deep = Math.max(deep, each.secondsPer100Mb() * 1.15);
        }
        for (TransferMeter.Sounding each : reading) {
            deep = Math.max(deep, each.secondsPer100Mb() * 1.15);
        }
        return deep;
    }

    private static double step(double deepest) {
        double rough = deepest / 5;
        double power = Math.pow(10, Math.floor(Math.log10(rough)));
        double unit = rough / power;
        return (unit <= 1 ? 1 : unit <= 2 ? 2 : unit <= 5 ? 5 : 10) * power;
    }

    private static String number(double mark) {
        return mark == Math.rint(mark) ? String.valueOf((long) mark) : String.format(Locale.ROOT, "%.1f", mark);
    }
}

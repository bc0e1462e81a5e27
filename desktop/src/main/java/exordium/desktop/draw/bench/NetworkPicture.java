// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.core.daysheet.Pennant;
import exordium.desktop.draw.Drawing;
import java.util.List;
import java.util.Locale;

/** A server, its switch and its boards: a wire to each, whole where it comes up and broken where not, and how long that takes. */
public final class NetworkPicture extends Drawing {
    private static final double ROW = 44;
    private static final double HEAD = 20;
    private static final double SERVER = 190;
    private static final double TRUNK = 222;
    private static final double NAMES = 262;
    private static final double TIMES = 470;
    private static final double FIGURES = 130;

    private final String server;
    private final String address;
    private final String room;
    private final List<Row> rows;

    /** A board of it; seconds alone, and with all others at once. */
    public record Row(String board, String address, String folder, Pennant state, double alone, double together) {}

    public NetworkPicture(String server, String address, String room, List<Row> rows) {
        super(said(server, rows), HEAD + ROW * Math.max(2, rows.size()));
        standsAlone();
        this.server = server;
        this.address = address;
        this.room = room;
        this.rows = List.copyOf(rows);
    }

    private static String said(String server, List<Row> rows) {
        StringBuilder words = new StringBuilder(server);
        for (Row row : rows) {
            words.append(String.format(
                    Locale.ROOT,
                    "; %s at %s %s, up after %.0f s, with all at once %.0f s",
                    row.board(),
                    row.address(),
                    row.state() == Pennant.PROVEN ? "comes up" : "does not come up",
                    row.alone(),
                    row.together()));
        }
        return words.toString();
    }

    @Override
    protected void draw(double width, double height) {
        double longest = rows.stream().mapToDouble(Row::together).max().orElse(1);
        double middle = HEAD + (height - HEAD) / 2;
        box(0, middle - 36, SERVER, 72, "fill-shallow", "line-ink");
        text(12, middle - 12, server, "strong");
        text(12, middle + 8, address, "figure", "small");
        text(12, middle + 26, room, "figure", "small");
        line(SERVER, middle, TRUNK, middle, "line-ink");
        double first = HEAD + ROW / 2;
        line(TRUNK, Math.min(first, middle), TRUNK, Math.max(middle, HEAD + ROW * (rows.size() - 0.5)), "line-ink");
        double room = Math.max(60, width - TIMES - FIGURES);
        text(TIMES, 12, "0 s", "figure", "small");
        textRight(TIMES + room, 12, String.format(Locale.ROOT, "%.0f s", longest), "figure", "small");
        for (int i = 0; i < rows.size(); i++) {
            Row row = rows.get(i);
            double y = HEAD + ROW * (i + 0.5);
            boolean up = row.state() == Pennant.PROVEN;
            line(TRUNK, y, NAMES - 12, y, up ? "line-ink" : "line-magenta", up ? "line-ink" : "dashed");
            text(NAMES, y - 2, row.board(), "strong");
            text(NAMES, y + 15, row.address() + "  " + row.folder(), "figure", "small");
            box(TIMES, y - 8, room * row.together() / longest, 14, "fill-paper", "line-soft");
            box(
                    TIMES,
                    y - 8,
                    room * row.alone() / longest,
                    14,
                    up ? "fill-deep" : "fill-none",
                    up ? "line-deep" : "line-magenta");
            text(
                    TIMES + room + 10,
                    y + 4,
                    up
                            ? String.format(Locale.ROOT, "%.0f s, all %.0f s", row.alone(), row.together())
                            : "does not start",
                    "figure",
                    "small");
        }
    }
}

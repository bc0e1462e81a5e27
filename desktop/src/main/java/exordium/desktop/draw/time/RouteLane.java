// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.desktop.draw.Drawing;
import java.util.List;

/** A way along its minutes on two rails, at the PC above and at the board below; what has to be bought has the colour of land. */
public final class RouteLane extends Drawing {
    private static final double RAIL = 13;
    private static final double BELOW = 21;
    private static final double TALL = 40;
    private static final double NAMES = 46;
    /** Width kept free at the end for the minutes. */
    private static final double FIGURE_ROOM = 88;

    private static final double LEAST = 2;
    private static final double ROOM_FOR_NUMBER = 15;

    private final List<Piece> pieces;
    private final String figure;
    private final double longest;

    /** A step: where it is done, how long it takes, what becomes of it. */
    public record Piece(double minutes, boolean atPc, boolean bought, boolean opens, boolean done, boolean next) {}

    /** Where longest: minutes that the whole width stands for. */
    public RouteLane(String name, String figure, List<Piece> pieces, double longest) {
        super(name, TALL);
        this.figure = figure;
        this.pieces = List.copyOf(pieces);
        this.longest = Math.max(1, longest);
    }

    @Override
    protected void draw(double width, double height) {
        text(0, RAIL - 1, "PC", "small", "soft");
        text(0, BELOW + RAIL - 1, "board", "small", "soft");
        double start = NAMES;
        double room = width - start - FIGURE_ROOM;
        double x = start;
        line(start, RAIL / 2 + 1, start + room, RAIL / 2 + 1, "line-faint");
        line(start, BELOW + RAIL / 2, start + room, BELOW + RAIL / 2, "line-faint");
        int number = 0;
        for (Piece piece : pieces) {
            number++;
            double wide = piece.minutes() / longest * room;
            double y = piece.atPc() ? 1 : BELOW;
            String fill = piece.done()
                    ? "fill-deep"
                    : piece.bought() ? "fill-land" : piece.atPc() ? "fill-shallow" : "fill-water";
            box(x, y, Math.max(LEAST, wide), RAIL, fill, piece.next() ? "line-magenta" : "line-ink")
                    .setStrokeWidth(piece.next() ? 2 : 1);
            if (wide > ROOM_FOR_NUMBER) {
                textCentred(
                        x + wide / 2, y + RAIL - 2, String.valueOf(number), "small", piece.done() ? "inverse" : "ink");
            }
            if (piece.opens()) {
                path("line-ink", x - 3, BELOW + RAIL + 5, x + 1, BELOW + RAIL + 1, x + 5, BELOW + RAIL + 5);
            }
            x += wide;
        }
        text(x + 6, BELOW - 1, figure, "figure");
    }
}

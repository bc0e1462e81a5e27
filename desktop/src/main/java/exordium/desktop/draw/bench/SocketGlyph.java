// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.core.board.StartSource;

/** One socket at a piece of a board's edge. */
public final class SocketGlyph extends Sockets {
    private static final double TALL = 50;

    private final StartSource source;

    public SocketGlyph(StartSource source, String name) {
        super(name, TALL);
        this.source = source;
        setPrefWidth(64);
        setMinWidth(64);
    }

    @Override
    protected void draw(double width, double height) {
        box(2, 2, width - 5, BOARD, "fill-shallow", "line-faint");
        socket(source, width / 2, 2 + BOARD);
    }
}

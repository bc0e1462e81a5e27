// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.core.board.StartSource;
import exordium.desktop.draw.Drawing;

/** Sockets of boards, as one sees them at an edge. */
public abstract class Sockets extends Drawing {
    protected static final double BOARD = 40;

    protected Sockets(String accessibleText, double tall) {
        super(accessibleText, tall);
    }

    /** Where x: its middle, and edge: that of the board. */
    protected final void socket(StartSource source, double x, double edge) {
        switch (source) {
            case CARD -> box(x - 16, edge - 5, 32, 9, "fill-paper", "line-ink");
            case USB, USB_DEVICE -> {
                box(x - 13, edge - 16, 26, 18, "fill-paper", "line-ink");
                line(x - 9, edge - 7, x + 9, edge - 7, "line-ink").setStrokeWidth(3);
            }
            case NVME -> box(x - 26, edge - 24, 52, 12, "fill-paper", "line-ink");
            case EMMC -> box(x - 12, edge - 30, 24, 20, "fill-ink", "line-ink");
            default -> box(x - 15, edge - 24, 30, 27, "fill-paper", "line-ink");
        }
    }
}

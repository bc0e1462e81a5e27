// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.desktop.draw.Drawing;

/** The two rails of a ladder between one rung and the next. */
public final class Rails extends Drawing {
    private static final double INSET = 30;

    public Rails() {
        super("", 10);
        setMouseTransparent(true);
    }

    @Override
    protected void draw(double width, double height) {
        line(INSET, 0, INSET, height, "line-ink").setStrokeWidth(2.5);
        line(width - INSET, 0, width - INSET, height, "line-ink").setStrokeWidth(2.5);
    }
}

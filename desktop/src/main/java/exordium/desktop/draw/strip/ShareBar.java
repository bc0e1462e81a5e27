// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.desktop.draw.Drawing;

/** How much of the whole one of several things has, as a thin bar with its figure. */
public final class ShareBar extends Drawing {
    private static final double FIGURE_ROOM = 76;
    private final double share;

    public ShareBar(double share, String what) {
        super(Math.round(share * 100) + " of 100: " + what, 12);
        standsAlone();
        this.share = Math.max(0, Math.min(1, share));
    }

    @Override
    protected void draw(double width, double height) {
        double room = width - FIGURE_ROOM;
        box(0, 2, room, height - 4, "fill-paper", "line-soft");
        if (share > 0) {
            box(0, 2, Math.max(1, room * share), height - 4, "fill-deep");
        }
        text(room + 8, height - 2, Math.round(share * 100) + " of 100", "figure", "small");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.desktop.draw.Drawing;

/** How full a medium is, as a thin bar. */
public final class FillBar extends Drawing {
    private static final double NEARLY_FULL = 0.85;
    private final double share;

    public FillBar(double share) {
        super(Math.round(share * 100) + " % used");
        this.share = Math.max(0, Math.min(1, share));
        setPrefSize(62, 7);
        setMinSize(62, 7);
        setMaxSize(62, 7);
    }

    @Override
    protected void draw(double width, double height) {
        box(0, 0, width - 1, height - 1, "fill-paper", "line-soft");
        if (share > 0) {
            box(
                    0,
                    0,
                    Math.max(1, (width - 1) * share),
                    height - 1,
                    share >= NEARLY_FULL ? "fill-magenta" : "fill-deep");
        }
    }
}

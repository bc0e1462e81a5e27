// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.chart;

import exordium.desktop.draw.Drawing;

/** How much speaks for a candidate, as a thin bar; empty where it does not fit at all. */
public final class MeritBar extends Drawing {
    private final double merit;
    private final boolean fits;

    public MeritBar(double merit, boolean fits) {
        super(fits ? Math.round(merit * 100) + " of 100 speak for it" : "does not fit");
        this.merit = merit;
        this.fits = fits;
        setPrefSize(54, 7);
        setMinSize(54, 7);
        setMaxSize(54, 7);
    }

    @Override
    protected void draw(double width, double height) {
        box(0, 0, width - 1, height - 1, "fill-paper", "line-soft");
        if (fits) {
            box(0, 0, Math.max(1, (width - 1) * merit), height - 1, "fill-deep");
        }
    }
}

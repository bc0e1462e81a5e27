// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.desktop.draw.Drawing;
import java.util.List;

/** The board in the middle of the bench, with a line to each plug beside it: solid in contact, broken where it is not. */
public final class BoardPlan extends Drawing {
    /** Height of one row of plugs beside the board. */
    public static final double ROW = 46;

    private static final double NARROWEST = 210;

    /** How something stands on its port. */
    public enum Contact {
        IN,
        LOOSE,
        OUT,
        EMPTY
    }

    private final String title;
    private final String below;
    private final List<Contact> left;
    private final List<Contact> right;

    public BoardPlan(String title, String below, List<Contact> left, List<Contact> right) {
        super(title + ", " + below, Math.max(2, Math.max(left.size(), right.size())) * ROW);
        standsAlone();
        this.title = title;
        this.below = below;
        this.left = List.copyOf(left);
        this.right = List.copyOf(right);
    }

    @Override
    protected double computeMinWidth(double height) {
        return NARROWEST * scale();
    }

    @Override
    protected void draw(double width, double height) {
        double stub = 34;
        box(stub, 4, width - 2 * stub, height - 9, "fill-shallow", "line-ink").setStrokeWidth(1.5);
        for (double[] hole : new double[][] {
            {stub + 9, 13}, {width - stub - 9, 13}, {stub + 9, height - 14}, {width - stub - 9, height - 14}
        }) {
            put(new javafx.scene.shape.Circle(hole[0], hole[1], 3), "fill-paper", "line-ink");
        }
        box(width / 2 - 26, height / 2 - 34, 52, 30, "fill-paper", "line-ink");
        textCentred(width / 2, height / 2 + 16, title, "strong");
        textCentred(width / 2, height / 2 + 33, below, "aside", "small");
        for (int i = 0; i < left.size(); i++) {
            plug(left.get(i), 0, stub, (i + 0.5) * ROW);
        }
        for (int i = 0; i < right.size(); i++) {
            plug(right.get(i), width - stub, width, (i + 0.5) * ROW);
        }
    }

    private void plug(Contact contact, double from, double to, double y) {
        boolean leftSide = from == 0;
        double edge = leftSide ? to : from;
        box(leftSide ? edge - 5 : edge - 6, y - 9, 11, 18, "fill-paper", "line-ink");
        switch (contact) {
            case IN ->
                line(leftSide ? from : edge + 6, y, leftSide ? edge - 6 : to, y, "line-ink")
                        .setStrokeWidth(3);
            case LOOSE -> {
                double middle = (from + to) / 2;
                line(from, y, leftSide ? middle - 3 : to, y, "line-soft", "dashed");
                path("line-magenta", middle - 4, y - 8, middle + 2, y - 2, middle - 3, y + 2, middle + 3, y + 8)
                        .setStrokeWidth(2);
            }
            case OUT -> line(from, y, to, y, "line-soft", "dotted");
            case EMPTY -> {
                // Nothing hangs on it; the socket alone is drawn.
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.bench;

import exordium.desktop.draw.Drawing;
import java.util.List;

/** A stored hex order, its digits in boxes with their turn below, and an arrow that shows which way the board reads. */
public final class DigitRow extends Drawing {
    private static final double BOX = 40;
    private static final double STEP = 52;
    private static final double TOP = 4;
    private static final double TALL = 50;

    private final List<Character> digits;
    private final List<String> turns;

    /** Where turns: the word below each digit, left to right. */
    public DigitRow(List<Character> digits, List<String> turns) {
        super("Read from the right-hand digit", 88);
        standsAlone();
        this.digits = digits;
        this.turns = turns;
    }

    @Override
    protected void draw(double width, double height) {
        double all = STEP * (digits.size() + 1.4);
        double left = Math.max(0, (width - all) / 2);
        textCentred(left + 14, TOP + 37, "0", "figure-large", "soft");
        textCentred(left + 46, TOP + 37, "x", "figure-large", "soft");
        double first = left + STEP * 1.4;
        for (int i = 0; i < digits.size(); i++) {
            double x = first + STEP * i;
            boolean tried = i == digits.size() - 1;
            box(x, TOP, BOX, TALL, tried ? "fill-water" : "fill-shallow", "line-deep");
            textCentred(x + BOX / 2, TOP + 37, String.valueOf(digits.get(i)), "figure-large");
            textCentred(x + BOX / 2, TOP + TALL + 15, turns.get(i), "aside", "small");
        }
        if (digits.isEmpty()) {
            return;
        }
        double right = first + STEP * (digits.size() - 1) + BOX - 6;
        double y = TOP + TALL + 26;
        line(first + 6, y, right, y, "line-ink");
        put(
                new javafx.scene.shape.Polygon(first, y + 0.5, first + 9, y - 3.5, first + 9, y + 4.5),
                "fill-ink",
                "line-ink");
    }
}

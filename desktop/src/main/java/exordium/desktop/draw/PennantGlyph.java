// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw;

import exordium.core.access.Known;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import javafx.scene.AccessibleRole;
import javafx.scene.Group;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;

/** A pennant on its staff: the shape says the state, the colour only repeats it. */
public final class PennantGlyph extends Group {
    private static final double TOP = 1.5;
    private static final double TIP = 13.5;
    private static final double DROP = 9.5;

    /** As a cell has it: what was told carries an open ring at the foot of its staff. */
    public PennantGlyph(Cell cell) {
        this(cell.pennant());
        if (cell.by() == Known.By.TOLD || cell.by() == Known.By.REPORTED) {
            getChildren().add(ring());
            setAccessibleText(cell.state());
        }
    }

    private static Circle ring() {
        Circle ring = new Circle(4.5, 13.2, 2.4);
        ring.getStyleClass().addAll("fill-none", "line-ink");
        return ring;
    }

    /** The mark alone, for the legend. */
    public static PennantGlyph told() {
        PennantGlyph glyph = new PennantGlyph(Pennant.SET);
        glyph.getChildren().add(ring());
        return glyph;
    }

    public PennantGlyph(Pennant state) {
        // An invisible ground keeps every pennant the same size in a row of them.
        Rectangle ground = new Rectangle(0, 0, 15, 16);
        ground.getStyleClass().add("fill-none");
        Line staff = new Line(1.5, 1, 1.5, 15);
        staff.getStyleClass()
                .add(state == Pennant.FAILING ? "line-magenta" : state == Pennant.UNKNOWN ? "line-soft" : "line-ink");
        staff.setStrokeWidth(1.4);
        getChildren().addAll(ground, staff);
        switch (state) {
            case PROVEN -> add(flag(), "fill-ink", "line-ink");
            case SET -> add(flag(), "fill-none", "line-ink");
            case DUE -> {
                add(flag(), "fill-none", "line-ink");
                add(new Polygon(1.5, TOP, 7.5, 3.5, 7.5, 7.5, 1.5, DROP), "fill-ink", "line-ink");
            }
            case FAILING ->
                add(
                        new Polygon(1.5, TOP, 13.5, 2.2, 10.2, 4.2, 13.8, 6, 9.6, 7.4, 11.4, 9.4, 1.5, DROP),
                        "fill-magenta",
                        "line-magenta");
            case UNKNOWN -> {
                Polyline dots = new Polyline(1.5, TOP, TIP, 5.5, 1.5, DROP);
                dots.getStyleClass().addAll("fill-none", "line-soft", "dotted");
                getChildren().add(dots);
            }
        }
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText(state.text());
    }

    private static Polygon flag() {
        return new Polygon(1.5, TOP, TIP, 5.5, 1.5, DROP);
    }

    private void add(Polygon shape, String... styles) {
        shape.getStyleClass().addAll(styles);
        getChildren().add(shape);
    }
}

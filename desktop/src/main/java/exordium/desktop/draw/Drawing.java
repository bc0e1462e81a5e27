// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw;

import javafx.scene.AccessibleRole;
import javafx.scene.Group;
import javafx.scene.layout.Region;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import javafx.scene.shape.Shape;
import javafx.scene.text.Text;
import javafx.scene.transform.Scale;

/**
 * A picture drawn anew whenever its size or its numbers change. Colours come from style classes, so both charts use the
 * same drawing; what it shows is also said in its accessible text.
 */
public abstract class Drawing extends Region {
    /** The size of text, in pixels, that drawings are laid out for; at any other they grow or shrink with it. */
    private static final double USUAL_TEXT = 14;

    private final Text probe = new Text();
    private final Group canvas = new Group();
    private final double tall;
    private double drawnWidth = -1;
    private double drawnHeight = -1;

    /** A drawing whose size its owner sets in pixels. */
    protected Drawing(String accessibleText) {
        this(accessibleText, 0);
    }

    /** Where tall: its height at the usual size of text; 0 where its owner sets the size in pixels. */
    protected Drawing(String accessibleText, double tall) {
        this.tall = tall;
        setAccessibleRole(AccessibleRole.IMAGE_VIEW);
        setAccessibleText(accessibleText);
        setFocusTraversable(false);
        probe.setVisible(false);
        probe.setManaged(false);
        canvas.setManaged(false);
        canvas.getStyleClass().add("drawing");
        getChildren().addAll(probe, canvas);
        probe.fontProperty().addListener((property, before, now) -> redraw());
    }

    /** A picture of its own, reached by Tab and read out; what is only a mark beside words is not. */
    protected final void standsAlone() {
        setFocusTraversable(true);
        getStyleClass().add("figure-drawing");
    }

    /** Puts shapes down for this size. */
    protected abstract void draw(double width, double height);

    public final void redraw() {
        drawnWidth = -1;
        requestLayout();
    }

    /** How much larger than usual text is now. */
    protected final double scale() {
        if (tall == 0 || getScene() == null) {
            return 1;
        }
        probe.applyCss();
        return probe.getFont().getSize() / USUAL_TEXT;
    }

    @Override
    protected final double computePrefHeight(double width) {
        return tall * scale();
    }

    @Override
    protected double computeMinHeight(double width) {
        return tall * scale();
    }

    @Override
    protected final void layoutChildren() {
        if (getWidth() != drawnWidth || getHeight() != drawnHeight) {
            drawnWidth = getWidth();
            drawnHeight = getHeight();
            canvas.getChildren().clear();
            double scale = scale();
            canvas.getTransforms().setAll(new Scale(scale, scale));
            if (drawnWidth > 0 && drawnHeight > 0) {
                draw(drawnWidth / scale, drawnHeight / scale);
                // Styles are looked up before the layout: what comes in it would be black for a frame.
                canvas.applyCss();
            }
        }
    }

    /** A box on whole pixels, so that thin lines stay thin. */
    protected final Rectangle box(double x, double y, double width, double height, String... styles) {
        Rectangle box = new Rectangle(
                Math.round(x) + 0.5,
                Math.round(y) + 0.5,
                Math.max(0, Math.round(width)),
                Math.max(0, Math.round(height)));
        return put(box, styles);
    }

    protected final Line line(double x1, double y1, double x2, double y2, String... styles) {
        return put(new Line(snap(x1), snap(y1), snap(x2), snap(y2)), styles);
    }

    protected final Polyline path(String style, double... points) {
        Polyline line = new Polyline(points);
        line.getStyleClass().addAll(style, "fill-none");
        canvas.getChildren().add(line);
        return line;
    }

    /** Text with its baseline at y. */
    protected final Text text(double x, double y, String words, String... styles) {
        Text text = new Text(words);
        text.getStyleClass().add("chart-text");
        text.getStyleClass().addAll(styles);
        text.setX(x);
        text.setY(y);
        canvas.getChildren().add(text);
        text.applyCss();
        return text;
    }

    protected final Text textRight(double right, double y, String words, String... styles) {
        Text text = text(0, y, words, styles);
        text.setX(right - text.getLayoutBounds().getWidth());
        return text;
    }

    protected final Text textCentred(double centre, double y, String words, String... styles) {
        Text text = text(0, y, words, styles);
        text.setX(centre - text.getLayoutBounds().getWidth() / 2);
        return text;
    }

    protected final <S extends Shape> S put(S shape, String... styles) {
        if (styles.length > 0 && java.util.Arrays.stream(styles).noneMatch(style -> style.startsWith("fill-"))) {
            shape.getStyleClass().add("fill-none");
        }
        shape.getStyleClass().addAll(styles);
        canvas.getChildren().add(shape);
        return shape;
    }

    private static double snap(double at) {
        return Math.round(at) + 0.5;
    }
}

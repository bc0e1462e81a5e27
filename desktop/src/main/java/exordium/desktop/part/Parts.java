// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.shape.SVGPath;

/** The small pieces every view is put together from. */
public final class Parts {
    private static final double USUAL_TEXT = 14;

    private static final double BREATH = 24;

    private Parts() {}

    public static Label label(String text, String... styles) {
        Label label = new Label(text);
        label.getStyleClass().addAll(styles);
        return label;
    }

    /** Text that breaks over lines instead of being cut. */
    public static Label paragraph(String text, String... styles) {
        Label label = label(text, styles);
        label.setWrapText(true);
        label.setMinHeight(Region.USE_PREF_SIZE);
        return label;
    }

    public static Button button(String text, Runnable deed, String... styles) {
        Button button = new Button(text);
        button.getStyleClass().addAll(styles);
        button.setOnAction(event -> deed.run());
        button.setMinSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
        return button;
    }

    /** What has the keys is always seen, in a part that is longer than its room. */
    public static void followKeys(ScrollPane pane) {
        pane.addEventFilter(KeyEvent.KEY_RELEASED, event -> {
            Node owner = pane.getScene().getFocusOwner();
            double hidden = pane.getContent().getBoundsInLocal().getHeight()
                    - pane.getViewportBounds().getHeight();
            if (owner == null || hidden <= 0) {
                return;
            }
            Bounds place = pane.getContent().sceneToLocal(owner.localToScene(owner.getBoundsInLocal()));
            double top = pane.getVvalue() * hidden;
            boolean seen = place.getMinY() >= top
                    && place.getMaxY() <= top + pane.getViewportBounds().getHeight();
            if (!seen) {
                pane.setVvalue(Math.min(1, Math.max(0, (place.getMinY() - BREATH) / hidden)));
            }
        });
    }

    /** A date that was typed; empty where nothing was. @throws UnreadableInput when it is none */
    public static Optional<LocalDate> date(String typed) throws UnreadableInput {
        String text = typed.strip();
        if (text.isEmpty()) {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDate.parse(text));
        } catch (DateTimeParseException e) {
            throw new UnreadableInput("\"" + text + "\" is no date such as 2026-09-02.", e);
        }
    }

    /** A size that was typed; empty where nothing was. @throws UnreadableInput when it is none */
    public static Optional<ByteSize> size(String typed) throws UnreadableInput {
        String text = typed.strip();
        try {
            return text.isEmpty() ? Optional.empty() : Optional.of(ByteSize.parse(text));
        } catch (IllegalArgumentException e) {
            throw new UnreadableInput("\"" + text + "\" is no size such as 240 GB.", e);
        }
    }

    /** What would stand here, in a sentence, and the one action that begins it. */
    public static VBox empty(String id, String words, String action, Runnable deed) {
        Button begin = button(action, deed, "task");
        begin.setId(id);
        VBox box = new VBox(12, paragraph(words, "soft"), begin);
        box.setMaxWidth(560);
        box.getStyleClass().add("empty");
        return box;
    }

    public static HBox row(double spacing, Node... nodes) {
        HBox row = new HBox(spacing, nodes);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    public static VBox column(double spacing, Node... nodes) {
        return new VBox(spacing, nodes);
    }

    /** A heading with an aside and a thin rule to the end of the line. */
    public static HBox heading(String title, String aside) {
        Region rule = new Region();
        rule.getStyleClass().add("rule");
        HBox.setHgrow(rule, Priority.ALWAYS);
        Label words = label(title, "heading");
        words.setMinWidth(Region.USE_PREF_SIZE);
        return aside.isEmpty() ? row(10, words, rule) : row(10, words, label(aside, "aside", "small"), rule);
    }

    /** A page's name with what is found there; behind: what stands at the end of the line. */
    public static HBox title(String name, String hint, Node... behind) {
        HBox title = row(12, whole(label(name, "title")), label(hint, "aside"), spring());
        title.getChildren().addAll(behind);
        title.setAlignment(Pos.BASELINE_LEFT);
        return title;
    }

    public static Region spring() {
        Region spring = new Region();
        HBox.setHgrow(spring, Priority.ALWAYS);
        VBox.setVgrow(spring, Priority.ALWAYS);
        return spring;
    }

    public static <N extends Node> N grow(N node) {
        HBox.setHgrow(node, Priority.ALWAYS);
        VBox.setVgrow(node, Priority.ALWAYS);
        return node;
    }

    public static <N extends Node> N hint(N node, String text) {
        Tooltip.install(node, new Tooltip(text));
        return node;
    }

    /** Holds a node to one width, for columns that line up. */
    public static <R extends Region> R fixed(R node, double width) {
        node.setMinWidth(width);
        node.setPrefWidth(width);
        node.setMaxWidth(width);
        return node;
    }

    /** One cell of a column that keeps its width, given for the usual text and growing with it. */
    public static HBox cell(Region node, double width) {
        HBox cell = row(0, node);
        cell.setMaxHeight(Region.USE_PREF_SIZE);
        String em = String.format(Locale.ROOT, "%.3fem", width / USUAL_TEXT);
        cell.setStyle("-fx-min-width: " + em + "; -fx-pref-width: " + em + "; -fx-max-width: " + em + ";");
        return cell;
    }

    /** Keeps a node from being squeezed under what it says. */
    public static <R extends Region> R whole(R node) {
        node.setMinWidth(Region.USE_PREF_SIZE);
        return node;
    }

    /** A small sign drawn as a path in a square of 10, in the colour of ink. */
    public static Region sign(String path) {
        SVGPath shape = new SVGPath();
        shape.setContent(path);
        Region sign = new Region();
        sign.setShape(shape);
        sign.getStyleClass().add("sign");
        sign.setMinSize(9, 9);
        sign.setPrefSize(9, 9);
        sign.setMaxSize(9, 9);
        return sign;
    }

    /** A button that shows a sign and says in words what it does. */
    public static Button signButton(String path, String words, Runnable deed) {
        Button button = button("", deed, "quiet", "sign-button");
        button.setGraphic(sign(path));
        button.setAccessibleText(words);
        return hint(button, words);
    }

    /** No tabs are typed into this text: the key goes on to the next field, as everywhere. */
    public static void tabGoesOn(TextArea text) {
        text.addEventFilter(KeyEvent.KEY_PRESSED, key -> {
            if (key.getCode() == KeyCode.TAB && !key.isControlDown()) {
                key.consume();
                text.fireEvent(
                        new KeyEvent(key.getEventType(), "", "", KeyCode.TAB, key.isShiftDown(), true, false, false));
            }
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import javafx.application.Platform;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.text.Text;
import org.testfx.api.FxRobot;
import org.testfx.util.WaitForAsyncUtils;

/** A user's hands and eyes on the real window. */
final class Hand {
    private final FxRobot robot;
    private final Scene scene;

    Hand(FxRobot robot, Scene scene) {
        this.robot = robot;
        this.scene = scene;
    }

    /** Said inside a condition that waits: it does not hold yet. */
    private static final class NotYet extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    /** The node with this id, once it is there and shown. Inside a condition it is not waited for. */
    Node see(String id) {
        if (!Platform.isFxApplicationThread()) {
            until(id + " is shown", () -> see(id).isVisible());
        }
        Node node = scene.getRoot().lookup("#" + id);
        if (node == null) {
            throw new NotYet();
        }
        return node;
    }

    /** Presses a control once it can be pressed and has come to rest, as a hand would. */
    void click(String id) {
        until(id + " can be pressed", () -> {
            Node node = scene.getRoot().lookup("#" + id);
            return node != null && node.isVisible() && !node.isDisabled();
        });
        Bounds before = null;
        for (int i = 0; i < 20; i++) {
            WaitForAsyncUtils.waitForFxEvents();
            Bounds now = onFx(() -> {
                Node node = scene.getRoot().lookup("#" + id);
                return node == null ? null : node.localToScreen(node.getBoundsInLocal());
            });
            if (now != null && now.equals(before)) {
                break;
            }
            before = now;
            WaitForAsyncUtils.sleep(60, TimeUnit.MILLISECONDS);
        }
        assertThat(before).as(id).isNotNull();
        robot.clickOn(before.getCenterX(), before.getCenterY());
        WaitForAsyncUtils.waitForFxEvents();
    }

    void type(String text) {
        robot.write(text, 4);
    }

    void press(KeyCode... keys) {
        robot.push(keys);
        WaitForAsyncUtils.waitForFxEvents();
    }

    String text(String id) {
        Node node = see(id);
        return node instanceof Labeled labeled ? labeled.getText() : node.getAccessibleText();
    }

    /** Everything that can be read in the window now. */
    String page() {
        StringBuilder words = new StringBuilder();
        onFx(() -> {
            for (Node node : all(scene.getRoot())) {
                if (node instanceof Labeled labeled && labeled.getText() != null) {
                    words.append(labeled.getText()).append('\n');
                } else if (node instanceof Text drawn) {
                    words.append(drawn.getText()).append('\n');
                }
            }
            return null;
        });
        return words.toString();
    }

    /** Waits for something off the interface thread, such as what is kept in the register. */
    void untilKept(String what, Callable<Boolean> holds) {
        try {
            WaitForAsyncUtils.waitFor(40, TimeUnit.SECONDS, holds);
        } catch (TimeoutException e) {
            throw new AssertionError("never: " + what, e);
        }
    }

    void until(String what, BooleanSupplier holds) {
        try {
            WaitForAsyncUtils.waitFor(
                    40,
                    TimeUnit.SECONDS,
                    () -> onFx(() -> {
                        try {
                            return holds.getAsBoolean();
                        } catch (NotYet e) {
                            return false;
                        }
                    }));
        } catch (TimeoutException e) {
            throw new AssertionError("never: " + what + "; the window says:\n" + page(), e);
        }
    }

    void untilPageSays(String words) {
        until("the page says \"" + words + "\"", () -> page().contains(words));
    }

    private static <T> T onFx(Callable<T> question) {
        if (Platform.isFxApplicationThread()) {
            try {
                return question.call();
            } catch (Exception e) {
                throw new AssertionError(e);
            }
        }
        return WaitForAsyncUtils.waitForAsyncFx(30_000, question);
    }

    static List<Node> all(Parent root) {
        List<Node> nodes = new ArrayList<>();
        for (Node child : root.getChildrenUnmodifiable()) {
            nodes.add(child);
            if (child instanceof Parent parent) {
                nodes.addAll(all(parent));
            }
        }
        return nodes;
    }

    /** Words on screen that end in dots because there was no room for them. */
    List<String> cutTexts() {
        List<String> cut = new ArrayList<>();
        onFx(() -> {
            for (Node node : all(scene.getRoot())) {
                if (node instanceof Labeled labeled && labeled.getText() != null && shown(node)) {
                    labeled.getChildrenUnmodifiable().stream()
                            .filter(Text.class::isInstance)
                            .map(child -> ((Text) child).getText())
                            .filter(text ->
                                    text.endsWith("...") && !labeled.getText().endsWith("...") && !saidOnHover(labeled))
                            .forEach(text -> cut.add(labeled.getText()));
                }
            }
            return null;
        });
        return cut;
    }

    private static boolean shown(Node node) {
        for (Node each = node; each != null; each = each.getParent()) {
            if (!each.isVisible()) {
                return false;
            }
        }
        return !(node instanceof Label label) || label.getWidth() > 0;
    }

    /** Whether the whole text comes up when the pointer rests on it. */
    private static boolean saidOnHover(Labeled labeled) {
        for (Node each = labeled; each != null; each = each.getParent()) {
            if (each.getProperties().get("javafx.scene.control.Tooltip") instanceof Tooltip tooltip) {
                return tooltip.getText().contains(labeled.getText());
            }
        }
        return false;
    }
}

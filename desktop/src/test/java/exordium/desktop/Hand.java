// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import atlantafx.base.theme.PrimerLight;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.event.Event;
import javafx.event.EventType;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.robot.Robot;
import javafx.scene.text.Text;

/**
 * A user's hands and eyes on the real window. Keys and clicks go the way of the machine's own, and are over when the window has
 * got them; nothing here waits for a time.
 */
final class Hand {
    private static final long PATIENCE_SECONDS = 60;
    private static final long FIRST_LOOK_NANOS = 1_000_000;
    private static final long BETWEEN_LOOKS_NANOS = 40_000_000;
    private static final int TRIES = 5;

    private final Scene scene;
    private final Robot robot = on(Robot::new);
    private final AtomicInteger keysUp = new AtomicInteger();
    private final AtomicInteger clicks = new AtomicInteger();
    private volatile Object pressedOn;

    Hand(Scene scene) {
        this.scene = scene;
        on(() -> {
            scene.addEventFilter(KeyEvent.KEY_RELEASED, event -> keysUp.incrementAndGet());
            scene.addEventFilter(MouseEvent.MOUSE_PRESSED, event -> pressedOn = event.getTarget());
            scene.addEventFilter(MouseEvent.MOUSE_RELEASED, event -> clicks.incrementAndGet());
        });
        until("the window has the keys", () -> scene.getWindow().isFocused());
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

    /** Presses a control once it can be pressed, where it is; a page that is laid out anew meanwhile is aimed at again. */
    void click(String id) {
        for (int look = 0; look < TRIES; look++) {
            until(id + " can be pressed", () -> see(id).isVisible() && !see(id).isDisabled());
            int before = clicks.get();
            boolean aimed = on(() -> {
                layOut();
                Node node = scene.getRoot().lookup("#" + id);
                if (node == null) {
                    return false;
                }
                scrollTo(node);
                Bounds place = node.localToScreen(node.getBoundsInLocal());
                robot.mouseMove(place.getCenterX(), place.getCenterY());
                robot.mousePress(MouseButton.PRIMARY);
                robot.mouseRelease(MouseButton.PRIMARY);
                return true;
            });
            if (aimed) {
                until("the click on " + id + " arrives", () -> clicks.get() > before);
                if (pressedOn instanceof Node hit && within(hit, id)) {
                    return;
                }
            }
        }
        throw new AssertionError(id + " is always missed; what is there is " + pressedOn);
    }

    /** What lies further down than its part of the window shows is scrolled to, as anybody would. */
    private void scrollTo(Node node) {
        for (Node each = node.getParent(); each != null; each = each.getParent()) {
            if (each instanceof ScrollPane pane && pane.getContent() != null) {
                double view = pane.getViewportBounds().getHeight();
                double hidden = pane.getContent().getBoundsInLocal().getHeight() - view;
                Bounds place = pane.getContent().sceneToLocal(node.localToScene(node.getBoundsInLocal()));
                double top = pane.getVvalue() * hidden;
                if (hidden > 0 && (place.getMinY() < top || place.getMaxY() > top + view)) {
                    pane.setVvalue(Math.min(1, Math.max(0, (place.getMaxY() - view) / hidden)));
                    layOut();
                }
            }
        }
    }

    private static boolean within(Node hit, String id) {
        for (Node each = hit; each != null; each = each.getParent()) {
            if (id.equals(each.getId())) {
                return true;
            }
        }
        return false;
    }

    /** Everything is where it will be. */
    private void layOut() {
        scene.getRoot().applyCss();
        scene.getRoot().layout();
    }

    void type(String text) {
        on(() -> text.chars()
                .forEach(letter -> Event.fireEvent(
                        scene.getFocusOwner(),
                        new KeyEvent(
                                KeyEvent.KEY_TYPED,
                                Character.toString(letter),
                                "",
                                KeyCode.UNDEFINED,
                                false,
                                false,
                                false,
                                false))));
    }

    void press(KeyCode... keys) {
        int before = keysUp.get();
        on(() -> {
            for (KeyCode key : keys) {
                robot.keyPress(key);
            }
            for (int i = keys.length - 1; i >= 0; i--) {
                robot.keyRelease(keys[i]);
            }
        });
        until("the window got " + Arrays.toString(keys), () -> keysUp.get() >= before + keys.length);
    }

    /** Goes on with Tab until the control has the focus, as someone without a mouse would. */
    void tabTo(String id) {
        see(id);
        boolean reached = on(() -> {
            layOut();
            for (int i = 0; i < 200; i++) {
                Node owner = scene.getFocusOwner();
                if (owner != null && id.equals(owner.getId())) {
                    return true;
                }
                Event.fireEvent(
                        owner == null ? scene.getRoot() : owner,
                        new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.TAB, false, false, false, false));
            }
            return false;
        });
        assertThat(reached).as("Tab reaches " + id).isTrue();
    }

    /** A key held so long that it repeats: what it opened must not get the repetitions. */
    void holdLong(KeyCode key) {
        for (EventType<KeyEvent> kind :
                List.of(KeyEvent.KEY_PRESSED, KeyEvent.KEY_PRESSED, KeyEvent.KEY_PRESSED, KeyEvent.KEY_RELEASED)) {
            on(() -> Event.fireEvent(
                    scene.getFocusOwner(), new KeyEvent(kind, "", "", key, false, false, false, false)));
        }
    }

    String text(String id) {
        Node node = see(id);
        return node instanceof Labeled labeled ? labeled.getText() : node.getAccessibleText();
    }

    /** Everything that can be read in the window now. */
    String page() {
        StringBuilder words = new StringBuilder();
        on(() -> {
            for (Node node : all(scene.getRoot())) {
                if (node instanceof Labeled labeled && labeled.getText() != null) {
                    words.append(labeled.getText()).append('\n');
                } else if (node instanceof Text drawn) {
                    words.append(drawn.getText()).append('\n');
                }
            }
        });
        return words.toString();
    }

    /** Waits for something off the interface thread, such as what is kept in the register. */
    void untilKept(String what, Callable<Boolean> holds) {
        await(what, holds);
    }

    void until(String what, BooleanSupplier holds) {
        await(
                what,
                () -> on(() -> {
                    try {
                        return holds.getAsBoolean();
                    } catch (NotYet e) {
                        return false;
                    }
                }));
    }

    private void await(String what, Callable<Boolean> holds) {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(PATIENCE_SECONDS);
        long pause = FIRST_LOOK_NANOS;
        try {
            while (!holds.call()) {
                if (System.nanoTime() > end) {
                    throw new AssertionError("never: " + what + "; the window says:\n" + page());
                }
                LockSupport.parkNanos(pause);
                pause = Math.min(2 * pause, BETWEEN_LOOKS_NANOS);
            }
        } catch (Exception e) {
            throw new AssertionError(what, e);
        }
    }

    void untilPageSays(String words) {
        until("the page says \"" + words + "\"", () -> page().contains(words));
    }

    /** Does something on the interface thread and waits until it is done. */
    static void on(Runnable deed) {
        on(() -> {
            deed.run();
            return true;
        });
    }

    static <T> T on(Callable<T> question) {
        FutureTask<T> asked = new FutureTask<>(question);
        if (Platform.isFxApplicationThread()) {
            asked.run();
        } else {
            Platform.runLater(asked);
        }
        try {
            return asked.get(PATIENCE_SECONDS, TimeUnit.SECONDS);
        } catch (ExecutionException e) {
            if (e.getCause() instanceof NotYet notYet) {
                throw notYet;
            }
            throw new AssertionError(e.getCause());
        } catch (InterruptedException | TimeoutException e) {
            throw new AssertionError("The interface thread does not answer", e);
        }
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

    /** Nothing is cut off, and each button in that part of the window says what it does. */
    void isWhole(String part, String what) {
        assertThat(cutTexts()).as(what).isEmpty();
        for (Node node : all((Parent) scene.getRoot().lookup(part))) {
            if (node instanceof javafx.scene.control.Button button && button.isFocusTraversable()) {
                assertThat(java.util.Arrays.asList(button.getText(), button.getAccessibleText()).stream()
                                .anyMatch(words -> words != null && !words.isBlank()))
                        .as(what + " " + button.getId())
                        .isTrue();
            }
        }
    }

    /** Words on screen that end in dots because there was no room for them. */
    List<String> cutTexts() {
        List<String> cut = new ArrayList<>();
        on(() -> {
            layOut();
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

    @SuppressWarnings("unchecked")
    <T> ComboBox<T> box(String id) {
        return (ComboBox<T>) see(id);
    }

    /** As if it were pasted. */
    void fill(String id, String text) {
        TextInputControl field = (TextInputControl) see(id);
        on(() -> field.setText(text));
    }

    /** Fonts and styles as the program has them. */
    static void dress() throws IOException {
        App.loadFonts();
        Application.setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
    }
}

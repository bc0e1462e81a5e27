// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.HexDigitOrder;
import exordium.core.rehearsal.Bench;
import exordium.desktop.draw.time.Rails;
import exordium.desktop.part.Parts;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The ladder of a start order: its rungs are moved by keys, buttons and dragging, taken off, and put on again. */
final class OrderLadder extends VBox {
    private static final String UP = "M0 8 L5 1 L10 8 Z";
    private static final String DOWN = "M0 2 L5 9 L10 2 Z";
    private static final String OFF = "M1 0 L5 4 L9 0 L10 1 L6 5 L10 9 L9 10 L5 6 L1 10 L0 9 L4 5 L0 1 Z";
    private static final double TURN_WIDTH = 34;
    private static final double TILE = 34;

    private final OrderDraft draft;
    private final Bench bench;
    private final BoardProfile profile;
    private final boolean hex;
    private final FlowPane unused;
    private final Runnable changed;

    /** Where unused: what is not on the ladder stands there; changed: told of every change. */
    OrderLadder(OrderDraft draft, Bench bench, boolean hex, FlowPane unused, Runnable changed) {
        this.draft = draft;
        this.bench = bench;
        this.profile = bench.profile();
        this.hex = hex;
        this.unused = unused;
        this.changed = changed;
    }

    void show() {
        getChildren().clear();
        for (int i = 0; i < draft.rungs().size(); i++) {
            if (i > 0) {
                getChildren().add(rails());
            }
            getChildren().add(rung(i, draft.rungs().get(i)));
        }
        showUnused();
    }

    /** Which turn a rung has; ends of the order have none of their own. */
    String turn(int index) {
        boolean ends = index >= 0
                && index < draft.rungs().size()
                && (draft.rungs().get(index) == StartSource.RESTART
                        || draft.rungs().get(index) == StartSource.STOP);
        if (ends) {
            return "then";
        }
        return switch (index) {
            case 0 -> "1st";
            case 1 -> "2nd";
            case 2 -> "3rd";
            default -> (index + 1) + "th";
        };
    }

    private HBox rails() {
        return new HBox(
                8, Parts.fixed(new Label(), TURN_WIDTH), Parts.grow(new Rails()), Parts.fixed(new Label(), TILE));
    }

    private HBox rung(int index, StartSource source) {
        Button up = Parts.signButton(UP, "Move " + source.title() + " up", () -> move(index, index - 1));
        up.setDisable(index == 0);
        Button down = Parts.signButton(DOWN, "Move " + source.title() + " down", () -> move(index, index + 1));
        down.setDisable(index == draft.rungs().size() - 1);
        Button off = Parts.signButton(OFF, "Take " + source.title() + " off the ladder", () -> remove(index));
        HBox rung = new HBox(
                Parts.sign("M0 1 H10 V2 H0 Z M0 4.5 H10 V5.5 H0 Z M0 8 H10 V9 H0 Z"),
                new VBox(Parts.label(source.title(), "strong"), Parts.label(plugged(source), "soft", "small")),
                Parts.spring(),
                Parts.label(cost(source), "figure", "soft"),
                up,
                down,
                off);
        rung.getStyleClass().add("rung");
        rung.setFocusTraversable(true);
        rung.setId("rung-" + source.code());
        rung.setAccessibleText(turn(index) + ": " + source.title() + ", " + plugged(source)
                + ". Alt and arrows move it, Delete takes it off.");
        rung.setOnKeyPressed(event -> {
            if (event.isAltDown() && event.getCode() == KeyCode.UP) {
                move(index, index - 1);
            } else if (event.isAltDown() && event.getCode() == KeyCode.DOWN) {
                move(index, index + 1);
            } else if (event.getCode() == KeyCode.DELETE) {
                remove(index);
            } else {
                return;
            }
            event.consume();
        });
        drag(rung, index);
        Label turn = Parts.fixed(Parts.label(turn(index), "aside", "small"), TURN_WIDTH);
        turn.setAlignment(Pos.CENTER_RIGHT);
        HBox line = new HBox(8, turn, Parts.grow(rung));
        if (hex) {
            Label tile = Parts.fixed(
                    Parts.label(
                            HexDigitOrder.digitOf(source).map(String::valueOf).orElse(""), "figure", "tile"),
                    TILE);
            if (index == 0) {
                tile.getStyleClass().add("first");
            }
            line.getChildren().add(tile);
        }
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** What trying it costs, from the profile's timings. */
    private String cost(StartSource source) {
        if (source == StartSource.RESTART || source == StartSource.STOP) {
            return "";
        }
        boolean there = bench.mediaOn(source).findAny().isPresent();
        double seconds = there ? profile.timing().tryMedium() : profile.timing().tryEmpty();
        return String.format(Locale.ROOT, there ? "+%.1f s" : "+%.1f s when empty", seconds);
    }

    private void drag(HBox rung, int index) {
        rung.setOnDragDetected(event -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(String.valueOf(index));
            rung.startDragAndDrop(TransferMode.MOVE).setContent(content);
            event.consume();
        });
        rung.setOnDragOver(event -> {
            if (event.getGestureSource() instanceof HBox from
                    && lookupAll(".rung").contains(from)) {
                event.acceptTransferModes(TransferMode.MOVE);
            }
            event.consume();
        });
        rung.setOnDragDropped(event -> {
            move(Integer.parseInt(event.getDragboard().getString()), index);
            event.setDropCompleted(true);
            event.consume();
        });
    }

    private void move(int from, int to) {
        if (to < 0 || to >= draft.rungs().size()) {
            return;
        }
        StartSource moved = draft.rungs().get(from);
        draft.move(from, to);
        changed.run();
        lookup("#rung-" + moved.code()).requestFocus();
    }

    private void remove(int index) {
        draft.remove(index);
        changed.run();
        if (!draft.rungs().isEmpty()) {
            StartSource next = draft.rungs().get(Math.min(index, draft.rungs().size() - 1));
            lookup("#rung-" + next.code()).requestFocus();
        }
    }

    private String plugged(StartSource source) {
        if (!source.holdsMedium()) {
            return source == StartSource.NETWORK ? "asks a server on the wire" : "";
        }
        String names = bench.mediaOn(source).map(Bench.Attached::name).collect(Collectors.joining(", "));
        return names.isEmpty() ? "nothing plugged in" : names;
    }

    /** What of the family is not on the ladder, to be put on it. */
    private void showUnused() {
        unused.getChildren().clear();
        List<StartSource> sources = draft.unused();
        if (!sources.isEmpty()) {
            Label title = Parts.label("Not used", "soft", "small");
            title.setMinHeight(24);
            unused.getChildren().add(title);
        }
        for (StartSource source : sources) {
            String digit = hex
                    ? "  " + HexDigitOrder.digitOf(source).map(String::valueOf).orElse("")
                    : "";
            String waiting = bench.mediaOn(source).map(Bench.Attached::name).collect(Collectors.joining(", "));
            Button add = Parts.button(
                    source.word() + digit + (waiting.isEmpty() ? "" : "  ·  " + waiting + " waits there"),
                    () -> {
                        draft.add(source);
                        changed.run();
                        lookup("#rung-" + source.code()).requestFocus();
                    },
                    waiting.isEmpty() ? "spare" : "task",
                    "small");
            add.setAccessibleText("Add " + source.title() + " to the ladder");
            add.setId("add-" + source.code());
            unused.getChildren().add(add);
        }
    }
}

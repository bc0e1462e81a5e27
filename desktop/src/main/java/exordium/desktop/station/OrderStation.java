// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.HexDigitOrder;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.desktop.Parts;
import exordium.desktop.draw.TraceBar;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import exordium.desktop.model.OrderDraft;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The order as a ladder whose rungs are moved, tied to the digits of the value; what it would do, and staging it. */
final class OrderStation extends Station {
    private static final String NOTHING = "nothing plugged in";

    private final OrderDraft draft;
    private final HBox digits = new HBox(12);
    private final VBox ladder = new VBox(6);
    private final javafx.scene.layout.FlowPane unused = new javafx.scene.layout.FlowPane(2, 2);
    private final VBox diff = new VBox(2);
    private final VBox bars = new VBox(4);
    private final Button stage;
    private final boolean hex;

    OrderStation(HouseModel house, BoardDetail board) {
        super(house, board);
        draft = new OrderDraft(
                board.at().profile(), board.at().stagedOrder().orElse(board.at().order()));
        stage = Parts.button("", this::stage, "deed");
        stage.setId("stage-order");
        hex = board.at().profile().order().dialect().equals("hex-digits");
        diff.getStyleClass().add("diff");
    }

    @Override
    Node surface() {
        digits.setAlignment(Pos.CENTER);
        Button rehearse = Parts.button("Go to the rehearsal", () -> goTo(exordium.core.finding.Step.REHEARSAL));
        VBox left = new VBox(
                9,
                Parts.heading(
                        "Order", hex ? "the board reads from the right-hand digit" : "the board tries from the top"),
                digits,
                ladder,
                unused,
                diff,
                Parts.row(10, stage, rehearse));
        left.setMinWidth(400);
        left.setPrefWidth(440);
        VBox right = new VBox(8, Parts.heading("To running", "with what is plugged in"), bars);
        right.setMinWidth(240);
        show();
        return new HBox(20, left, Parts.grow(right));
    }

    private void show() {
        int focus = focusedRung();
        showDigits();
        ladder.getChildren().clear();
        for (int i = 0; i < draft.rungs().size(); i++) {
            ladder.getChildren().add(rung(i, draft.rungs().get(i)));
        }
        unused.getChildren().setAll(Parts.label("Not used", "soft", "small"));
        for (StartSource source : draft.unused()) {
            Button add = Parts.button(
                    "+ " + word(source),
                    () -> {
                        draft.add(source);
                        show();
                    },
                    "quiet",
                    "small");
            add.setAccessibleText("Add " + source.title());
            add.setId("add-" + source.code());
            unused.getChildren().add(add);
        }
        showDiff();
        compare();
        if (focus >= 0 && focus < ladder.getChildren().size()) {
            ladder.getChildren().get(focus).requestFocus();
        }
    }

    private static String word(StartSource source) {
        return source.code().replace('-', ' ');
    }

    private void showDigits() {
        digits.getChildren().clear();
        if (!hex) {
            digits.getChildren().add(Parts.label(draft.value().orElse("cannot be written down"), "figure"));
            return;
        }
        String value = draft.value().orElse("0x");
        digits.getChildren().addAll(Parts.label("0x", "figure-large", "soft"));
        List<Character> each = HexDigitOrder.digitsLeftToRight(value);
        for (int i = 0; i < each.size(); i++) {
            int turn = each.size() - i;
            StackPane box = new StackPane(Parts.label(String.valueOf(each.get(i)), "figure-large"));
            box.getStyleClass().add("digit");
            box.setMinSize(40, 52);
            if (turn == 1) {
                box.getStyleClass().add("first");
            }
            VBox column = new VBox(2, box, Parts.label(ordinal(turn - 1), "aside", "small"));
            column.setAlignment(Pos.CENTER);
            digits.getChildren().add(column);
        }
        digits.getChildren().add(Parts.label("◂ read this way", "aside", "small"));
    }

    private String ordinal(int index) {
        if (index >= 0
                && index < draft.rungs().size()
                && !draft.rungs().get(index).holdsMedium()
                && draft.rungs().get(index) == StartSource.RESTART) {
            return "then";
        }
        return switch (index) {
            case 0 -> "1st";
            case 1 -> "2nd";
            case 2 -> "3rd";
            default -> (index + 1) + "th";
        };
    }

    private HBox rung(int index, StartSource source) {
        Label turn = Parts.label(ordinal(index), "aside", "small");
        turn.setMinWidth(30);
        Button up = Parts.button("▴", () -> move(index, index - 1), "quiet");
        up.setAccessibleText("Move " + source.title() + " up");
        up.setDisable(index == 0);
        Button down = Parts.button("▾", () -> move(index, index + 1), "quiet");
        down.setAccessibleText("Move " + source.title() + " down");
        down.setDisable(index == draft.rungs().size() - 1);
        Button off = Parts.button("×", () -> remove(index), "quiet");
        off.setAccessibleText("Take " + source.title() + " off the ladder");
        String digit = hex ? HexDigitOrder.digitOf(source).map(String::valueOf).orElse("") : "";
        HBox rung = new HBox(
                Parts.label("⋮", "soft"),
                new VBox(Parts.label(source.title(), "strong"), Parts.label(plugged(source), "soft", "small")),
                Parts.spring(),
                up,
                down,
                off,
                Parts.label(digit, "figure"));
        rung.getStyleClass().add("rung");
        rung.setFocusTraversable(true);
        rung.setId("rung-" + source.code());
        rung.setAccessibleText(ordinal(index) + ": " + source.title() + ", " + plugged(source));
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
        HBox line = new HBox(8, turn, Parts.grow(rung));
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    private void drag(HBox rung, int index) {
        rung.setOnDragDetected(event -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(String.valueOf(index));
            rung.startDragAndDrop(TransferMode.MOVE).setContent(content);
            event.consume();
        });
        rung.setOnDragOver(event -> {
            if (event.getDragboard().hasString()) {
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

    private int focusedRung() {
        Node owner = ladder.getScene() == null ? null : ladder.getScene().getFocusOwner();
        for (int i = 0; owner != null && i < ladder.getChildren().size(); i++) {
            if (ladder.getChildren().get(i).lookup("#" + owner.getId()) == owner && owner.getId() != null) {
                return i;
            }
        }
        return -1;
    }

    private void move(int from, int to) {
        draft.move(from, to);
        show();
        if (to >= 0 && to < ladder.getChildren().size()) {
            ladder.getChildren().get(to).lookup(".rung").requestFocus();
        }
    }

    private void remove(int index) {
        draft.remove(index);
        show();
    }

    private String plugged(StartSource source) {
        List<String> names = board.bench().attached().stream()
                .filter(medium -> board.at()
                        .profile()
                        .port(medium.port())
                        .filter(port -> port.source() == source)
                        .isPresent())
                .map(Bench.Attached::name)
                .toList();
        if (!source.holdsMedium()) {
            return source == StartSource.NETWORK ? "asks a server on the wire" : "";
        }
        return names.isEmpty() ? NOTHING : String.join(", ", names);
    }

    private void showDiff() {
        BoardProfile profile = board.at().profile();
        String key = profile.order().key();
        Optional<String> value = draft.value();
        diff.getChildren().clear();
        boolean fuse = profile.order().fuse().isPresent();
        boolean changed = value.filter(now -> !now.equals(board.at().order())).isPresent();
        if (changed) {
            diff.getChildren()
                    .addAll(
                            Parts.label("−  " + key + "=" + board.at().order(), "figure", "soft"),
                            Parts.label("+  " + key + "=" + value.get(), "figure"),
                            Parts.label("takes effect at the next restart, lost if switched off", "aside", "small"));
        } else {
            diff.getChildren().add(Parts.label(key + "=" + board.at().order() + ", as the board holds it", "figure"));
        }
        stage.setText(
                !changed
                        ? "Nothing to stage"
                        : "Stage " + board.at().profile().orderFigure(value.orElse("")) + " on " + board.name());
        boolean already = board.at().stagedOrder().equals(value) && value.isPresent();
        stage.setDisable(!changed || fuse || already || Finding.anyStops(draft.findings()));
    }

    /** What the present order, the new one, and a few changes of what is plugged in would do. */
    private void compare() {
        Bench bench = board.bench();
        Map<String, Trace> traces = new LinkedHashMap<>();
        traces.put("now " + board.at().profile().orderFigure(board.at().order()), Rehearsal.of(bench));
        Optional<String> value = draft.value();
        Bench next = value.map(bench::withOrder).orElse(bench);
        if (value.isPresent() && !value.get().equals(board.at().order())) {
            traces.put("new " + board.at().profile().orderFigure(value.get()), Rehearsal.of(next));
        }
        for (StartSource source : draft.unused()) {
            withFirst(source)
                    .ifPresent(tried ->
                            traces.put(word(source) + " first, " + tried, Rehearsal.of(bench.withOrder(tried))));
        }
        for (Bench.Attached medium : bench.attached()) {
            traces.put(medium.name() + " out", Rehearsal.of(next.without(Set.of(medium.port()))));
        }
        double longest =
                traces.values().stream().mapToDouble(Trace::seconds).max().orElse(1);
        bars.getChildren().clear();
        traces.forEach((name, trace) -> {
            bars.getChildren().addAll(Parts.label(name, "small"), new TraceBar(name, trace, longest));
        });
        List<Finding> findings = new ArrayList<>(draft.findings());
        findings.addAll(Rehearsal.of(next).findings());
        boolean reachable = board.at().register().slotReachable();
        findings.add(Finding.note(
                "house-card-or-drive-first",
                reachable
                        ? "The card slot can be reached: card first keeps a rescue way in, the fast drive first saves seconds."
                        : "The card slot of this box is shut in: a drive first survives a forgotten card.",
                Basis.houseRule("card first while the slot can be reached")));
        advise(Finding.worstFirst(findings));
    }

    /** The order with an unused source put first, where a medium waits on it. */
    private Optional<String> withFirst(StartSource source) {
        boolean waits = source.holdsMedium() && !plugged(source).equals(NOTHING);
        return waits ? draft.valueWithFirst(source) : Optional.empty();
    }

    private void stage() {
        draft.value().ifPresent(value -> house.perform(() -> house.boardJobs().stageOrder(board.at(), value)));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.FirstTried;
import exordium.core.bootorder.HexDigitOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Companions;
import exordium.core.rehearsal.NetworkInstall;
import exordium.core.rehearsal.OrderComparison;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.draw.bench.DigitRow;
import exordium.desktop.draw.time.Rails;
import exordium.desktop.draw.time.TraceBar;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.jobs.order.OrderJob;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The order as a ladder whose rungs are moved, tied to the digits of the value; what it would do, and staging it. */
public final class OrderStation extends Station<OrderModel> {
    private static final String UP = "M0 8 L5 1 L10 8 Z";
    private static final String DOWN = "M0 2 L5 9 L10 2 Z";
    private static final String OFF = "M1 0 L5 4 L9 0 L10 1 L6 5 L10 9 L9 10 L5 6 L1 10 L0 9 L4 5 L0 1 Z";
    private static final double TURN_WIDTH = 34;
    private static final double TILE = 34;

    private OrderDraft draft;
    private Companions companions;
    private Optional<SetsView> sets = Optional.empty();
    private int shown = -1;
    private final BoardProfile profile;
    private final boolean hex;
    private final VBox value = new VBox();
    private final VBox ladder = new VBox();
    private final FlowPane unused = new FlowPane(4, 4);
    private final VBox diff = new VBox(2);
    private final VBox bars = new VBox(6);
    private final Button stage;
    private final Button asHouse;

    public OrderStation(House house, OrderModel model) {
        super(house, model);
        profile = board().at().profile();
        hex = profile.order().form().digits();
        stage = Parts.button("", this::stage, "deed");
        stage.setId("stage-order");
        asHouse = Parts.button("As the house rule has it", this::arrange);
        asHouse.setId("house-order");
        diff.getStyleClass().add("diff");
    }

    @Override
    protected Step step() {
        return Step.ORDER;
    }

    @Override
    public Node surface() {
        VBox view = new VBox();
        VBox.setVgrow(view, Priority.ALWAYS);
        List<String> views = new ArrayList<>(List.of("Order", "Start sets"));
        if (profile.order().fuse().isPresent()) {
            views.add("The one-time bit");
        }
        NetworkInstall.of(model.bench()).ifPresent(able -> views.add("Network install"));
        VBox surface = new VBox(10, Views.row("order-view-", views, 0, chosen -> show(view, chosen)), view);
        show(view, 0);
        return surface;
    }

    private void show(VBox view, int chosen) {
        if (chosen == shown) {
            return;
        }
        shown = chosen;
        sets = Optional.empty();
        if (chosen == 0) {
            draft = new OrderDraft(
                    profile, board().at().stagedOrder().orElse(board().at().order()));
            view.getChildren().setAll(ladder());
        } else if (chosen == 1) {
            SetsView open = new SetsView(
                    house, model, draft.value().orElse(board().at().order()), () -> copyFirst("something new"));
            VBox.setVgrow(open, Priority.ALWAYS);
            sets = Optional.of(open);
            view.getChildren().setAll(open);
            advise(open.findings());
        } else if (profile.order().fuse().isPresent()) {
            view.getChildren().setAll(FuseView.of(house, board()));
        } else {
            NetworkInstall.of(model.bench()).ifPresent(install -> view.getChildren()
                    .setAll(InstallView.of(install, order -> ladderWith(view, order))));
        }
    }

    /** Back to the ladder, with another order on it. */
    private void ladderWith(VBox view, String order) {
        ((ToggleButton) view.getParent().lookup("#order-view-0")).setSelected(true);
        show(view, 0);
        draft.rungs().setAll(OrderDialect.of(profile).decode(order).sources());
        show();
    }

    /** The start sets stay open, and what is typed for another one. */
    @Override
    public boolean update(OrderModel fresh) {
        model = fresh;
        sets.ifPresent(shown -> {
            shown.show(fresh);
            advise(shown.findings());
        });
        return sets.isPresent();
    }

    private Node ladder() {
        Button rehearse = Parts.button("Rehearse first", () -> goTo(Step.REHEARSAL));
        rehearse.setId("rehearse-first");
        VBox left = new VBox(
                10,
                Parts.heading(
                        "Order",
                        hex ? "read by the board from the right-hand digit" : "tried by the board from the top"),
                value,
                ladder,
                unused,
                Parts.heading("What changes", ""),
                diff,
                new FlowPane(10, 8, stage, copyFirst("order"), rehearse, asHouse));
        left.getStyleClass().add("order-left");
        VBox right = new VBox(10, Parts.heading("To running", "with what is plugged in"), bars, presets());
        right.getStyleClass().add("order-right");
        show();
        return new HBox(22, left, Parts.grow(right));
    }

    /** Orders people choose, each with its reason and what it comes to here. */
    private VBox presets() {
        VBox all = new VBox(9, Parts.heading("Orders people choose", ""));
        Set<StartSource> plugged = model.bench().attached().stream()
                .flatMap(each -> profile.port(each.port()).stream())
                .map(BoardProfile.Port::source)
                .collect(Collectors.toSet());
        for (OrderPreset preset : OrderPreset.of(profile, plugged)) {
            Trace trace = Rehearsal.of(model.bench().withOrder(preset.value()));
            Button choose = Parts.button(
                    preset.title(),
                    () -> {
                        draft.rungs().setAll(preset.sources());
                        show();
                    },
                    "small");
            choose.setId("preset-" + preset.id());
            choose.setAccessibleText(preset.title() + ", " + preset.value() + ". " + preset.reason());
            String comes = trace.runs()
                    ? String.format(Locale.ROOT, "%.1f s", trace.seconds())
                    : "never: " + trace.cause().shortText();
            all.getChildren()
                    .add(new VBox(
                            2,
                            choose,
                            Parts.paragraph(
                                    preset.value() + "  " + comes, "figure", "small", trace.runs() ? "soft" : "alarm"),
                            Parts.paragraph(preset.reason(), "small")));
        }
        return all;
    }

    private void show() {
        showValue();
        ladder.getChildren().clear();
        for (int i = 0; i < draft.rungs().size(); i++) {
            if (i > 0) {
                ladder.getChildren().add(rails());
            }
            ladder.getChildren().add(rung(i, draft.rungs().get(i)));
        }
        showUnused();
        showHouse();
        showDiff();
        showBars();
    }

    private void showValue() {
        if (!hex) {
            Label text = Parts.label(draft.value().orElse("cannot be written down"), "figure");
            text.setId("order-value");
            value.getChildren().setAll(text);
            return;
        }
        List<Character> digits = HexDigitOrder.digitsLeftToRight(draft.value().orElse("0x"));
        List<String> turns = new ArrayList<>();
        for (int i = digits.size() - 1; i >= 0; i--) {
            turns.add(turn(i));
        }
        DigitRow row = new DigitRow(digits, turns);
        row.setId("order-value");
        row.setAccessibleText(draft.value().orElse("no value") + ", read from the right-hand digit");
        value.getChildren().setAll(row);
    }

    /** Which turn a rung has; ends of the order have none of their own. */
    private String turn(int index) {
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
        boolean there = model.bench().mediaOn(source).findAny().isPresent();
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
                    && ladder.lookupAll(".rung").contains(from)) {
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
        show();
        ladder.lookup("#rung-" + moved.code()).requestFocus();
    }

    private void remove(int index) {
        draft.remove(index);
        show();
        if (!draft.rungs().isEmpty()) {
            StartSource next = draft.rungs().get(Math.min(index, draft.rungs().size() - 1));
            ladder.lookup("#rung-" + next.code()).requestFocus();
        }
    }

    private String plugged(StartSource source) {
        if (!source.holdsMedium()) {
            return source == StartSource.NETWORK ? "asks a server on the wire" : "";
        }
        String names = model.bench().mediaOn(source).map(Bench.Attached::name).collect(Collectors.joining(", "));
        return names.isEmpty() ? "nothing plugged in" : names;
    }

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
            String waiting =
                    model.bench().mediaOn(source).map(Bench.Attached::name).collect(Collectors.joining(", "));
            Button add = Parts.button(
                    source.word() + digit + (waiting.isEmpty() ? "" : "  ·  " + waiting + " waits there"),
                    () -> {
                        draft.add(source);
                        show();
                        ladder.lookup("#rung-" + source.code()).requestFocus();
                    },
                    waiting.isEmpty() ? "spare" : "task",
                    "small");
            add.setAccessibleText("Add " + source.title() + " to the ladder");
            add.setId("add-" + source.code());
            unused.getChildren().add(add);
        }
    }

    private void showDiff() {
        String key = profile.order().key();
        String stored = board().at().order();
        Optional<String> wanted = draft.value();
        boolean changed = wanted.filter(now -> !now.equals(stored)).isPresent();
        boolean already = wanted.isPresent() && board().at().stagedOrder().equals(wanted);
        boolean fuse = profile.order().fuse().isPresent();
        companions = OrderJob.companions(
                board().at(),
                model.bench(),
                List.copyOf(draft.rungs()),
                house.facts().rules());
        if (changed) {
            diff.getChildren()
                    .setAll(
                            Parts.label("−  " + key + "=" + stored, "figure", "soft"),
                            Parts.label("+  " + key + "=" + wanted.get(), "figure"),
                            Parts.label(
                                    fuse
                                            ? "one-time memory: see The one-time bit"
                                            : (already ? "staged: " : "")
                                                    + "takes effect at the next restart, lost if switched off",
                                    "alarm",
                                    "small"));
        } else {
            diff.getChildren().setAll(Parts.label(key + "=" + stored + "  as the board holds it", "figure"));
        }
        if (changed && !fuse) {
            companions.out().forEach(line -> diff.getChildren().add(1, Parts.label("−  " + line, "figure", "soft")));
            companions.in().forEach(line -> diff.getChildren()
                    .add(diff.getChildren().size() - 1, Parts.label("+  " + line + "   has to go with it", "figure")));
        }
        stage.setText(
                changed && !fuse
                        ? "Stage " + profile.orderFigure(wanted.orElse("")) + " on " + board().name()
                        : "Nothing to stage");
        stage.setDisable(!changed || fuse || already || Finding.anyStops(draft.findings()));
    }

    private boolean slotReachable() {
        return board().at().register().slotReachable();
    }

    private FirstTried rule() {
        return house.facts().rules().firstTried();
    }

    /** Offers the house's order where this one is another. */
    private void showHouse() {
        asHouse.setVisible(rule().arranged(draft.rungs(), slotReachable()).isPresent());
    }

    private void arrange() {
        rule().arranged(draft.rungs(), slotReachable()).ifPresent(better -> {
            draft.rungs().setAll(better);
            show();
        });
    }

    private void showBars() {
        OrderComparison comparison =
                OrderComparison.of(model.bench(), Collections.unmodifiableList(draft.rungs()), slotReachable(), rule());
        bars.getChildren().clear();
        for (OrderComparison.Variant variant : comparison.variants()) {
            TraceBar bar = new TraceBar(variant.name(), variant.trace(), comparison.longest());
            bars.getChildren().add(new VBox(1, Parts.label(variant.name(), "small"), bar));
        }
        List<Finding> findings = new ArrayList<>(comparison.findings());
        findings.addAll(companions.findings());
        advise(Finding.worstFirst(findings));
    }

    private void stage() {
        draft.value().ifPresent(wanted -> house.facts()
                .perform(() -> new OrderJob(house.workbench()).stage(board().at(), wanted, companions)));
    }
}

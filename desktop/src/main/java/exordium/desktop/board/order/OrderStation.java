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
import exordium.core.rehearsal.Companions;
import exordium.core.rehearsal.NetworkInstall;
import exordium.core.rehearsal.OrderComparison;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.draw.bench.DigitRow;
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
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The order as a ladder whose rungs are moved, tied to the digits of the value; what it would do, and staging it. */
public final class OrderStation extends Station<OrderModel> {
    private OrderDraft draft;
    private Companions companions;
    private Optional<SetsView> sets = Optional.empty();
    private int shown = -1;
    private final BoardProfile profile;
    private final boolean hex;
    private final VBox value = new VBox();
    private OrderLadder ladder;
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
        ladder = new OrderLadder(draft, model.bench(), hex, unused, this::show);
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
        ladder.show();
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
            turns.add(ladder.turn(i));
        }
        DigitRow row = new DigitRow(digits, turns);
        row.setId("order-value");
        row.setAccessibleText(draft.value().orElse("no value") + ", read from the right-hand digit");
        value.getChildren().setAll(row);
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

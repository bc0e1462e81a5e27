// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.order;

import exordium.core.access.Ability;
import exordium.core.board.BoardProfile;
import exordium.core.bootorder.OrderPreset;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.multiboot.StartSets;
import exordium.desktop.board.station.RestartRow;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.time.TraceBar;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.SetsJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The start sets of a board: each with what a rehearsal says of it and what is to be done at the board, and a form for another. */
final class SetsView extends VBox {
    private static final Content AS_IT_IS = new Content("as it is", Optional.empty());
    private static final Content EMPTY = new Content("nothing in it", Optional.empty());

    private final House house;
    private final Supplier<Node> copyFirst;
    private OrderModel model;
    private final VBox list = new VBox(14);
    private final VBox form = new VBox(8);
    private final TextField name = new TextField();
    private final ComboBox<Choice> order = new ComboBox<>();
    private final CheckBox button = new CheckBox("Its button is held while power comes on");
    private final Map<String, ComboBox<Content>> ports = new LinkedHashMap<>();

    /** An order to choose, and value: none for the one the board has. */
    private record Choice(String words, Optional<String> value) {}

    /** What a port may hold in a set, and medium: its id. */
    private record Content(String words, Optional<String> medium) {}

    /** Where copyFirst: offers a copy before something new is tried, where one is due for it. */
    SetsView(House house, OrderModel model, String ladder, Supplier<Node> copyFirst) {
        super(10);
        this.house = house;
        this.model = model;
        this.copyFirst = copyFirst;
        name.setId("set-name");
        name.setPromptText("such as trial");
        name.setAccessibleText("Name of the set");
        order.setId("set-order");
        order.setAccessibleText("Order of the set");
        WordCell.in(order, Choice::words);
        button.setId("set-button");
        ScrollPane scroll = new ScrollPane(new VBox(14, list, form));
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        Parts.followKeys(scroll);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(scroll, RestartRow.row(house, model.board()));
        buildForm(ladder);
        show(model);
    }

    private Workbench.BoardAtHand at() {
        return model.board().at();
    }

    private BoardProfile profile() {
        return at().profile();
    }

    /** What is being typed for another set stays. */
    void show(OrderModel fresh) {
        model = fresh;
        String focused = getScene() == null || getScene().getFocusOwner() == null
                ? null
                : getScene().getFocusOwner().getId();
        getChildren().set(1, RestartRow.row(house, model.board()));
        list.getChildren().setAll(Parts.heading("Start sets", "media, order and settings that go together"));
        model.tried().ifPresent(tried -> list.getChildren().add(tried(tried)));
        if (model.sets().isEmpty()) {
            list.getChildren()
                    .add(Parts.paragraph(
                            "This board has none yet. A set keeps, under a name, what is plugged in, the order and what is held: one for"
                                    + " every day, one for a trial, one for rescue. Each is rehearsed before it is used.",
                            "soft"));
        }
        double longest = model.sets().stream()
                .mapToDouble(each -> each.trace().seconds())
                .max()
                .orElse(1);
        if (model.sets().stream().anyMatch(each -> !each.chosen())) {
            list.getChildren().add(copyFirst.get());
        }
        model.sets().forEach(each -> list.getChildren().add(row(each, longest)));
        // Who worked by the keyboard goes on where they were.
        Node again = focused == null ? null : lookup("#" + focused);
        if (again != null) {
            again.requestFocus();
        }
    }

    List<Finding> findings() {
        List<Finding> all = new ArrayList<>();
        model.sets().forEach(each -> all.addAll(each.findings()));
        return Finding.worstFirst(all.stream().distinct().toList());
    }

    private VBox tried(String set) {
        Button back = Parts.button("Go back from it now", () -> perform(job -> job.back(at())), "task");
        back.setId("set-back");
        return new VBox(
                4,
                Parts.row(
                        10,
                        new PennantGlyph(Pennant.SET),
                        Parts.grow(Parts.paragraph(set
                                + " is tried once: after the restart into it, what was set before is staged again"
                                + (at().register().can(Ability.STAGE) ? "." : ", and you set it at the board."))),
                        back));
    }

    private VBox row(SetsJob.Proven set, double longest) {
        String id = set.set().name();
        Button use = Parts.button("Switch to it", () -> perform(job -> job.use(at(), id, false)), "small");
        use.setId("set-use-" + id);
        use.setAccessibleText("Switch to " + set.set().said());
        Button once = Parts.button("Try it for one start", () -> perform(job -> job.use(at(), id, true)), "small");
        once.setId("set-once-" + id);
        once.setAccessibleText("Try " + set.set().said() + " for one start");
        Button forget = Parts.button("Forget it", () -> perform(job -> job.remove(at(), id)), "small");
        forget.setId("set-forget-" + id);
        forget.setAccessibleText("Forget the set " + set.set().said());
        boolean barred = Finding.anyStops(set.findings());
        use.setDisable(barred || set.chosen());
        once.setDisable(barred || set.chosen());
        VBox row = new VBox(
                4,
                Parts.row(
                        10,
                        new PennantGlyph(set.pennant()),
                        Parts.whole(Parts.label(set.set().said(), "strong")),
                        Parts.label(
                                set.set().order().map(profile()::orderFigure).orElse("the order it has"), "figure"),
                        Parts.label(source(set), "soft")),
                new TraceBar(set.set().said(), set.trace(), longest));
        set.atTheBoard().forEach(step -> row.getChildren().add(Parts.paragraph("At the board: " + step, "small")));
        set.findings().stream().filter(Finding::stops).forEach(each -> row.getChildren()
                .add(Parts.paragraph(each.text(), "alarm", "small")));
        HBox deeds = Parts.row(10, use, once, forget);
        if (set.chosen()) {
            deeds.getChildren()
                    .add(Parts.label(
                            at().board().chip().anythingStaged()
                                    ? "staged: it counts from the next restart"
                                    : "what the board is set to now",
                            "aside",
                            "small"));
        }
        row.getChildren().add(deeds);
        row.setId("set-" + id);
        return row;
    }

    private String source(SetsJob.Proven set) {
        if (!set.trace().runs()) {
            return "";
        }
        String port = set.trace().startedFrom().orElse("");
        String root = set.trace().rootFrom().orElse("");
        return "from " + title(port) + (root.isEmpty() || root.equals(port) ? "" : ", root on " + title(root));
    }

    private String title(String port) {
        return profile().port(port).map(BoardProfile.Port::title).orElse(port);
    }

    private void buildForm(String ladder) {
        boolean fuse = profile().order().fuse().isPresent();
        order.getItems().add(new Choice("the order it has", Optional.empty()));
        if (!fuse) {
            order.getItems().add(new Choice("as on the ladder, " + ladder, Optional.of(ladder)));
            for (OrderPreset preset : OrderPreset.of(profile(), Set.of())) {
                order.getItems().add(new Choice(preset.title() + ", " + preset.value(), Optional.of(preset.value())));
            }
        }
        order.getSelectionModel().select(fuse ? 0 : 1);
        FlowPane places = new FlowPane(14, 8);
        model.media().forEach((port, media) -> {
            ComboBox<Content> choice = new ComboBox<>();
            WordCell.in(choice, Content::words);
            choice.setId("set-port-" + port);
            choice.setAccessibleText("What is in " + title(port));
            choice.getItems().addAll(AS_IT_IS, EMPTY);
            media.forEach(
                    each -> choice.getItems().add(new Content(each.name() + ", " + each.id(), Optional.of(each.id()))));
            choice.getSelectionModel().select(0);
            ports.put(port, choice);
            places.getChildren().add(Parts.row(6, Parts.whole(Parts.label(title(port), "soft", "small")), choice));
        });
        Button keep = Parts.button("Keep it as a start set", this::keep, "deed");
        keep.setId("set-keep");
        form.getChildren()
                .addAll(
                        Parts.heading("Another set", "rehearsed before it is kept; nothing is staged by it"),
                        Parts.row(
                                10,
                                Parts.label("Name", "soft", "small"),
                                name,
                                Parts.label("Order", "soft", "small"),
                                order,
                                keep),
                        places);
        if (profile().hasButton()) {
            form.getChildren().add(button);
        }
        keep.disableProperty().bind(name.textProperty().isEmpty());
    }

    private interface Deed {
        void in(SetsJob job) throws IOException;
    }

    private void perform(Deed deed) {
        house.facts().perform(() -> deed.in(new SetsJob(house.workbench(), house.benches())));
    }

    private void keep() {
        Map<String, String> plug = new TreeMap<>();
        List<String> unplug = new ArrayList<>();
        ports.forEach((port, choice) -> {
            if (EMPTY.equals(choice.getValue())) {
                unplug.add(port);
            }
            choice.getValue().medium().ifPresent(medium -> plug.put(port, medium));
        });
        String title = name.getText().strip();
        Optional<String> value = order.getValue().value();
        Optional<Boolean> held = button.isSelected() ? Optional.of(true) : Optional.empty();
        perform(job -> {
            String id = StartSets.nameOf(title);
            job.keep(
                    at(),
                    new StartSets.StartSet(
                            id,
                            id.equals(title) ? Optional.empty() : Optional.of(title),
                            value,
                            plug,
                            unplug,
                            Map.of(),
                            held));
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.TwoTraces;
import exordium.desktop.board.station.RestartRow;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.bench.BoardPlan;
import exordium.desktop.draw.time.TraceBar;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.jobs.rehearsal.DiagnosisJob;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The start, attempt by attempt, from the real bytes; media, supply and what is staged can be changed to see what then. */
public final class RehearsalStation extends Station<RehearsalModel> {
    /** Some of the steps are always seen. */
    private static final double LEAST_STEPS = 110;

    private final BenchDraft draft;
    private final HBox bench = new HBox();
    private final VBox bar = new VBox(4);
    private final VBox events = new VBox(7);
    private final Label outcome = Parts.label("", "strong");
    private final VBox view = new VBox(10);
    private boolean otherwise;

    public RehearsalStation(House house, RehearsalModel model) {
        super(house, model);
        draft = new BenchDraft(model);
        outcome.setId("outcome");
    }

    @Override
    public String adviceTitle() {
        return "What comes of it";
    }

    @Override
    protected Step step() {
        return Step.REHEARSAL;
    }

    @Override
    public Node surface() {
        VBox surface = new VBox(
                10,
                Views.row(
                        "rehearsal-view-",
                        List.of("From power to running", "It did otherwise"),
                        otherwise ? 1 : 0,
                        chosen -> {
                            otherwise = chosen == 1;
                            showView();
                        }),
                Parts.grow(view),
                RestartRow.row(house, board()));
        VBox.setVgrow(view, Priority.ALWAYS);
        showView();
        return surface;
    }

    /** A conversation goes on while something else is put down. */
    @Override
    public boolean update(RehearsalModel fresh) {
        boolean same = fresh.bench().equals(model.bench());
        model = fresh;
        return otherwise && same;
    }

    private void showView() {
        if (otherwise) {
            view.getChildren()
                    .setAll(
                            Parts.heading("What did it do?", "three questions at most; what is thought of it follows"),
                            new DiagnosisView(
                                    house,
                                    model.bench(),
                                    (diagnosis, seen) -> house.facts()
                                            .perform(() -> DiagnosisJob.putDown(
                                                    house.workbench(), board().at(), diagnosis, seen)),
                                    this::goTo));
            return;
        }
        HBox choices = Parts.row(24);
        if (board().at().profile().hasButton()) {
            choices.getChildren().add(choice("button-held", "button held at power on", draft::buttonHeld));
        }
        if (board().at().board().chip().anythingStaged()) {
            choices.getChildren()
                    .add(choice("with-staged", "with what is staged, as after a restart", draft::withStaged));
        }
        view.getChildren()
                .setAll(
                        Parts.heading(
                                "On the bench", "press to take it out or sit it crooked, drag it to another port"),
                        bench);
        if (!choices.getChildren().isEmpty()) {
            view.getChildren().add(choices);
        }
        view.getChildren()
                .addAll(
                        bar,
                        steps(),
                        outcome,
                        Parts.heading("What it survives", survived()),
                        new FaultSheet(model.faults()));
        show();
    }

    /** However many steps there are, what comes of them stays in sight. */
    private ScrollPane steps() {
        ScrollPane scroll = new ScrollPane(events);
        scroll.setFitToWidth(true);
        scroll.setId("trace-steps");
        scroll.setMinHeight(LEAST_STEPS);
        VBox.setVgrow(scroll, Priority.SOMETIMES);
        return scroll;
    }

    private String survived() {
        if (!model.faults().sound().runs()) {
            return "";
        }
        int all = model.faults().rows().size();
        return model.faults().survived() + " of " + all
                + " single faults, each rehearsed as the bench stands in the house";
    }

    private CheckBox choice(String id, String words, java.util.function.Consumer<Boolean> set) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.selectedProperty().addListener((property, before, now) -> {
            set.accept(now);
            show();
        });
        return box;
    }

    private void show() {
        Node focused = bench.getScene() == null ? null : bench.getScene().getFocusOwner();
        String focus = focused == null ? null : focused.getId();
        showBench();
        if (focus != null && bench.lookup("#" + focus) != null) {
            bench.lookup("#" + focus).requestFocus();
        }
        showTrace(draft.trace());
    }

    /** Slots on the left with the supply, sockets on the right, as the profile lists them. */
    private void showBench() {
        List<Node> left = new ArrayList<>(List.of(row(supply(), true)));
        List<BoardPlan.Contact> leftContacts = new ArrayList<>(List.of(BoardPlan.Contact.IN));
        List<Node> right = new ArrayList<>();
        List<BoardPlan.Contact> rightContacts = new ArrayList<>();
        for (BoardProfile.Port port : board().at().profile().ports()) {
            if (port.source().holdsMedium()) {
                boolean slot = !port.buses().contains("usb");
                (slot ? left : right).add(row(plug(port), slot));
                (slot ? leftContacts : rightContacts).add(contact(port));
            }
        }
        left.add(row(cable(), true));
        leftContacts.add(draft.cableOut() ? BoardPlan.Contact.OUT : BoardPlan.Contact.IN);
        BoardPlan plan = new BoardPlan(
                board().at().profile().title(), board().at().board().memory(), leftContacts, rightContacts);
        VBox leftPlugs = new VBox(left.toArray(Node[]::new));
        VBox rightPlugs = new VBox(right.toArray(Node[]::new));
        bench.getChildren().setAll(leftPlugs, Parts.grow(plan), rightPlugs);
    }

    private BoardPlan.Contact contact(BoardProfile.Port port) {
        if (medium(port).isEmpty()) {
            return BoardPlan.Contact.EMPTY;
        }
        return switch (draft.contact(port.id())) {
            case IN -> BoardPlan.Contact.IN;
            case LOOSE -> BoardPlan.Contact.LOOSE;
            case OUT -> BoardPlan.Contact.OUT;
        };
    }

    private Optional<Bench.Attached> medium(BoardProfile.Port port) {
        return draft.placed().attached().stream()
                .filter(each -> each.port().equals(port.id()))
                .findFirst();
    }

    private Button supply() {
        String words = draft.weakSupply()
                ? "phone charger, " + BenchDraft.PHONE_CHARGER.title()
                : board().at().board().supply().title();
        return button("supply", words, "Supply", () -> draft.weakSupply(!draft.weakSupply()));
    }

    private Button cable() {
        return button(
                "cable",
                draft.cableOut() ? "cable out" : "cable in, with a router",
                "Network",
                () -> draft.cableOut(!draft.cableOut()));
    }

    private Region plug(BoardProfile.Port port) {
        Optional<Bench.Attached> medium = medium(port);
        if (medium.isEmpty()) {
            Label empty = Parts.label(port.title() + ", empty", "aside", "small");
            takes(empty, port);
            return empty;
        }
        Button plug = button(
                "plug-" + port.id(),
                medium.get().name() + ", " + draft.contact(port.id()).text(),
                port.title() + (medium.get().silentCarrier() ? ", silent carrier" : ""),
                () -> draft.next(port.id()));
        plug.setAccessibleText(plug.getAccessibleText() + " Alt and arrows move it to another port"
                + (port.key().isPresent() ? ", C changes its carrier." : "."));
        plug.setOnKeyPressed(event -> {
            if (event.isAltDown() && event.getCode() == KeyCode.DOWN) {
                move(port, 1);
            } else if (event.isAltDown() && event.getCode() == KeyCode.UP) {
                move(port, -1);
            } else if (event.getCode() == KeyCode.C && port.key().isPresent()) {
                draft.otherCarrier(port.id());
                show();
            } else {
                return;
            }
            event.consume();
        });
        plug.setOnDragDetected(event -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(port.id());
            plug.startDragAndDrop(TransferMode.MOVE).setContent(content);
            event.consume();
        });
        takes(plug, port);
        return plug;
    }

    /** A port that a medium can be dropped on. */
    private void takes(Region node, BoardProfile.Port port) {
        node.setOnDragOver(event -> {
            if (event.getDragboard().hasString()) {
                event.acceptTransferModes(TransferMode.MOVE);
            }
            event.consume();
        });
        node.setOnDragDropped(event -> {
            moveTo(event.getDragboard().getString(), port.id());
            event.setDropCompleted(true);
            event.consume();
        });
    }

    private void move(BoardProfile.Port from, int by) {
        List<String> ports = board().at().profile().ports().stream()
                .filter(port -> port.source().holdsMedium())
                .map(BoardProfile.Port::id)
                .toList();
        moveTo(from.id(), ports.get(Math.floorMod(ports.indexOf(from.id()) + by, ports.size())));
    }

    private void moveTo(String from, String to) {
        if (!from.equals(to) && board().at().profile().port(from).isPresent()) {
            draft.move(from, to);
            show();
            Node there = bench.lookup("#plug-" + to);
            if (there != null) {
                there.requestFocus();
            }
        }
    }

    private Button button(String id, String words, String where, Runnable change) {
        Button plug = new Button();
        plug.setId(id);
        plug.setGraphic(new VBox(Parts.label(words, "strong", "small"), Parts.label(where, "soft", "small")));
        plug.getStyleClass().setAll("plug");
        plug.setAccessibleText(where + ": " + words + ". Press to change it.");
        plug.setOnAction(event -> {
            change.run();
            show();
        });
        return plug;
    }

    private static HBox row(Region node, boolean left) {
        HBox row = new HBox(node);
        row.setAlignment(left ? Pos.CENTER_RIGHT : Pos.CENTER_LEFT);
        row.setPadding(new Insets(0, left ? 2 : 0, 0, left ? 0 : 2));
        row.getStyleClass().add("bench-row");
        return row;
    }

    private void showTrace(Trace trace) {
        Trace before = draft.asItStands();
        if (draft.asItIs()) {
            bar.getChildren().setAll(new TraceBar("Start", trace, trace.seconds()));
        } else {
            // Both to one scale, one over the other.
            double longest = Math.max(before.seconds(), trace.seconds());
            TwoTraces both = TwoTraces.of(before, trace);
            Label parts = Parts.paragraph(both.text("as it stands it", "here it"), "strong");
            parts.setId("parting");
            bar.getChildren()
                    .setAll(
                            Parts.label("as it stands", "soft", "small"),
                            new TraceBar("As it stands", before, longest),
                            Parts.label("as on the bench here", "soft", "small"),
                            new TraceBar("As on the bench", trace, longest),
                            parts);
        }
        events.getChildren().clear();
        for (Trace.Event event : trace.steps()) {
            events.getChildren().add(line(event));
        }
        String end = trace.runs()
                ? "Running after " + trace.seconds() + " s, "
                        + (trace.reachable() ? "reachable over the network." : "with a monitor only.")
                : "Never: " + trace.cause().shortText() + ".";
        outcome.setText(end);
        outcome.getStyleClass().setAll("label", "strong");
        if (!trace.runs()) {
            outcome.getStyleClass().add("alarm");
        }
        advise(trace.findings());
    }

    private static HBox line(Trace.Event event) {
        Pennant state =
                switch (event.result()) {
                    case WORKS -> Pennant.PROVEN;
                    case PASSES_ON -> Pennant.SET;
                    case FAILS -> Pennant.FAILING;
                };
        HBox at = Parts.cell(Parts.label(String.format(Locale.ROOT, "%5.1f s", event.at()), "figure", "soft"), 58);
        HBox stage = Parts.cell(Parts.label(event.stage().code().replace('-', ' '), "aside", "small"), 70);
        HBox line = new HBox(
                8,
                at,
                new PennantGlyph(state),
                stage,
                Parts.grow(Parts.paragraph(event.text(), event.result() == Trace.Result.FAILS ? "alarm" : "label")));
        line.setAccessibleText(event.text());
        return line;
    }
}

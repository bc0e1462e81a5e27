// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.board.BoardProfile;
import exordium.core.daysheet.Pennant;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.storage.Supply;
import exordium.desktop.Parts;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.TraceBar;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The start, attempt by attempt, from the real bytes; media, supply and what is staged can be changed to see what then. */
final class RehearsalStation extends Station {
    private static final Supply WEAK = new Supply(5, 1, "adapter");

    private final Set<String> pulled = new HashSet<>();
    private final CheckBox weak = new CheckBox("on a phone charger, 5 V x 1.0 A");
    private final CheckBox staged = new CheckBox("with what is staged, as after a restart");
    private final VBox bar = new VBox(4);
    private final VBox events = new VBox(7);

    RehearsalStation(HouseModel house, BoardDetail board) {
        super(house, board);
        weak.setId("weak-supply");
        staged.setId("with-staged");
    }

    @Override
    String adviceTitle() {
        return "What comes of it";
    }

    @Override
    Node surface() {
        VBox bench = new VBox(8, Parts.heading("On the bench", "take something out, put it back"));
        for (BoardProfile.Port port : board.at().profile().ports()) {
            board.bench().attached().stream()
                    .filter(medium -> medium.port().equals(port.id()))
                    .forEach(medium -> bench.getChildren().add(plug(port, medium)));
        }
        if (board.bench().attached().isEmpty()) {
            bench.getChildren().add(Parts.label("Nothing is plugged in.", "soft"));
        }
        weak.selectedProperty().addListener((property, before, now) -> show());
        staged.selectedProperty().addListener((property, before, now) -> show());
        bench.getChildren().add(weak);
        if (board.at().board().chip().anythingStaged()) {
            bench.getChildren().add(staged);
        }
        VBox surface = new VBox(
                12,
                bench,
                Parts.heading("From power to running", "worked out, nothing is touched"),
                bar,
                events,
                Parts.spring(),
                BoardDeeds.row(house, board));
        show();
        return surface;
    }

    private CheckBox plug(BoardProfile.Port port, Bench.Attached medium) {
        CheckBox box = new CheckBox(medium.name() + " in: " + port.title());
        box.setSelected(true);
        box.setId("plug-" + port.id());
        box.selectedProperty().addListener((property, before, now) -> {
            if (now) {
                pulled.remove(port.id());
            } else {
                pulled.add(port.id());
            }
            show();
        });
        return box;
    }

    private void show() {
        Bench bench = board.bench().without(pulled);
        if (weak.isSelected()) {
            bench = bench.withSupply(WEAK);
        }
        if (staged.isSelected()) {
            var chip = board.at().board().chip().restart();
            bench = bench.withConfig(chip.config())
                    .withOrder(chip.config()
                            .value(board.at().profile().order().key())
                            .orElse(board.at().order()));
        }
        Trace trace = Rehearsal.of(bench);
        bar.getChildren().setAll(new TraceBar("Start", trace, trace.seconds()));
        events.getChildren().clear();
        for (Trace.Event event : trace.steps()) {
            Pennant state =
                    switch (event.result()) {
                        case WORKS -> Pennant.PROVEN;
                        case PASSES_ON -> Pennant.SET;
                        case FAILS -> Pennant.FAILING;
                    };
            var at = Parts.label(String.format(Locale.ROOT, "%5.1f s", event.at()), "figure", "soft");
            at.setMinWidth(58);
            var stage = Parts.label(event.stage().code().replace('-', ' '), "aside", "small");
            stage.setMinWidth(70);
            HBox line = new HBox(
                    8,
                    at,
                    new PennantGlyph(state),
                    stage,
                    Parts.grow(
                            Parts.paragraph(event.text(), event.result() == Trace.Result.FAILS ? "alarm" : "label")));
            line.setAccessibleText(event.text());
            events.getChildren().add(line);
        }
        String end = trace.runs()
                ? "Running after " + trace.seconds() + " s, "
                        + (trace.reachable() ? "reachable over the network." : "with a monitor only.")
                : "Never: " + trace.cause().shortText() + ".";
        var outcome = Parts.label(end, trace.runs() ? "strong" : "alarm", "strong");
        outcome.setId("outcome");
        events.getChildren().add(outcome);
        advise(trace.findings());
    }
}

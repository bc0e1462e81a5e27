// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firmware;

import exordium.core.finding.TypedName;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.WriteReport;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Request;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Targets;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.function.BiConsumer;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** The drive that becomes a card: which, what is lost with it, its name typed, the deed. */
final class CardTarget extends VBox {
    private final ComboBox<Targets.Target> target = new ComboBox<>();
    private final TextField name = new TextField();
    private final Label lost = Parts.paragraph("", "alarm", "small");
    private final Button make;
    private final String kind;
    private boolean ready;

    /**
     * A row of them.
     *
     * @param prefix of the controls' ids
     * @param kind of card, with its article
     * @param deed is given the drive and the name that was typed
     */
    CardTarget(String prefix, List<Targets.Target> targets, String kind, BiConsumer<Targets.Target, String> deed) {
        super(9);
        this.kind = kind;
        target.setId(prefix + "-target");
        target.setAccessibleText("Drive that becomes the card");
        target.setPromptText("choose a drive");
        target.getItems().setAll(targets);
        WordCell.in(target, each -> each.description().id());
        target.setOnAction(event -> show());
        name.setId(prefix + "-confirm");
        name.setAccessibleText("The drive's own name, to prove it is meant");
        name.textProperty().addListener((property, before, now) -> enable());
        make = Parts.button("", () -> deed.accept(target.getValue(), name.getText()), "deed");
        make.setId("make-" + prefix);
        getChildren()
                .addAll(
                        Parts.row(10, Parts.label("Onto", "soft", "small"), target),
                        lost,
                        Parts.row(10, Parts.label("Its own name", "soft", "small"), name, make));
        enable();
    }

    /** Whether there is something to put on it. */
    void ready(boolean now) {
        ready = now;
        enable();
    }

    private void show() {
        Targets.Target chosen = target.getValue();
        lost.setText(chosen == null ? "" : chosen.description().asked());
        enable();
    }

    private void enable() {
        Targets.Target chosen = target.getValue();
        make.setText(
                chosen == null
                        ? "Make the card"
                        : "Make " + chosen.description().id() + " " + kind);
        make.setDisable(!ready
                || chosen == null
                || TypedName.check(name.getText(), chosen.description().id()).isPresent());
    }

    /** Makes a drive a card, and says what came of it. */
    interface CardMaker {
        WriteReport make(Path path, TransferMeter meter) throws IOException;
    }

    static Request<WriteReport> making(House house, String kind, String board, Targets.Target target, CardMaker maker) {
        String name = target.description().id();
        return Request.of("Making " + kind + " of " + name, meter -> {
                    WriteReport report = maker.make(target.description().path(), meter);
                    house.reading().say(report.sentence());
                    return report;
                })
                .at(board)
                .holding(Set.of(name));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.desktop.part.Parts;
import exordium.desktop.part.SaidText;
import exordium.jobs.media.MediaRegister;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;

/** What one medium has to do with another: whether what is on it goes on there, and whether they are one. */
final class CopyOnRow {
    private CopyOnRow() {}

    /** Another medium is named, and whether this one's contents go on it is said. */
    static List<Node> of(MediaModel model, MediaRegister.Entry entry) {
        ComboBox<MediaRegister.Entry> others = new ComboBox<>();
        others.setId("copy-on");
        others.setAccessibleText("Medium to copy it on to");
        others.setPromptText("on to …");
        others.setConverter(new SaidText<>(
                other -> other.details().label() + "  " + other.medium().name()));
        model.entries().stream()
                .filter(other -> !other.medium().id().equals(entry.medium().id()))
                .forEach(others.getItems()::add);
        Label words = Parts.paragraph("", "small");
        words.setId("copy-on-words");
        others.valueProperty()
                .addListener((property, before, now) -> model.copyOn(entry, now, finding -> {
                    words.setText(finding.text());
                    words.getStyleClass().setAll("label", "small");
                    if (finding.stops()) {
                        words.getStyleClass().add("alarm");
                    }
                }));
        Button merge = Parts.button("They are one: merge", () -> {}, "quiet", "small");
        merge.setOnAction(event -> {
            MediaRegister.Entry other = others.getValue();
            String sure = "Yes, " + entry.details().label() + " goes into "
                    + other.details().label();
            if (merge.getText().equals(sure)) {
                model.merge(entry, other);
            } else {
                merge.setText(sure);
            }
        });
        merge.setId("merge");
        merge.disableProperty().bind(others.valueProperty().isNull());
        return List.of(Parts.row(8, others, merge), words);
    }
}

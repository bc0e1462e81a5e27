// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.writing.WriteMode;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Targets;
import exordium.jobs.copies.care.AfterWrite;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;

/** How a write is done: what of the image, to which further targets, and whether the last partition grows. */
public final class WriteWays extends FlowPane {
    private final WriteDraft draft;
    private final Runnable changed;
    private final ComboBox<WriteMode> mode = new ComboBox<>();
    private final ComboBox<Targets.Target> further = new ComboBox<>();
    private final CheckBox grow = new CheckBox("grow its last partition");
    private final CheckBox own = new CheckBox("an identity of its own");
    private final TextField hostName = new TextField();
    private boolean offering;
    private boolean byHand;

    WriteWays(WriteDraft draft, List<Targets.Target> targets, Runnable changed) {
        super(10, 6);
        this.draft = draft;
        this.changed = changed;
        mode.setId("write-mode");
        mode.setAccessibleText("What of the image is written");
        WordCell.in(mode, WriteWays::words);
        mode.getItems().setAll(WriteMode.values());
        mode.setValue(draft.mode());
        mode.valueProperty().addListener((property, before, now) -> {
            byHand |= !offering;
            draft.mode(now);
            changed.run();
        });
        further.setId("also");
        further.setPromptText("and also to …");
        further.setAccessibleText("A further target, written from the same reading");
        WordCell.in(further, draft::targetName);
        offer(targets);
        further.setPrefWidth(190);
        further.setOnAction(event -> {
            if (further.getValue() != null) {
                draft.addAlso(further.getValue());
                show();
                changed.run();
            }
        });
        grow.setId("grow");
        own.setId("own-identity");
        own.setTooltip(
                new Tooltip(
                        "Another disk identifier, with kernel line and fstab after it; no host keys and machine identity of the original."));
        hostName.setId("host-name");
        hostName.setPromptText("its host name");
        hostName.setPrefColumnCount(10);
        hostName.visibleProperty().bind(own.selectedProperty());
        hostName.managedProperty().bind(own.selectedProperty());
        show();
    }

    /** The mode that is best for what was looked into; what somebody chose stays. */
    void offer(WriteMode best) {
        if (!byHand) {
            offering = true;
            mode.setValue(best);
            offering = false;
        }
    }

    /** What can be written to beside the first. */
    void offer(List<Targets.Target> targets) {
        further.getItems()
                .setAll(targets.stream()
                        .filter(each -> each.description().refusals().isEmpty())
                        .toList());
    }

    private static String words(WriteMode mode) {
        return switch (mode) {
            case WHOLE -> "all of it";
            case USED -> "what is in use";
            case CHANGED -> "what differs";
        };
    }

    /** What becomes of what was written from a board's medium. */
    AfterWrite.Wanted after() {
        String name = hostName.getText().strip();
        return new AfterWrite.Wanted(
                own.isSelected(), own.isSelected() && !name.isEmpty() ? Optional.of(name) : Optional.empty());
    }

    boolean grows() {
        return grow.isSelected();
    }

    /** The further targets as chips; pressing one takes it off again. */
    void show() {
        getChildren().setAll(Parts.cell(Parts.label("As", "soft"), 52), mode, further);
        for (Targets.Target each : draft.also()) {
            Button chip = Parts.button(
                    draft.shortName(each) + "  ×",
                    () -> {
                        draft.removeAlso(each);
                        show();
                        changed.run();
                    },
                    "spare",
                    "small");
            chip.setId("also-" + each.description().id());
            chip.setAccessibleText("Do not write to " + draft.shortName(each));
            getChildren().add(chip);
        }
        getChildren().add(grow);
        if (draft.image().filter(ImageSource::ofMedium).isPresent()) {
            getChildren().addAll(own, hostName);
        }
    }
}

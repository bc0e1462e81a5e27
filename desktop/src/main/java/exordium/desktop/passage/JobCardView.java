// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.passage.BeforeClosing;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.paper.PassageCard;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Progress;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The job card: how far it is, its steps in their order, the one that is next with all that belongs to it. */
final class JobCardView extends HBox {
    private final House house;
    private final String board;
    private final VBox steps = new VBox(6);
    private final ScrollPane scroll = new ScrollPane(steps);
    private final VBox left = new VBox(8);
    private PassageJob.Shown shown;
    private StepForm form;

    JobCardView(House house, String board) {
        super(16);
        this.house = house;
        this.board = board;
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        scroll.setId("card-steps");
        Parts.followKeys(scroll);
    }

    void show(PassageJob.Shown passage) {
        if (passage.equals(shown)) {
            return;
        }
        boolean inside = getScene() != null && isIn(getScene().getFocusOwner());
        shown = passage;
        closeForm();
        steps.getChildren().clear();
        int number = 0;
        for (PassageJob.Standing each : passage.steps()) {
            number++;
            if (each.progress() == Progress.NEXT) {
                form = new StepForm(house, board, number, each);
                steps.getChildren().add(form);
            } else {
                steps.getChildren().add(StepRow.of(number, each));
            }
        }
        left.getChildren()
                .setAll(Parts.heading(Words.capital(passage.wish().title()), aside(passage)), Lanes.of(passage));
        if (!passage.changed().isEmpty()) {
            HBox changed = Parts.row(8, new PennantGlyph(Pennant.DUE), Parts.grow(Parts.paragraph(passage.changed())));
            changed.setId("passage-changed");
            left.getChildren().add(changed);
        }
        left.getChildren().add(Parts.grow(scroll));
        getChildren().setAll(Parts.grow(left), side(passage));
        if (form != null) {
            if (inside) {
                form.focus();
            }
            javafx.application.Platform.runLater(this::toNext);
        }
    }

    /** The step that is next is seen, however long the card is. */
    private void toNext() {
        if (form == null || form.getScene() == null) {
            return;
        }
        steps.applyCss();
        layout();
        double hidden = steps.getHeight() - scroll.getViewportBounds().getHeight();
        if (hidden > 0) {
            double top = form.getBoundsInParent().getMinY() - 60;
            scroll.setVvalue(Math.min(1, Math.max(0, top / hidden)));
        }
    }

    private static String aside(PassageJob.Shown passage) {
        return passage.underWay()
                ? passage.done() + " of " + passage.counted() + " steps done, about " + passage.wholeMinutesLeft()
                        + " min left"
                : passage.stateSaid();
    }

    private boolean isIn(Node node) {
        for (Node each = node; each != null; each = each.getParent()) {
            if (each == this) {
                return true;
            }
        }
        return false;
    }

    private VBox side(PassageJob.Shown passage) {
        VBox side = new VBox(10);
        side.getStyleClass().add("advice");
        side.getChildren().add(Parts.label(BeforeClosing.TITLE, "heading"));
        BeforeClosing.CHECKS.forEach(
                check -> side.getChildren().add(Parts.row(8, box(), Parts.grow(Parts.paragraph(check, "small")))));
        side.getChildren().add(Parts.paragraph(BeforeClosing.CARE, "aside", "small"));
        Button paper = Parts.button(
                "Job card on paper",
                () -> house.facts().perform(() -> PassageCard.keep(house.workbench(), passage)),
                "task");
        paper.setId("passage-paper");
        Parts.hint(paper, "A PDF with boxes and lines for what is seen, in the workspace's folder of reports");
        side.getChildren().addAll(Parts.spring(), paper);
        if (passage.underWay()) {
            Button anew = Parts.button(
                    "Plan it anew",
                    () -> house.facts().perform(() -> house.passages().anew(board)),
                    "task");
            anew.setId("passage-anew");
            Parts.hint(anew, "From here on by the way that is best now, as where something else came into the drawer");
            side.getChildren().addAll(anew, stop());
        }
        return side;
    }

    /** An empty box as on paper: nobody ticks here what is looked at there. */
    private static Node box() {
        javafx.scene.layout.Region box = Parts.fixed(new javafx.scene.layout.Region(), 11);
        box.setMinHeight(11);
        box.setMaxHeight(11);
        box.getStyleClass().add("paper-box");
        return box;
    }

    private Button stop() {
        Button stop = Parts.button("Leave it here", () -> {}, "quiet", "alarm");
        stop.setId("passage-stop");
        stop.setAccessibleText("End this passage; what was done stays done");
        String sure = "Yes, end it; what was done stays";
        stop.setOnAction(event -> {
            if (stop.getText().equals(sure)) {
                house.facts().perform(() -> house.passages().stop(board));
            } else {
                stop.setText(sure);
            }
        });
        return stop;
    }

    private void closeForm() {
        if (form != null) {
            form.close();
            form = null;
        }
    }

    void close() {
        closeForm();
    }
}

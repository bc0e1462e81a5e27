// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import exordium.core.writing.TransferMeter;
import exordium.desktop.draw.JobBar;
import exordium.desktop.model.HouseModel;
import exordium.desktop.model.RunningJob;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.util.Duration;

/** The strip at the bottom: what runs now with rate and time left, else the last line of the logbook or what went wrong. */
final class JobStrip extends HBox {
    private final HouseModel house;
    private final Label title = Parts.label("Nothing running.", "soft");
    private final JobBar bar = new JobBar();
    private final Label figures = Parts.label("", "figure");
    private final Label last = Parts.label("");
    private final Button stop;
    private final Timeline clock = new Timeline(new KeyFrame(Duration.millis(150), event -> tick()));

    JobStrip(HouseModel house) {
        this.house = house;
        getStyleClass().add("strip");
        title.setId("strip-title");
        figures.setId("strip-figures");
        last.setId("strip-last");
        title.setMinWidth(USE_PREF_SIZE);
        stop = Parts.button("Stop", house::stopRunning, "quiet", "alarm");
        stop.setId("strip-stop");
        clock.setCycleCount(Animation.INDEFINITE);
        house.runningProperty().addListener((property, before, now) -> show(now));
        house.lastEntryProperty()
                .addListener(
                        (property, before, now) -> show(house.runningProperty().get()));
        house.problemProperty()
                .addListener(
                        (property, before, now) -> show(house.runningProperty().get()));
        show(null);
    }

    private void show(RunningJob job) {
        getChildren().clear();
        if (job == null) {
            clock.stop();
            String problem = house.problemProperty().get();
            title.setText("Nothing running.");
            title.getStyleClass().setAll("label", "soft");
            last.setText(problem.isEmpty() ? lastWords(house.lastEntryProperty().get()) : problem);
            last.getStyleClass().setAll("label");
            if (!problem.isEmpty()) {
                last.getStyleClass().add("alarm");
            }
            Parts.hint(last, last.getText());
            getChildren().addAll(title, last);
            return;
        }
        title.setText(job.title());
        title.getStyleClass().setAll("label");
        getChildren().addAll(title, bar, figures, Parts.spring(), stop);
        clock.play();
        tick();
    }

    private static String lastWords(String entry) {
        return entry.isEmpty() ? "" : "Last: " + entry;
    }

    private void tick() {
        RunningJob job = house.runningProperty().get();
        if (job == null) {
            return;
        }
        TransferMeter.Moment moment = job.meter().moment();
        bar.show(Optional.of(moment), true);
        figures.setText(moment.said());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.writing.TransferMeter;
import exordium.desktop.desk.House;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.chart.JobBar;
import exordium.desktop.part.Parts;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.collections.ListChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** What runs, a line for each, with how far it is and a way to stop it; below that what could not be done, or what came last. */
public final class JobStrip extends VBox {
    private final House house;
    private final VBox jobs = new VBox(4);
    private final Label title = Parts.label("Nothing running.", "soft");
    private final Label last = Parts.label("");
    private final HBox words = Parts.row(12, title, last);
    private final List<Line> lines = new ArrayList<>();
    private final Timeline clock = new Timeline(new KeyFrame(Duration.millis(150), event -> lines.forEach(Line::tick)));

    JobStrip(House house) {
        super(4);
        this.house = house;
        getStyleClass().add("strip");
        title.setId("strip-idle");
        last.setId("strip-last");
        title.setMinWidth(USE_PREF_SIZE);
        clock.setCycleCount(Animation.INDEFINITE);
        getChildren().addAll(jobs, words);
        house.jobs().running().addListener((ListChangeListener<RunningJob>) change -> show());
        house.facts().lastEntryProperty().subscribe(this::say);
        house.reading().problemProperty().subscribe(this::say);
        show();
    }

    private void show() {
        List<RunningJob> running = house.jobs().running();
        lines.removeIf(line -> !running.contains(line.job));
        for (RunningJob job : running) {
            if (lines.stream().noneMatch(line -> line.job.equals(job))) {
                lines.add(new Line(job));
            }
        }
        jobs.getChildren().setAll(lines);
        jobs.setManaged(!lines.isEmpty());
        if (lines.isEmpty()) {
            clock.stop();
        } else {
            clock.play();
        }
        say();
    }

    /** A problem is said whatever runs; the last words of the logbook only where there is room for them. */
    private void say() {
        String problem = house.reading().problemProperty().get();
        boolean idle = lines.isEmpty();
        title.setVisible(idle);
        title.setManaged(idle);
        last.setText(
                problem.isEmpty() ? lastWords(house.facts().lastEntryProperty().get()) : problem);
        last.getStyleClass().setAll("label");
        if (!problem.isEmpty()) {
            last.getStyleClass().add("alarm");
        }
        Parts.hint(last, last.getText());
        boolean anything = idle || !problem.isEmpty();
        words.setVisible(anything);
        words.setManaged(anything);
    }

    private static String lastWords(String entry) {
        return entry.isEmpty() ? "" : "Last: " + entry;
    }

    /** One job. */
    private final class Line extends HBox {
        private final RunningJob job;
        private final JobBar bar = new JobBar();
        private final Label figures = Parts.label("", "figure");

        Line(RunningJob job) {
            super(12);
            this.job = job;
            getStyleClass().add("strip-job");
            figures.setId("strip-figures");
            Label name = Parts.whole(Parts.label(job.title()));
            name.setId("strip-title");
            Button stop = Parts.button("Stop", () -> house.jobs().stop(job), "quiet", "alarm");
            stop.setId("strip-stop");
            stop.setAccessibleText("Stop " + job.title());
            getChildren().addAll(name, bar, figures, Parts.spring(), stop);
            tick();
        }

        void tick() {
            TransferMeter.Moment moment = job.meter().moment();
            bar.show(Optional.of(moment), true);
            figures.setText(moment.said());
        }
    }
}

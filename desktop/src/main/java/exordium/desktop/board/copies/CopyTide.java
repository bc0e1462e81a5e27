// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.block.TransferWatch.Phase;
import exordium.core.copies.care.CopyAdvice;
import exordium.core.writing.TransferMeter;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.chart.Soundings;
import exordium.desktop.part.Parts;
import java.util.List;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** A copy while it is made: how far it is, and how fast the medium is read at each place. */
final class CopyTide extends VBox {
    private static final int TICK_MILLIS = 200;

    private final RunningJob job;
    private final Soundings soundings;
    private final Timeline clock = new Timeline(new KeyFrame(Duration.millis(TICK_MILLIS), event -> tick()));

    CopyTide(RunningJob job, CopyAdvice.Source source) {
        super(8);
        this.job = job;
        double best = source.rate().bytesPerSecond() > 0 ? 1e8 / source.rate().bytesPerSecond() : 0;
        soundings = Soundings.ofCopy(source.extent(), best);
        soundings.setId("copy-soundings");
        getChildren()
                .addAll(
                        Parts.heading(
                                "Soundings",
                                "place on the medium across, seconds for each 100 MB down; only what is in use is read"),
                        soundings,
                        Parts.paragraph(
                                "It counts when everything new in it was read back from the vault; not before.",
                                "soft"));
        clock.setCycleCount(Animation.INDEFINITE);
        clock.play();
    }

    boolean isOf(RunningJob other) {
        return job.equals(other);
    }

    private void tick() {
        List<TransferMeter.Sounding> read = job.meter().soundings(Phase.COPYING);
        soundings.show(read, List.of(), List.of());
    }

    void stop() {
        clock.stop();
    }
}

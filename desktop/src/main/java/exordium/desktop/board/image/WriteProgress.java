// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.block.TransferWatch.Phase;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.Verification;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.desktop.draw.chart.Soundings;
import exordium.desktop.part.Parts;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.scene.Node;
import javafx.scene.layout.VBox;

/** Before a write what will happen, while it runs its soundings, afterwards what came of it. */
final class WriteProgress extends VBox {
    private final Timeline clock = new Timeline(new KeyFrame(javafx.util.Duration.millis(200), event -> tick()));
    private final BiConsumer<ByteSize, ByteSize> tide;
    private final Consumer<WriteReport> keep;
    private List<WriteReport> reports = List.of();
    private Optional<Shown> shown = Optional.empty();
    private Soundings soundings;
    private TransferMeter meter;

    /** What of a plan is on the screen. */
    private record Shown(Optional<Duration> estimate, List<WritePlan.Stage> stages) {}

    /** Where tide: told how much was written and how much read back so far; keep: puts a report down as a sheet. */
    WriteProgress(BiConsumer<ByteSize, ByteSize> tide, Consumer<WriteReport> keep) {
        super(6);
        this.tide = tide;
        this.keep = keep;
        clock.setCycleCount(Animation.INDEFINITE);
    }

    /** Something else was chosen: what was shown is of another write. */
    void forget() {
        meter = null;
        soundings = null;
        reports = List.of();
        shown = Optional.empty();
    }

    /** Whether nothing of what is chosen was written yet. */
    boolean untouched() {
        return meter == null;
    }

    List<WriteReport> reports() {
        return reports;
    }

    /** What the run will do, in its order, before it does anything. */
    void plan(Optional<WritePlan> plan) {
        Optional<Shown> now = plan.map(planned -> new Shown(planned.estimate(), planned.stages()));
        if (now.isPresent() && now.equals(shown)) {
            return;
        }
        shown = now;
        getChildren().clear();
        now.ifPresent(planned -> {
            getChildren()
                    .add(Parts.heading(
                            "What will happen",
                            planned.estimate()
                                    .map(time -> "about " + Span.said(time) + " in all")
                                    .orElse("how long, nobody knows yet: this medium was never timed")));
            int number = 0;
            for (WritePlan.Stage each : planned.stages()) {
                number++;
                getChildren()
                        .add(Parts.row(
                                10,
                                Parts.cell(Parts.label(String.valueOf(number), "figure", "soft"), 14),
                                Parts.cell(
                                        Parts.label(each.time().map(Span::said).orElse(""), "figure"), 86),
                                Parts.grow(Parts.paragraph(each.text()))));
            }
        });
    }

    /** A write began. */
    void watch(TransferMeter begun, Optional<WritePlan> plan) {
        reports = List.of();
        shown = Optional.empty();
        meter = begun;
        ByteSize size =
                plan.map(WritePlan::imageSize).or(() -> meter.moment().total()).orElse(ByteSize.of(1));
        double best = plan.flatMap(each -> each.target().writeRate())
                .map(rate -> 1e8 / rate.bytesPerSecond())
                .orElse(0.0);
        soundings = new Soundings(size, best);
        soundings.setId("soundings");
        getChildren()
                .setAll(
                        Parts.heading(
                                "Soundings",
                                "place on the medium across, seconds for each 100 MB down; deeper is slower"),
                        soundings);
        clock.play();
    }

    /** It is over; what is known by now stays on the screen. */
    void stop() {
        tick();
        clock.stop();
    }

    private void tick() {
        if (meter == null || soundings == null) {
            return;
        }
        List<Difference> differences = reports.stream()
                .findFirst()
                .flatMap(WriteReport::verification)
                .map(Verification::differences)
                .orElse(List.of());
        List<TransferMeter.Sounding> writing = meter.soundings(Phase.WRITING);
        List<TransferMeter.Sounding> reading = meter.soundings(Phase.READING_BACK);
        soundings.show(writing, reading, differences);
        tide.accept(sum(writing), sum(reading));
    }

    private static ByteSize sum(List<TransferMeter.Sounding> soundings) {
        return ByteSize.of(
                soundings.stream().mapToLong(TransferMeter.Sounding::bytes).sum());
    }

    /** What comes after a write that was proven, above its report. */
    void next(Node step) {
        getChildren().removeIf(node -> "next-step".equals(node.getId()));
        getChildren().add(0, step);
    }

    void reported(List<WriteReport> ended) {
        reports = ended;
        tick();
        getChildren().removeIf(node -> "report".equals(node.getId()));
        for (int i = reports.size() - 1; i >= 0; i--) {
            WriteReport report = reports.get(i);
            getChildren().add(0, new ReportBox(report, reports.size() > 1, () -> keep.accept(report)));
        }
    }
}

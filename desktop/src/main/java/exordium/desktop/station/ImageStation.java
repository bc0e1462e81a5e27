// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.daysheet.Pennant;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.finding.Finding;
import exordium.core.image.ImageFile;
import exordium.core.inspection.DriveInspection;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.Verification;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.desktop.Parts;
import exordium.desktop.WordCell;
import exordium.desktop.draw.LayoutStrip;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.Soundings;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import exordium.desktop.model.ImageSource;
import exordium.desktop.model.RunningJob;
import exordium.desktop.model.WriteDraft;
import exordium.jobs.Inspections;
import exordium.jobs.ReportSheet;
import exordium.jobs.Targets;
import exordium.jobs.WriteJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.beans.value.ChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Image and target as two strips to one scale, what will be lost, the name typed; then the tide, soundings and report. */
final class ImageStation extends Station {
    private static final double STRIP_ROOM = 80;

    private final WriteDraft draft;
    private final ComboBox<ImageSource> image = new ComboBox<>();
    private final ComboBox<Targets.Target> target = new ComboBox<>();
    private final TextField confirm = new TextField();
    private final Button deed;
    private final Label ask = Parts.paragraph("", "soft", "small");
    private final VBox imageStrip = new VBox(2);
    private final VBox targetStrip = new VBox(2);
    private final VBox progress = new VBox(6);
    private final Timeline clock = new Timeline(new KeyFrame(javafx.util.Duration.millis(200), event -> tick()));
    private final ChangeListener<RunningJob> runningChanged = (property, before, now) -> jobChanged(before, now);
    private final ChangeListener<List<WriteReport>> reportArrived = (property, before, now) -> showReports(now);
    private final WriteWays ways;
    private final VBox cutOff = new VBox(4);
    private List<WriteDraft.Planned> plans = List.of();
    private Soundings soundings;
    private TransferMeter meter;
    private LayoutStrip targetDrawing;

    ImageStation(HouseModel house, BoardDetail board) {
        super(house, board);
        this.draft = new WriteDraft(board);
        this.ways = new WriteWays(draft, board.targets(), this::waysChanged);
        this.deed = Parts.button("", this::write, "deed");
        deed.setId("write");
        confirm.setId("confirm");
        confirm.getStyleClass().add("confirm");
        image.setId("image");
        target.setId("target");
        clock.setCycleCount(Animation.INDEFINITE);
        fill();
    }

    private String words(Targets.Target each) {
        String refused = each.description().refusals().isEmpty() ? ", this machine's" : ", refused";
        return draft.targetName(each) + ", " + each.description().size().said() + (each.simulated() ? "" : refused);
    }

    private void fill() {
        WordCell.in(image, each -> each.title() + ", " + each.size().said());
        image.setPromptText("An image or a copy");
        image.getItems().setAll(board.sources());
        image.setPrefWidth(300);
        WordCell.in(target, this::words);
        target.setPromptText("A medium");
        target.getItems().setAll(board.targets());
        target.setPrefWidth(340);
        image.valueProperty().addListener((property, before, now) -> {
            draft.image(now);
            chosen();
        });
        target.valueProperty().addListener((property, before, now) -> {
            draft.target(now);
            confirm.clear();
            chosen();
        });
        confirm.textProperty().addListener((property, before, now) -> {
            draft.typed(now);
            judge();
        });
        confirm.setOnAction(event -> write());
    }

    @Override
    String adviceTitle() {
        return "About this write";
    }

    @Override
    Node surface() {
        house.runningProperty().addListener(runningChanged);
        house.reportsProperty().addListener(reportArrived);
        HBox source =
                Parts.row(10, Parts.cell(Parts.label("Write", "soft"), 52), image, Parts.label("to", "soft"), target);
        // Room is kept for strips that are still being read, so that nothing moves under the hand.
        imageStrip.setMinHeight(STRIP_ROOM);
        targetStrip.setMinHeight(STRIP_ROOM);
        HBox confirmRow = Parts.row(10, deed, confirm, Parts.grow(ask));
        VBox surface = new VBox(
                8,
                Parts.heading("Image and target", "two strips, one scale"),
                source,
                ways,
                imageStrip,
                targetStrip,
                cutOff,
                confirmRow,
                progress);
        board.sources().stream().findFirst().ifPresent(image::setValue);
        board.targets().stream()
                .filter(each -> board.registered(each)
                        .filter(medium -> board.medium().filter(medium::equals).isPresent())
                        .isPresent())
                .findFirst()
                .or(() -> board.targets().stream()
                        .filter(each -> board.registered(each)
                                .filter(medium -> !board.inServiceAt().containsKey(medium.file()))
                                .isPresent())
                        .findFirst())
                .ifPresent(target::setValue);
        RunningJob job = house.runningProperty().get();
        if (job != null && job.board().equals(board.id()) && job.target().isPresent()) {
            watch(job);
        }
        judge();
        return surface;
    }

    @Override
    boolean update(BoardDetail detail) {
        board = detail;
        return true;
    }

    @Override
    void leave() {
        clock.stop();
        house.runningProperty().removeListener(runningChanged);
        house.reportsProperty().removeListener(reportArrived);
    }

    /** Reads both sides' layout for the strips. */
    private void chosen() {
        meter = null;
        soundings = null;
        waysChanged();
        Optional<ImageSource> from = draft.image();
        Optional<Targets.Target> to = draft.target();
        if (from.isPresent() && to.isPresent()) {
            imageStrip
                    .getChildren()
                    .setAll(Parts.label("Looking into " + from.get().title() + " …", "aside"));
            targetStrip.getChildren().clear();
            house.look(
                    () -> new Pair(house.inImage(from.get().file()), Inspections.ofTarget(to.get())),
                    pair -> strips(from.get(), to.get(), pair));
        }
    }

    private record Pair(DriveInspection image, Optional<DriveInspection> target) {}

    private void strips(ImageSource from, Targets.Target to, Pair pair) {
        if (!draft.image().filter(from::equals).isPresent()
                || !draft.target().filter(to::equals).isPresent()) {
            return;
        }
        // One scale for both, but never so that the image cannot be seen: then the target is cut and says so.
        long targetBytes = to.description().size().bytes();
        long shown = Math.min(
                targetBytes, Math.max(from.size().bytes() * 12, from.size().bytes()));
        ByteSize scale = ByteSize.of(Math.max(shown, from.size().bytes()));
        imageStrip
                .getChildren()
                .setAll(
                        Parts.row(
                                10,
                                Parts.whole(Parts.label(from.title(), "strong")),
                                Parts.label(
                                        from.container() + ", "
                                                + from.compressed().said() + "  ·  " + from.checksumText() + "  ·  "
                                                + parts(pair.image()),
                                        "aside",
                                        "small")),
                        new LayoutStrip(from.title(), Optional.of(pair.image()), from.size(), scale));
        String name = draft.targetName(to);
        String cut = shown < targetBytes ? "  ·  the first " + scale.said() + " shown" : "";
        targetDrawing = new LayoutStrip(name, pair.target(), to.description().size(), scale);
        targetStrip
                .getChildren()
                .setAll(
                        Parts.row(
                                10,
                                Parts.whole(Parts.label(name, "strong")),
                                Parts.label(
                                        to.description().size().exact() + " = "
                                                + to.description().size().binary() + cut + "  ·  holds "
                                                + pair.target()
                                                        .map(ImageStation::parts)
                                                        .orElse("nothing known"),
                                        "aside",
                                        "small")),
                        targetDrawing);
    }

    private static String parts(DriveInspection inspection) {
        String system = inspection.system().map(each -> each.title() + ", ").orElse("");
        if (inspection.partitions().isEmpty()) {
            return "no partitions";
        }
        return system
                + String.join(
                        " and ",
                        inspection.partitions().stream()
                                .map(each -> each.fileSystem().kind() == FileSystemKind.UNKNOWN
                                        ? "something unknown"
                                        : each.fileSystem().kind().code() + " "
                                                + each.partition().size().said())
                                .toList());
    }

    /** What is in use is read off the interface thread before it can be planned. */
    private void waysChanged() {
        if (draft.wantsUsedMap()) {
            ImageSource asked = draft.image().orElseThrow();
            house.look(() -> WriteJob.usedIn(ImageFile.open(asked.file()), TransferWatch.NONE), map -> {
                if (draft.image().filter(asked::equals).isPresent()) {
                    draft.used(map);
                    judge();
                }
            });
        }
        judge();
    }

    private Optional<WritePlan> plan() {
        return plans.stream().findFirst().map(WriteDraft.Planned::plan);
    }

    private void showCutOff(boolean free) {
        cutOff.getChildren().clear();
        draft.unfinished().filter(each -> meter == null).ifPresent(each -> {
            Button goOn = Parts.button(
                    "Go on with it",
                    () -> house.goOn(each, board.id(), confirm.getText().strip()),
                    "task");
            goOn.setId("go-on");
            goOn.setDisable(!free || !draft.named());
            cutOff.getChildren()
                    .add(Parts.row(
                            10, new PennantGlyph(Pennant.DUE), Parts.grow(Parts.paragraph(each.sentence())), goOn));
        });
    }

    private void judge() {
        deed.setText(draft.deed());
        try {
            plans = draft.plans();
        } catch (IOException e) {
            plans = List.of();
            house.problemProperty().set(e.getMessage());
        }
        boolean free = !house.busy();
        deed.setDisable(!draft.ready(plans) || !free);
        showCutOff(free);
        String id = draft.names();
        confirm.setPromptText(id);
        confirm.setAccessibleText("Type the target's name, " + id + ", to confirm it");
        ask.setText(
                !free
                        ? "Something is running."
                        : draft.ready(plans)
                                ? "This is the one you named."
                                : "Type its name, " + id + ", to confirm it.");
        List<WriteReport> done =
                meter == null ? List.of() : house.reportsProperty().get();
        advise(done.isEmpty() ? draft.advice(plans) : after(done));
        if (meter == null) {
            showPlan();
        }
    }

    private List<Finding> after(List<WriteReport> done) {
        List<Finding> findings = new ArrayList<>();
        done.forEach(report -> findings.add(report.finding()));
        if (done.stream().anyMatch(report -> report.verdict().good())) {
            findings.add(house.workspace().settings().setUpAt().next());
        }
        return Finding.worstFirst(findings);
    }

    /** What the run will do, in its order, before it does anything. */
    private void showPlan() {
        progress.getChildren().clear();
        plan().ifPresent(planned -> {
            progress.getChildren()
                    .add(Parts.heading(
                            "What will happen",
                            planned.estimate()
                                    .map(time -> "about " + Span.said(time) + " in all")
                                    .orElse("how long, nobody knows yet: this medium was never timed")));
            int number = 0;
            for (WritePlan.Stage each : planned.stages()) {
                number++;
                progress.getChildren()
                        .add(Parts.row(
                                10,
                                Parts.cell(Parts.label(String.valueOf(number), "figure", "soft"), 14),
                                Parts.cell(
                                        Parts.label(each.time().map(Span::said).orElse(""), "figure"), 86),
                                Parts.grow(Parts.paragraph(each.text()))));
            }
        });
    }

    private void write() {
        if (!deed.isDisabled() && draft.ready(plans)) {
            house.write(draft.deed().replaceFirst("^Write ", "Writing "), board.id(), plans, ways.grows());
        }
    }

    private void jobChanged(RunningJob before, RunningJob now) {
        if (now != null && now.board().equals(board.id()) && now.target().isPresent()) {
            watch(now);
        } else if (now == null && before != null) {
            tick();
            clock.stop();
            confirm.clear();
        }
        judge();
    }

    private void watch(RunningJob job) {
        meter = job.meter();
        ByteSize size = plan().map(WritePlan::imageSize)
                .or(() -> meter.moment().total())
                .orElse(ByteSize.of(1));
        double best = plan().flatMap(each -> each.target().writeRate())
                .map(rate -> 1e8 / rate.bytesPerSecond())
                .orElse(0.0);
        soundings = new Soundings(size, best);
        soundings.setId("soundings");
        progress.getChildren()
                .setAll(
                        Parts.heading(
                                "Soundings",
                                "place on the medium across, seconds for each 100 MB down; deeper is slower"),
                        soundings);
        clock.play();
    }

    private void tick() {
        if (meter == null || soundings == null) {
            return;
        }
        List<Difference> differences = house.reportsProperty().get().stream()
                .findFirst()
                .flatMap(WriteReport::verification)
                .map(Verification::differences)
                .orElse(List.of());
        List<TransferMeter.Sounding> writing = meter.soundings(Phase.WRITING);
        List<TransferMeter.Sounding> reading = meter.soundings(Phase.READING_BACK);
        soundings.show(writing, reading, differences);
        if (targetDrawing != null) {
            targetDrawing.tide(sum(writing), sum(reading));
        }
    }

    private static ByteSize sum(List<TransferMeter.Sounding> soundings) {
        return ByteSize.of(
                soundings.stream().mapToLong(TransferMeter.Sounding::bytes).sum());
    }

    private void showReports(List<WriteReport> reports) {
        if (reports.isEmpty()) {
            return;
        }
        tick();
        progress.getChildren().removeIf(node -> "report".equals(node.getId()));
        for (int i = reports.size() - 1; i >= 0; i--) {
            WriteReport report = reports.get(i);
            progress.getChildren()
                    .add(
                            0,
                            new ReportBox(
                                    report,
                                    reports.size() > 1,
                                    () -> house.perform(() -> ReportSheet.save(house.workspace(), report))));
        }
        advise(after(reports));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.Difference;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.Verification;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.desk.JobsModel;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.chart.Soundings;
import exordium.desktop.draw.strip.LayoutStrip;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Targets;
import exordium.jobs.paper.ReportSheet;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.beans.value.ChangeListener;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Image and target as two strips to one scale, what will be lost, the name typed; then the tide, soundings and report. */
public final class ImageStation extends Station<ImageModel> {
    private static final double STRIP_ROOM = 80;

    private final Optional<String> asked;
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
    private final ListChangeListener<RunningJob> runningChanged = change -> jobsChanged();
    private final ChangeListener<JobsModel.Written> reportArrived = (property, before, now) -> written(now);
    private final WriteWays ways;
    private final VBox cutOff = new VBox(4);
    private List<WriteJob.Planned> plans = List.of();
    private List<WriteReport> reports = List.of();
    private List<Finding> rehearsed = List.of();
    private Optional<Shown> shown = Optional.empty();
    private RunningJob job;
    private boolean takingIn;
    private boolean offering;
    private boolean chosenByHand;
    private Soundings soundings;
    private TransferMeter meter;
    private LayoutStrip targetDrawing;
    private Label targetSays = new Label();

    public ImageStation(House house, ImageModel model) {
        super(house, model);
        this.asked = house.navigation().takeWish();
        this.draft = new WriteDraft(model);
        this.ways = new WriteWays(draft, model.targets(), this::waysChanged);
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
        image.getItems().setAll(model.sources());
        image.setPrefWidth(300);
        WordCell.in(target, this::words);
        target.setPromptText("A medium");
        target.getItems().setAll(model.targets());
        target.setPrefWidth(340);
        image.valueProperty().addListener((property, before, now) -> {
            draft.image(now);
            ways.show();
            chosen();
        });
        target.valueProperty().addListener((property, before, now) -> {
            if (takingIn) {
                return;
            }
            chosenByHand = !offering;
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
    public String adviceTitle() {
        return "About this write";
    }

    /** A medium is looked into anew: it may have changed. */
    private DriveInspection inSource(ImageSource source) throws IOException {
        return switch (source.kind()) {
            case MEDIUM -> Inspections.inside(source.file(), house.targets(), TransferWatch.NONE, Inspector::inspect);
            case COPY -> house.inCopy(source.file(), source.size());
            case IMAGE -> house.inImage(source.file());
        };
    }

    /** What has to be there before anything can be written. */
    private Node missing() {
        if (model.sources().isEmpty()) {
            return Parts.empty(
                    "empty-begin",
                    "There is nothing to write yet: no image is on the shelf and no copy in the vault.",
                    Place.Form.SHELVE_IMAGE.title(),
                    () -> house.navigation().go(Place.Form.SHELVE_IMAGE));
        }
        if (model.targets().isEmpty()) {
            return Parts.empty(
                    "empty-begin",
                    "There is nothing to write to yet: plug a card or a drive into this machine, or make a virtual one.",
                    Place.Form.NEW_DRIVE.title(),
                    () -> house.navigation().go(Place.Form.NEW_DRIVE));
        }
        Region nothing = new Region();
        nothing.setManaged(false);
        return nothing;
    }

    @Override
    protected Step step() {
        return Step.IMAGE;
    }

    @Override
    public Node surface() {
        house.jobs().running().addListener(runningChanged);
        house.jobs().writtenProperty().addListener(reportArrived);
        HBox source =
                Parts.row(10, Parts.cell(Parts.label("Write", "soft"), 52), image, Parts.label("to", "soft"), target);
        // Room is kept for strips that are still being read, so that nothing moves under the hand.
        imageStrip.setMinHeight(STRIP_ROOM);
        targetStrip.setMinHeight(STRIP_ROOM);
        HBox confirmRow = Parts.row(10, deed, confirm, Parts.grow(ask));
        VBox surface = new VBox(
                8,
                Parts.heading("Image and target", "two strips, one scale"),
                missing(),
                source,
                ways,
                imageStrip,
                targetStrip,
                cutOff,
                confirmRow,
                progress);
        model.sources().stream()
                .filter(each -> asked.filter(each.title()::startsWith).isPresent())
                .findFirst()
                .or(() -> model.sources().stream().findFirst())
                .ifPresent(image::setValue);
        offerUsual();
        house.jobs().writingFor(board().id()).ifPresent(this::watch);
        judge();
        return surface;
    }

    private void offerUsual() {
        offering = true;
        model.usualTarget().ifPresent(target::setValue);
        offering = false;
    }

    @Override
    public boolean update(ImageModel fresh) {
        model = fresh;
        draft.model(fresh);
        takeIn(fresh.targets());
        judge();
        return true;
    }

    /** Drives come and go; the one that was chosen, and what was typed, stay as long as it is there. */
    private void takeIn(List<Targets.Target> targets) {
        Optional<String> chosen = draft.target().map(each -> each.description().id());
        Optional<Targets.Target> still = targets.stream()
                .filter(each -> chosen.filter(each.description().id()::equals).isPresent())
                .findFirst();
        takingIn = still.isPresent();
        target.getItems().setAll(targets);
        target.setValue(still.orElse(null));
        takingIn = false;
        still.ifPresent(draft::sameTarget);
        ways.offer(targets);
        if (!chosenByHand && confirm.getText().isEmpty()) {
            // Plugged in a moment ago, the medium of this board comes before one that was only free.
            offerUsual();
        }
    }

    @Override
    public void close() {
        clock.stop();
        house.jobs().running().removeListener(runningChanged);
        house.jobs().writtenProperty().removeListener(reportArrived);
    }

    /** Reads both sides' layout for the strips. */
    private void chosen() {
        meter = null;
        soundings = null;
        reports = List.of();
        shown = Optional.empty();
        waysChanged();
        Optional<ImageSource> from = draft.image();
        Optional<Targets.Target> to = draft.target();
        if (from.isPresent() && to.isPresent()) {
            imageStrip
                    .getChildren()
                    .setAll(Parts.label("Looking into " + from.get().title() + " …", "aside"));
            targetStrip.getChildren().clear();
            house.reading()
                    .look(
                            () -> new Pair(from.get().open(), inSource(from.get()), Inspections.ofTarget(to.get())),
                            pair -> strips(from.get(), to.get(), pair));
        }
    }

    private record Pair(ImageSource.Opened file, DriveInspection image, Optional<DriveInspection> target) {}

    private void strips(ImageSource from, Targets.Target to, Pair pair) {
        if (!draft.image().filter(from::equals).isPresent()
                || !draft.target().filter(to::equals).isPresent()) {
            return;
        }
        draft.opened(pair.file());
        judge();
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
                                                + LayoutWords.of(pair.image()),
                                        "aside",
                                        "small")),
                        new LayoutStrip(from.title(), Optional.of(pair.image()), from.size(), scale));
        String name = draft.targetName(to);
        String cut = shown < targetBytes ? "  ·  the first " + scale.said() + " shown" : "";
        targetSays = Parts.label(
                to.description().size().exact() + " = "
                        + to.description().size().binary() + cut + "  ·  holds "
                        + pair.target().map(LayoutWords::of).orElse("nothing known"),
                "aside",
                "small");
        targetDrawing = new LayoutStrip(name, pair.target(), to.description().size(), scale);
        targetStrip
                .getChildren()
                .setAll(Parts.row(10, Parts.whole(Parts.label(name, "strong")), targetSays), targetDrawing);
    }

    /** What is in use is read off the interface thread before it can be planned. */
    private void waysChanged() {
        if (draft.wantsUsedMap()) {
            ImageSource asked = draft.image().orElseThrow();
            house.reading().look(() -> WriteJob.usedIn(asked.open().file(), TransferWatch.NONE), map -> {
                if (draft.image().filter(asked::equals).isPresent()) {
                    draft.used(map);
                    judge();
                }
            });
        }
        judge();
    }

    /** What of a plan is on the screen. */
    private record Shown(Optional<Duration> estimate, List<WritePlan.Stage> stages) {}

    private Optional<WritePlan> plan() {
        return plans.stream().findFirst().map(WriteJob.Planned::plan);
    }

    private void showCutOff(boolean free) {
        cutOff.getChildren().clear();
        draft.unfinished().filter(each -> meter == null).ifPresent(each -> {
            Button goOn = Parts.button(
                    "Go on with it",
                    () -> house.jobs().start(new WriteRequests(house, board().id()).goOn(each, confirm.getText())),
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
            house.reading().say(e);
        }
        Optional<RunningJob> holder = house.jobs().holding(draft.drives());
        boolean free = holder.isEmpty();
        deed.setDisable(!draft.ready(plans) || !free);
        showCutOff(free);
        String id = draft.names();
        confirm.setPromptText(id);
        confirm.setDisable(id.isEmpty());
        confirm.setAccessibleText(
                id.isEmpty() ? "Choose a target first" : "Type the target's name, " + id + ", to confirm it");
        ask.setText(
                !free
                        ? holder.get().title() + " is not finished."
                        : draft.ready(plans)
                                ? "This is the one you named."
                                : id.isEmpty()
                                        ? "Choose what it is to be written to; its name is typed here then."
                                        : "Type its name, " + id + ", to confirm it.");
        advise(reports.isEmpty() ? draft.advice(plans) : after(reports));
        if (meter == null) {
            showPlan();
        }
    }

    private List<Finding> after(List<WriteReport> done) {
        List<Finding> findings = new ArrayList<>(rehearsed);
        done.forEach(report -> findings.add(report.finding()));
        if (done.stream().anyMatch(report -> report.verdict().good())) {
            findings.add(house.facts().rules().setUpAt().next());
        }
        return Finding.worstFirst(findings);
    }

    /** What the run will do, in its order, before it does anything. */
    private void showPlan() {
        Optional<Shown> now = plan().map(planned -> new Shown(planned.estimate(), planned.stages()));
        if (now.isPresent() && now.equals(shown)) {
            return;
        }
        shown = now;
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
            house.jobs()
                    .start(new WriteRequests(house, board().id())
                            .write(
                                    draft.deed().replaceFirst("^Write ", "Writing "),
                                    plans,
                                    ways.grows(),
                                    draft.image().filter(ImageSource::ofMedium).map(source -> ways.after())));
        }
    }

    private void jobsChanged() {
        Optional<RunningJob> now = house.jobs().writingFor(board().id());
        if (now.isPresent() && !now.get().equals(job)) {
            watch(now.get());
        } else if (now.isEmpty() && job != null) {
            tick();
            job = null;
            clock.stop();
            confirm.clear();
        }
        judge();
    }

    private void watch(RunningJob begun) {
        job = begun;
        reports = List.of();
        shown = Optional.empty();
        meter = begun.meter();
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
        List<Difference> differences = reports.stream()
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

    private void written(JobsModel.Written ended) {
        if (!ended.job().board().equals(board().id())) {
            return;
        }
        reports = ended.reports();
        rehearsed = ended.findings();
        // It was looked into before it was written.
        targetSays.setText(targetSays.getText().replace("  holds ", "  held before: "));
        tick();
        progress.getChildren().removeIf(node -> "report".equals(node.getId()));
        for (int i = reports.size() - 1; i >= 0; i--) {
            WriteReport report = reports.get(i);
            progress.getChildren().add(0, new ReportBox(report, reports.size() > 1, () -> house.facts()
                    .perform(() -> ReportSheet.save(house.workbench(), report))));
        }
        advise(after(reports));
    }
}

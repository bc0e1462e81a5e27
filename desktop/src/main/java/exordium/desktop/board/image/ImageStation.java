// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.block.TransferWatch;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.storage.media.Newcomer;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.House;
import exordium.desktop.desk.JobsModel;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Targets;
import exordium.jobs.paper.ReportSheet;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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
    private final Optional<String> asked;
    private final WriteDraft draft;
    private final ComboBox<ImageSource> image = new ComboBox<>();
    private final ComboBox<Targets.Target> target = new ComboBox<>();
    private final TextField confirm = new TextField();
    private final Button deed;
    private final Label ask = Parts.paragraph("", "soft", "small");
    private final TwoStrips strips = new TwoStrips();
    private final WriteProgress progress;
    private final ListChangeListener<RunningJob> runningChanged = change -> jobsChanged();
    private final ChangeListener<JobsModel.Written> reportArrived = (property, before, now) -> written(now);
    private final WriteWays ways;
    private final NewcomerRow newcomer;
    private final OffRow off;
    private final VBox cutOff = new VBox(4);
    private List<WriteJob.Planned> plans = List.of();
    private List<Finding> rehearsed = List.of();
    private RunningJob job;
    private boolean takingIn;
    private boolean offering;
    private boolean chosenByHand;

    public ImageStation(House house, ImageModel model) {
        super(house, model);
        this.asked = house.navigation().takeWish();
        this.draft = new WriteDraft(model);
        this.ways = new WriteWays(draft, model.targets(), this::waysChanged);
        this.off = new OffRow(house);
        this.newcomer = new NewcomerRow(house.workbench().media().kinds());
        this.progress = new WriteProgress(
                strips::tide, report -> house.facts().perform(() -> ReportSheet.save(house.workbench(), report)));
        this.deed = Parts.button("", this::write, "deed");
        deed.setId("write");
        confirm.setId("confirm");
        confirm.getStyleClass().add("confirm");
        image.setId("image");
        target.setId("target");
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
        HBox confirmRow = Parts.row(10, deed, confirm, Parts.grow(ask));
        VBox surface = new VBox(
                8,
                Parts.heading("Image and target", "two strips, one scale"),
                missing(),
                source,
                off,
                newcomer,
                ways,
                strips,
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
        showTarget();
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
        progress.stop();
        house.jobs().running().removeListener(runningChanged);
        house.jobs().writtenProperty().removeListener(reportArrived);
    }

    private void showTarget() {
        off.show(draft.target());
        newcomer.show(
                draft.target().map(each -> each.description().id()).orElse(""),
                draft.target().flatMap(model::newcomer));
    }

    /** Reads both sides' layout for the strips. */
    private void chosen() {
        progress.forget();
        showTarget();
        waysChanged();
        Optional<ImageSource> from = draft.image();
        Optional<Targets.Target> to = draft.target();
        if (from.isPresent() && to.isPresent()) {
            strips.waiting(from.get().title());
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
        ways.offer(WriteMode.offered(
                pair.file().file().isPlain(), pair.image().used(), pair.file().size()));
        judge();
        strips.show(from, pair.image(), to, draft.targetName(to), pair.target());
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

    private Optional<WritePlan> plan() {
        return plans.stream().findFirst().map(WriteJob.Planned::plan);
    }

    private void showCutOff(boolean free) {
        cutOff.getChildren().clear();
        draft.unfinished().filter(each -> progress.untouched()).ifPresent(each -> {
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
        advise(progress.reports().isEmpty() ? draft.advice(plans) : after(progress.reports()));
        if (progress.untouched()) {
            progress.plan(plan());
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

    private void write() {
        if (!deed.isDisabled() && draft.ready(plans)) {
            house.jobs()
                    .start(new WriteRequests(house, board().id())
                            .write(
                                    draft.deed().replaceFirst("^Write ", "Writing "),
                                    plans,
                                    newcomers(),
                                    ways.grows(),
                                    draft.image().filter(ImageSource::ofMedium).map(source -> ways.after())));
        }
    }

    /** What the drives that are in no register yet are taken in as, in the order of the plans. */
    private List<Optional<Newcomer>> newcomers() {
        List<Optional<Newcomer>> all = new ArrayList<>();
        all.add(newcomer.told());
        draft.also().forEach(each -> all.add(model.newcomer(each)));
        return all;
    }

    private void jobsChanged() {
        Optional<RunningJob> now = house.jobs().writingFor(board().id());
        if (now.isPresent() && !now.get().equals(job)) {
            watch(now.get());
        } else if (now.isEmpty() && job != null) {
            job = null;
            progress.stop();
            confirm.clear();
        }
        judge();
    }

    private void watch(RunningJob begun) {
        job = begun;
        progress.watch(begun.meter(), plan());
    }

    private void written(JobsModel.Written ended) {
        if (!ended.job().board().equals(board().id())) {
            return;
        }
        rehearsed = ended.findings();
        strips.heldBefore();
        progress.reported(ended.reports());
        advise(after(ended.reports()));
        if (ended.reports().stream().allMatch(report -> report.verdict().good())) {
            offerNext(ended.job());
        }
    }

    /** The first medium that was written, and the ports of this board that take it. */
    private void offerNext(RunningJob written) {
        OpenedBoard here = board();
        house.reading()
                .look(
                        () -> NextStep.Where.of(house, here, written.target().orElse("")),
                        where -> where.ifPresent(each -> progress.next(NextStep.of(house, here, each))));
    }
}

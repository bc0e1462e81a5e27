// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.block.TransferWatch;
import exordium.core.copies.care.CopyAdvice;
import exordium.core.copies.care.Spares;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.CopyRequests;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.draw.strip.RoomAhead;
import exordium.desktop.draw.strip.StrataBar;
import exordium.desktop.draw.time.CopyBand;
import exordium.desktop.part.Parts;
import exordium.desktop.part.Views;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import exordium.store.Copies;
import exordium.store.Media;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.collections.ListChangeListener;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Past copies and the next one along the calendar; making one, and checking those that are kept. */
public final class CopiesStation extends Station<CopiesModel> {
    private static final List<String> VIEWS =
            List.of("Kept in the vault", "Files in a copy", "What changed", "Before a copy");
    private static final int KEPT = 0;
    private static final int FILES = 1;
    private static final int CHANGES = 2;
    private static final int CARE = 3;

    private final VBox view = new VBox(10);
    private CopyFilesView files;
    private ChangesView changes;
    private CopyTide tide;
    private final ListChangeListener<RunningJob> runs = change -> copying();
    private int chosen = KEPT;

    public CopiesStation(House house, CopiesModel model) {
        super(house, model);
    }

    @Override
    protected Step step() {
        return Step.COPIES;
    }

    @Override
    public Node surface() {
        List<LocalDate> days =
                model.generations().stream().map(each -> day(each.copy())).toList();
        advise(advice());
        VBox surface = new VBox(
                12,
                Parts.heading("Copies", "past and coming"),
                new CopyBand(days, board().facts().due(), house.workbench().today()),
                deeds(),
                Views.row("copies-view-", VIEWS, chosen, now -> {
                    chosen = now;
                    showView();
                }),
                Parts.grow(view));
        VBox.setVgrow(view, Priority.ALWAYS);
        house.jobs().running().addListener(runs);
        showView();
        return surface;
    }

    @Override
    public void close() {
        house.jobs().running().removeListener(runs);
        endTide();
    }

    /** The copy of this board that is being made now. */
    private Optional<RunningJob> run() {
        return house.jobs().running().stream()
                .filter(job -> job.board().equals(board().id())
                        && board().medium()
                                .filter(medium -> job.inHand().contains(medium.file()))
                                .isPresent()
                        && job.target().isEmpty())
                .findFirst();
    }

    private void copying() {
        Optional<RunningJob> now = run();
        boolean shown = tide != null && now.filter(tide::isOf).isPresent();
        if (chosen == KEPT && !shown && (now.isPresent() || tide != null)) {
            showView();
        }
    }

    private void endTide() {
        if (tide != null) {
            tide.stop();
            tide = null;
        }
    }

    /** Whoever looks into a copy, compares or writes is not thrown out of it by what happens elsewhere. */
    @Override
    public boolean update(CopiesModel fresh) {
        model = fresh;
        if (chosen == KEPT) {
            // A station that shows a run goes on with it.
            return tide != null && run().filter(tide::isOf).isPresent();
        }
        if (files != null) {
            files.fresh(fresh.generations());
        }
        if (changes != null) {
            changes.fresh(mediumName(), fresh.generations());
        }
        advise(advice());
        return true;
    }

    private String mediumName() {
        return board().medium().map(Media.Medium::name).orElse("");
    }

    private HBox deeds() {
        String medium = mediumName();
        Button copy = Parts.button(
                board().medium().isEmpty() ? "Nothing to copy" : "Copy " + medium + " into the vault",
                () -> house.jobs()
                        .start(CopyRequests.copy(
                                house,
                                "Copying " + medium + " of " + board().name(),
                                board().id(),
                                board().medium().map(Media.Medium::file).orElseThrow())),
                "deed");
        copy.setId("copy");
        copy.setDisable(board().medium().isEmpty());
        board().medium()
                .ifPresent(each -> copy.disableProperty().bind(house.jobs().held(Set.of(each.file()))));
        boolean none = model.generations().stream().noneMatch(VaultJob.Generation::here);
        Button check = Parts.button("Check the copies kept", this::check);
        check.setId("check");
        check.setDisable(none);
        Button drill = Parts.hint(
                Parts.button("Try a restore", () -> house.jobs()
                        .start(CopyRequests.drill(house, board().name(), board().id()))),
                "The newest copy goes onto a virtual drive made for it, is read back, and the board is rehearsed with it.");
        drill.setId("drill");
        drill.setDisable(none || board().medium().isEmpty());
        Button clone = Parts.hint(
                Parts.button("Clone it", () -> house.navigation()
                        .go(new Place.Station(board().id(), Step.IMAGE), "all of " + medium)),
                "Its medium onto another one, at the image station: as two strips, read back, and rehearsed afterwards.");
        clone.setId("clone");
        clone.setDisable(board().medium().isEmpty());
        return Parts.row(10, copy, check, drill, clone);
    }

    private void showView() {
        files = null;
        changes = null;
        endTide();
        if (chosen == KEPT && run().isPresent() && model.source().isPresent()) {
            tide = new CopyTide(run().get(), model.source().get());
            view.getChildren().setAll(tide);
            return;
        }
        if (chosen == FILES) {
            files = new CopyFilesView(house, board().id(), model.generations());
            view.getChildren().setAll(files);
            return;
        }
        if (chosen == CHANGES) {
            changes = new ChangesView(house, board().id(), mediumName(), model.generations());
            view.getChildren().setAll(changes);
            return;
        }
        if (chosen == CARE) {
            view.getChildren().setAll(new CareView(house, board().id(), model.care()));
            return;
        }
        view.getChildren()
                .setAll(
                        Parts.heading(
                                "Generations",
                                "each was read back whole before it counted; solid: its own bytes, pale: shared"),
                        generations());
        if (!model.pruned().going().isEmpty()) {
            view.getChildren().add(goes());
        }
        model.spare().ifPresent(each -> view.getChildren().add(spare(each)));
        if (!model.generations().isEmpty()) {
            view.getChildren()
                    .addAll(
                            Parts.heading("Room ahead", "a year of copies as they are due, kept by the house's rule"),
                            new RoomAhead(model.ahead(
                                    house.workbench().today(),
                                    house.facts().rules().retention())));
        }
    }

    private Node generations() {
        VBox list = new VBox(6);
        List<VaultJob.Generation> newestFirst = new ArrayList<>(model.generations());
        java.util.Collections.reverse(newestFirst);
        newestFirst.forEach(each -> list.getChildren().add(line(each)));
        if (newestFirst.isEmpty()) {
            list.getChildren()
                    .add(
                            board().medium().isPresent()
                                    ? Parts.label("No copy of this board is in the vault.", "soft")
                                    : Parts.empty(
                                            "empty-begin",
                                            "There is nothing to copy: no medium is known to be in " + board().name()
                                                    + ". Its copies stand here, each read back whole before it counted.",
                                            "Choose a medium for it",
                                            () -> goTo(Step.STORAGE)));
        }
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        return scroll;
    }

    private Node line(VaultJob.Generation each) {
        Copies.Copy copy = each.copy();
        StrataBar bar = new StrataBar(each.own(), each.shared(), model.largest());
        String room = each.shared().bytes() == 0
                ? each.own().said()
                : each.own().said() + " + " + each.shared().said() + " shared";
        return Parts.row(
                10,
                new PennantGlyph(each.here() ? Pennant.PROVEN : Pennant.FAILING),
                Parts.cell(Parts.label(day(copy).toString(), "figure"), 88),
                Parts.grow(bar),
                Parts.cell(
                        Parts.hint(Parts.label(room, "figure", "soft"), copy.file() + ", SHA-256 " + copy.sha256()),
                        190),
                Parts.cell(Parts.label(each.here() ? model.verdict(copy) : "its file is gone", "soft", "small"), 190),
                back(each));
    }

    /** Which medium of the drawer the newest copy goes onto next. */
    private Node spare(Spares.Verdict each) {
        return Parts.row(
                8,
                Parts.whole(Parts.label("Next spare", "soft")),
                Parts.whole(Parts.label(each.medium().name(), "strong")),
                Parts.grow(Parts.paragraph(each.why() + ".", "soft", "small")));
    }

    private Button back(VaultJob.Generation each) {
        String source = "copy of " + day(each.copy());
        Button back = Parts.button(
                "Put back", () -> house.navigation().go(new Place.Station(board().id(), Step.IMAGE), source), "small");
        back.setId("put-back-" + each.copy().id());
        back.setAccessibleText("Put the " + source + " back onto a drive");
        back.setDisable(!each.here());
        return back;
    }

    /** What no rule keeps goes when it is asked for, and once more. */
    private Node goes() {
        List<Copies.Copy> going = model.pruned().going();
        String which = going.size() == 1 ? "the copy" : "the " + going.size() + " copies";
        if (model.pruned().problem().isPresent()) {
            return Parts.paragraph(model.pruned().problem().get(), "alarm");
        }
        Button take = Parts.button("Take out " + which + " no rule keeps", () -> {});
        take.setId("prune");
        take.setOnAction(event -> {
            take.setText(
                    "Take out " + which + " for good: " + model.pruned().freed().said() + " come free");
            take.setOnAction(again -> house.facts().perform(() -> new VaultJob(house.workbench())
                    .prune(Optional.of(board().id()), TransferWatch.NONE)));
        });
        return Parts.row(
                10,
                take,
                Parts.label("Kept are " + house.facts().rules().retention().said() + ".", "aside", "small"));
    }

    private void check() {
        house.facts().perform(() -> new CopyJob(house.workbench(), house.sheets())
                .checkAndTell(board().id())
                .forEach(house.reading()::say));
    }

    private LocalDate day(Copies.Copy copy) {
        return LocalDate.ofInstant(copy.proven(), house.workbench().zone());
    }

    private List<Finding> advice() {
        return CopyAdvice.of(
                house.facts().rules().copyRule(),
                board().facts().due(),
                model.source(),
                house.facts().rules().wayBack().finding(board().facts().lastCopy()),
                model.care());
    }
}

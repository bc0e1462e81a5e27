// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.copies.care.Changes;
import exordium.core.inspection.ImageComparison.FileChange;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Request;
import exordium.desktop.part.EditsView;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.copies.care.ChangesJob;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What changed on a board's medium since its image or a copy, or between two copies: files, settings line by line, packages. */
final class ChangesView extends VBox {
    private final House house;
    private final String board;
    private final ComboBox<Side> since = new ComboBox<>();
    private final ComboBox<Side> until = new ComboBox<>();
    private final Button compare = Parts.button("Compare", this::compare);
    private final Label answer = Parts.paragraph("Every file of both is read; that takes its time.", "soft");
    private final ListView<String> files = new ListView<>();
    private final EditsView settings = new EditsView();
    private final VBox packages = new VBox(3);

    /** One side of the comparison; id: as the job wants it, empty for the medium itself. */
    private record Side(String id, String words) {}

    ChangesView(House house, String board, String medium, List<VaultJob.Generation> generations) {
        super(10);
        this.house = house;
        this.board = board;
        since.setId("changes-since");
        until.setId("changes-until");
        compare.setId("compare");
        files.setId("changes-files");
        files.setPlaceholder(Parts.label("Files that changed stand here.", "soft"));
        WordCell.in(since, Side::words);
        WordCell.in(until, Side::words);
        fresh(medium, generations);
        HBox choice = Parts.row(
                8,
                Parts.whole(Parts.label("From", "soft")),
                since,
                Parts.whole(Parts.label("to", "soft")),
                until,
                Parts.whole(compare));
        ScrollPane lines = new ScrollPane(new VBox(
                10, Parts.heading("Settings", "line by line"), settings, Parts.heading("Packages", ""), packages));
        lines.setFitToWidth(true);
        lines.setId("changes-lines");
        HBox both = new HBox(18, Parts.grow(files), Parts.grow(lines));
        VBox.setVgrow(both, Priority.ALWAYS);
        getChildren().addAll(choice, answer, both);
    }

    /** The copies there are by now; what is chosen stays chosen. */
    void fresh(String medium, List<VaultJob.Generation> generations) {
        List<Side> copies = new ArrayList<>();
        for (int i = generations.size() - 1; i >= 0; i--) {
            VaultJob.Generation each = generations.get(i);
            if (each.here()) {
                copies.add(new Side(
                        String.valueOf(each.copy().id()),
                        "the copy of "
                                + LocalDate.ofInstant(
                                        each.copy().proven(), house.workbench().zone())));
            }
        }
        List<Side> before = new ArrayList<>(copies);
        before.add(new Side(ChangesJob.IMAGE, "the image it was written from"));
        List<Side> now = new ArrayList<>();
        now.add(new Side("", medium.isEmpty() ? "its medium now" : medium + " now"));
        now.addAll(copies);
        keep(since, before);
        keep(until, now);
    }

    private static void keep(ComboBox<Side> box, List<Side> offered) {
        Side chosen = box.getValue();
        if (!box.getItems().equals(offered)) {
            box.getItems().setAll(offered);
        }
        box.setValue(offered.contains(chosen) ? chosen : offered.get(0));
    }

    private void compare() {
        String from = since.getValue().id();
        java.util.Optional<String> to =
                java.util.Optional.of(until.getValue().id()).filter(id -> !id.isEmpty());
        answer.setText("Comparing …");
        compare.setDisable(true);
        Request<ChangesJob.Found> comparing = Request.of("Comparing what changed", meter -> new ChangesJob(
                                house.workbench(), new CopyJob(house.workbench(), house.sheets()))
                        .of(board, from, to, meter))
                .at(board)
                .holding(Set.of());
        house.jobs().start(comparing, this::show, () -> {
            compare.setDisable(false);
            if (answer.getText().endsWith("…")) {
                answer.setText("It was not compared.");
            }
        });
    }

    private void show(ChangesJob.Found found) {
        Changes changes = found.changes();
        answer.setText(changes.sentence());
        files.getItems()
                .setAll(changes.files().stream()
                        .map(each -> word(each.kind()) + "   " + each.path()
                                + (each.partition() == 1 ? "   (partition 1)" : ""))
                        .toList());
        settings.show(changes.settings());
        packages.getChildren().clear();
        for (Changes.PackageChange each : changes.packages()) {
            packages.getChildren()
                    .add(Parts.label(
                            each.name() + "  " + each.before().orElse("not there") + " → "
                                    + each.now().orElse("gone"),
                            "figure",
                            "small"));
        }
        if (changes.packages().isEmpty()) {
            packages.getChildren()
                    .add(Parts.paragraph("None changed, or the system keeps no list of them.", "soft", "small"));
        }
    }

    private static String word(FileChange.ChangeKind kind) {
        return switch (kind) {
            case CHANGED -> "changed";
            case GONE -> "gone";
            case NEW -> "new";
        };
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.copies;

import exordium.core.filesystem.FileEntry;
import exordium.core.quantity.ByteSize;
import exordium.desktop.desk.House;
import exordium.desktop.draw.strip.FileStrata;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.copies.vault.CopyFiles;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultJob;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Into a copy, folder by folder; a file is taken out, or followed through all copies. */
final class CopyFilesView extends VBox {
    private final House house;
    private final String board;
    private final CopyFiles files;
    private final ComboBox<VaultJob.Generation> copy = new ComboBox<>();
    private final TextField path = new TextField("/");
    private final ListView<FileEntry> entries = new ListView<>();
    private final VBox history = new VBox(5);
    private final TextField to = new TextField();
    private final Label answer = Parts.paragraph("", "soft");
    private String here = "/";

    CopyFilesView(House house, String board, List<VaultJob.Generation> generations) {
        super(10);
        this.house = house;
        this.board = board;
        this.files = new CopyFiles(house.workbench(), new CopyJob(house.workbench(), house.sheets()));
        copy.setId("files-copy");
        WordCell.in(copy, each -> "copy of " + day(each));
        fresh(generations);
        copy.setValue(copy.getItems().isEmpty() ? null : copy.getItems().get(0));
        copy.valueProperty().addListener((property, before, now) -> go(here));
        path.setId("files-path");
        path.setOnAction(event -> go(path.getText()));
        Button up = Parts.button("Up", () -> go(above()), "small");
        up.setId("files-up");
        HBox.setHgrow(path, Priority.ALWAYS);
        entries.setId("files-entries");
        entries.setPlaceholder(Parts.label("Nothing is in here.", "soft"));
        entries.setCellFactory(view -> new EntryCell());
        entries.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                open();
            } else if (event.getCode() == KeyCode.BACK_SPACE) {
                go(above());
            }
        });
        entries.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                open();
            }
        });
        entries.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> follow(now));
        VBox.setVgrow(entries, Priority.ALWAYS);
        to.setId("files-to");
        to.setPromptText("where it goes, such as /home/keeper/words.txt");
        HBox.setHgrow(to, Priority.ALWAYS);
        Button out = Parts.button("Take the file out", this::takeOut);
        out.setId("files-out");
        VBox left = new VBox(
                8,
                Parts.row(8, Parts.whole(copy), path, Parts.whole(up)),
                entries,
                Parts.row(8, to, Parts.whole(out)),
                answer);
        VBox right = new VBox(8, Parts.heading("In which copies it changed", ""), history);
        VBox.setVgrow(history, Priority.ALWAYS);
        right.setMinWidth(270);
        right.setPrefWidth(270);
        HBox both = new HBox(18, Parts.grow(left), right);
        VBox.setVgrow(both, Priority.ALWAYS);
        getChildren().add(both);
        if (copy.getValue() == null) {
            answer.setText("No copy of this board is in the vault to look into.");
        } else {
            go("/");
        }
    }

    /** The copies there are by now, newest first; the chosen one stays chosen. */
    void fresh(List<VaultJob.Generation> generations) {
        List<VaultJob.Generation> newest = new ArrayList<>(
                generations.stream().filter(VaultJob.Generation::here).toList());
        Collections.reverse(newest);
        if (!newest.equals(copy.getItems())) {
            VaultJob.Generation chosen = copy.getValue();
            copy.getItems().setAll(newest);
            newest.stream()
                    .filter(each ->
                            chosen != null && each.copy().id() == chosen.copy().id())
                    .findFirst()
                    .ifPresent(copy::setValue);
        }
    }

    private LocalDate day(VaultJob.Generation each) {
        return LocalDate.ofInstant(each.copy().proven(), house.workbench().zone());
    }

    private String above() {
        String plain = here.endsWith("/") ? here.substring(0, here.length() - 1) : here;
        int slash = plain.lastIndexOf('/');
        return slash < 0 ? "/" : plain.substring(0, slash + 1);
    }

    private void open() {
        FileEntry entry = entries.getSelectionModel().getSelectedItem();
        if (entry != null && entry.kind() == FileEntry.EntryKind.FOLDER) {
            go(at(entry) + "/");
        }
    }

    private String at(FileEntry entry) {
        return here + (here.endsWith("/") ? "" : "/") + entry.name();
    }

    private void go(String wanted) {
        if (copy.getValue() == null) {
            return;
        }
        String id = String.valueOf(copy.getValue().copy().id());
        house.reading().read(() -> files.look(id, wanted), found -> show(found, wanted));
    }

    private void show(CopyFiles.Found found, String wanted) {
        boolean folder = found.file().isEmpty();
        here = folder ? wanted : wanted.substring(0, wanted.lastIndexOf('/') + 1);
        path.setText(here);
        List<FileEntry> sorted = new ArrayList<>(found.entries());
        sorted.sort(Comparator.comparing((FileEntry each) -> each.kind() != FileEntry.EntryKind.FOLDER)
                .thenComparing(FileEntry::name));
        entries.getItems().setAll(sorted);
        history.getChildren().setAll(Parts.paragraph("Choose a file.", "soft"));
        answer.setText("Partition " + found.partition() + ". Write 1:/ in front for another one.");
    }

    private void follow(FileEntry entry) {
        if (entry == null || entry.kind() != FileEntry.EntryKind.FILE) {
            return;
        }
        String file = at(entry);
        house.reading().look(() -> files.history(board, file), versions -> {
            history.getChildren().clear();
            List<FileStrata.Layer> layers = new ArrayList<>(versions.stream()
                    .map(each -> new FileStrata.Layer(
                            LocalDate.ofInstant(
                                    each.copy().proven(), house.workbench().zone()),
                            each.bytes(),
                            each.which(),
                            each.changed()))
                    .toList());
            Collections.reverse(layers);
            ScrollPane scroll = new ScrollPane(new FileStrata(layers));
            scroll.setFitToWidth(true);
            VBox.setVgrow(scroll, Priority.ALWAYS);
            history.getChildren().add(scroll);
        });
    }

    private void takeOut() {
        FileEntry entry = entries.getSelectionModel().getSelectedItem();
        if (entry == null
                || entry.kind() != FileEntry.EntryKind.FILE
                || to.getText().isBlank()) {
            answer.setText("Choose a file, and say where it goes.");
            return;
        }
        String id = String.valueOf(copy.getValue().copy().id());
        Path target = Path.of(to.getText().strip());
        String file = at(entry);
        house.reading()
                .read(
                        () -> files.takeOut(id, file, target),
                        bytes -> answer.setText(entry.name() + " was taken out to " + target + ", "
                                + ByteSize.of(bytes).said() + "."));
    }

    /** A folder by its stroke behind the name, a file with its size. */
    private static final class EntryCell extends ListCell<FileEntry> {
        @Override
        protected void updateItem(FileEntry entry, boolean empty) {
            super.updateItem(entry, empty);
            setText(
                    empty || entry == null
                            ? null
                            : switch (entry.kind()) {
                                case FOLDER -> entry.name() + "/";
                                case FILE ->
                                    entry.name() + "   "
                                            + ByteSize.of(entry.size()).said();
                                case LINK -> entry.name() + "   leads elsewhere";
                                case OTHER -> entry.name() + "   no file";
                            });
        }
    }
}

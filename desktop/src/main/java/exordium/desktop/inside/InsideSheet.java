// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.inside;

import exordium.core.filesystem.FileEntry;
import exordium.core.inspection.PartitionContent;
import exordium.core.quantity.ByteSize;
import exordium.desktop.desk.House;
import exordium.desktop.part.Overlay;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.media.OpenedSource;
import java.util.function.Consumer;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextArea;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** An image or a drive laid open over the window: its partitions, folders and files, a small text shown, one copied out, another image or drive beside. */
public final class InsideSheet extends VBox implements Overlay {
    private final InsideModel model;
    private final ComboBox<PartitionContent> partition = new ComboBox<>();
    private final Label about = Parts.paragraph("Looking into it …", "soft", "small");
    private final Label where = Parts.label("/", "figure");
    private final ListView<FileEntry> list = new ListView<>();
    private final TextArea text = new TextArea();
    private final Button copy = Parts.button("Copy it out", this::copyOut);
    private final Timeline clock = new Timeline(new KeyFrame(Duration.millis(500), event -> tick()));
    /** Where it is said how far something is that takes long; null while nothing does. */
    private Consumer<String> waiting;

    private String folder = "/";

    public InsideSheet(House house, OpenedSource.Subject subject, Runnable close) {
        super(8);
        this.model = new InsideModel(house, subject);
        getStyleClass().add("overlay");
        setMaxSize(880, 600);
        setPrefSize(880, 600);
        partition.setId("inside-partition");
        WordCell.in(partition, InsideSheet::words);
        partition.setAccessibleText("Partition");
        partition.valueProperty().addListener((property, before, now) -> go("/"));
        list.setId("inside-files");
        list.setCellFactory(view -> new EntryCell());
        list.setAccessibleText("Files");
        list.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> chosen(now));
        list.setOnMouseClicked(event -> {
            if (event.getClickCount() == 2) {
                enter();
            }
        });
        list.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ENTER) {
                enter();
                event.consume();
            } else if (event.getCode() == KeyCode.BACK_SPACE) {
                up();
                event.consume();
            }
        });
        text.setId("inside-text");
        text.setEditable(false);
        text.setWrapText(true);
        text.setAccessibleText("The file's text");
        text.getStyleClass().add("figure");
        Button up = Parts.button("Up", this::up, "small");
        up.setId("inside-up");
        copy.setId("inside-copy");
        copy.setDisable(true);
        ComboBox<OpenedSource.Subject> beside = new ComboBox<>();
        beside.setId("inside-beside");
        beside.setPromptText("hold it against …");
        beside.setAccessibleText("Another image or drive to hold it against");
        WordCell.in(beside, each -> each.title() + ", " + each.place());
        model.others(beside.getItems()::setAll);
        beside.valueProperty().addListener((property, before, now) -> {
            list.getSelectionModel().clearSelection();
            waitFor(text::setText, "Comparing every piece and every file …");
            model.compare(now, lines -> done(text::setText, String.join("\n", lines)));
        });
        Button leave = Parts.button("Close", close);
        leave.setId("inside-close");
        getChildren()
                .addAll(
                        Parts.heading(subject.title(), subject.place()),
                        about,
                        Parts.row(10, partition, up, where, Parts.spring(), beside),
                        Parts.grow(new HBox(12, Parts.fixed(list, 380), Parts.grow(text))),
                        Parts.row(
                                10,
                                copy,
                                Parts.label("Enter opens a folder, Backspace leaves it.", "aside", "small"),
                                Parts.spring(),
                                leave));
        clock.setCycleCount(Animation.INDEFINITE);
        waitFor(about::setText, "Looking into it …");
        model.about(told -> {
            done(about::setText, told.kit().said());
            partition
                    .getItems()
                    .setAll(told.inspection().partitions().stream()
                            .filter(each -> !each.partition().holdsOthers())
                            .toList());
            partition.getItems().stream()
                    .filter(each -> each.fileSystem().kind().isFat()
                            || each.fileSystem().kind().isExt())
                    .findFirst()
                    .ifPresent(partition::setValue);
        });
    }

    @Override
    public void close() {
        clock.stop();
        model.close();
    }

    private void waitFor(Consumer<String> where, String words) {
        where.accept(words);
        waiting = more -> where.accept(words + "  " + more + ". Closing stops it.");
        clock.play();
    }

    private void done(Consumer<String> where, String words) {
        clock.stop();
        waiting = null;
        where.accept(words);
    }

    private void tick() {
        if (waiting != null) {
            waiting.accept(model.progress());
        }
    }

    private static String words(PartitionContent content) {
        String label = content.fileSystem().label();
        return content.partition().number() + "  " + content.fileSystem().kind().code()
                + (label.isEmpty() ? "" : " " + label) + ", "
                + content.partition().size().said();
    }

    private int number() {
        return partition.getValue().partition().number();
    }

    private void go(String to) {
        folder = to;
        where.setText(to);
        copy.setDisable(true);
        text.clear();
        list.getItems().clear();
        if (partition.getValue() != null) {
            model.entries(number(), to, entries -> {
                list.getItems().setAll(entries);
                list.getSelectionModel().selectFirst();
            });
        }
    }

    private void up() {
        int slash = folder.lastIndexOf('/');
        go(slash <= 0 ? "/" : folder.substring(0, slash));
    }

    private String path(FileEntry entry) {
        return (folder.equals("/") ? "" : folder) + "/" + entry.name();
    }

    private void enter() {
        FileEntry entry = list.getSelectionModel().getSelectedItem();
        if (entry != null && entry.kind() == FileEntry.EntryKind.FOLDER) {
            go(path(entry));
        }
    }

    private void chosen(FileEntry entry) {
        boolean file = entry != null && entry.kind() == FileEntry.EntryKind.FILE;
        copy.setDisable(!file);
        text.clear();
        if (file) {
            String asked = path(entry);
            model.text(number(), asked, entry.size(), content -> {
                if (entry.equals(list.getSelectionModel().getSelectedItem()) && asked.equals(path(entry))) {
                    text.setText(content);
                }
            });
        }
    }

    private void copyOut() {
        model.copyOut(number(), path(list.getSelectionModel().getSelectedItem()), text::setText);
    }

    @Override
    public void focus() {
        list.requestFocus();
    }

    private static final class EntryCell extends ListCell<FileEntry> {
        @Override
        protected void updateItem(FileEntry entry, boolean empty) {
            super.updateItem(entry, empty);
            if (empty || entry == null) {
                setGraphic(null);
                return;
            }
            boolean folder = entry.kind() == FileEntry.EntryKind.FOLDER;
            setGraphic(Parts.row(
                    8,
                    Parts.label(entry.name() + (folder ? "/" : ""), folder ? "strong" : "figure"),
                    Parts.spring(),
                    Parts.label(
                            entry.kind() == FileEntry.EntryKind.FILE
                                    ? ByteSize.of(entry.size()).said()
                                    : entry.kind() == FileEntry.EntryKind.LINK ? "link" : "",
                            "figure",
                            "soft")));
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.Works;
import exordium.desktop.desk.House;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.SaidText;
import exordium.jobs.bench.WorksShelf;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** What works with which boards and what does not: put down, handed on as a signed text, and taken in from others. */
public final class WorksSheet extends FormSheet {
    private static final double LIST = 250;

    private final WorksShelf shelf;
    private final TextField model = new TextField();
    private final ComboBox<Works.Kind> kind = new ComboBox<>();
    private final ComboBox<BoardProfile> family = new ComboBox<>();
    private final TextField release = new TextField();
    private final TextField note = new TextField();
    private final CheckBox fails = new CheckBox("it does not work");
    private final VBox list = new VBox(4);

    public WorksSheet(House house, Runnable close) {
        super(
                house,
                close,
                "What works with which boards",
                "Drives, enclosures, carriers, supplies and images, as somebody saw them. It counts where storage is chosen, never as a"
                        + " proof; handed on, it is a text that anybody can read, signed with this workspace's key.");
        this.shelf =
                new WorksShelf(house.workbench().folder(), house.workbench().reader());
        model.setId("works-model");
        model.setPromptText("its model, as it stands on it");
        kind.setId("works-kind");
        kind.getItems().setAll(Works.Kind.values());
        kind.setConverter(new SaidText<>(Works.Kind::code));
        kind.setValue(Works.Kind.DRIVE);
        family.setId("works-family");
        family.getItems().setAll(house.workbench().profiles().all());
        family.setConverter(new SaidText<>(BoardProfile::title));
        family.setValue(family.getItems().get(0));
        release.setId("works-release");
        release.setPromptText("of the firmware, where it is known: 2026-09-02");
        note.setId("works-note");
        fails.setId("works-fails");
        list.setId("works-list");
        field("Model", model);
        field("Is a", kind);
        field("With", family);
        field("Release", release);
        field("Note", note);
        field("", fails);
        fails.setAccessibleText(fails.getText());
        deedIs("Put it down");
        besideIt();
        ScrollPane pane = new ScrollPane(list);
        pane.setFitToWidth(true);
        pane.setPrefViewportHeight(LIST);
        Parts.followKeys(pane);
        under(pane);
        Button out = Parts.button("Hand it on …", this::handOn);
        out.setId("works-out");
        Button in = Parts.button("Take in somebody's …", this::takeIn);
        in.setId("works-in");
        under(Parts.row(10, out, in));
        house.reading().look(shelf::all, this::show);
    }

    private void show(Works works) {
        list.getChildren().clear();
        List<Works.Entry> entries = works.entries();
        for (int i = entries.size() - 1; i >= 0; i--) {
            list.getChildren().add(Parts.paragraph(Works.line(entries.get(i)), "small"));
        }
        if (entries.isEmpty()) {
            list.getChildren().add(Parts.paragraph("Nothing is put down yet.", "small", "soft"));
        }
    }

    @Override
    protected void carryOut() {
        house.reading().problemProperty().set("");
        house.reading().look(() -> shelf.put(List.of(entry())), works -> {
            model.clear();
            note.clear();
            show(works);
            house.facts().refresh();
            model.requestFocus();
        });
    }

    private Works.Entry entry() throws UnreadableInput {
        String name = model.getText().strip();
        if (name.isEmpty()) {
            throw new BadArgument("Say its model, as it stands on it.", name);
        }
        return new Works.Entry(
                kind.getValue(),
                name,
                family.getValue().id(),
                !fails.isSelected(),
                Parts.date(release.getText()),
                house.workbench().today(),
                note.getText().strip(),
                "");
    }

    private void handOn() {
        FileChooser chooser = new FileChooser();
        chooser.setInitialFileName("works.yaml");
        Optional.ofNullable(chooser.showSaveDialog(getScene().getWindow()))
                .map(File::toPath)
                .ifPresent(to -> house.reading().look(() -> handedOn(to), this::say));
    }

    /** Where to: a file of that name is written over, as the chooser asked. */
    String handedOn(Path to) throws IOException {
        Works all = shelf.all();
        Works own = new Works(all.entries().stream().filter(Works.Entry::own).toList());
        String name = house.facts().rules().workspaceName();
        Files.writeString(
                to, own.signedText(house.workbench().reader(), name.isBlank() ? "a workspace" : name, shelf.key()));
        return own.entries().size() + " entries are in " + to.getFileName() + ", signed.";
    }

    private void takeIn() {
        Optional.ofNullable(new FileChooser().showOpenDialog(getScene().getWindow()))
                .map(File::toPath)
                .ifPresent(from -> house.reading()
                        .look(() -> shelf.put(shelf.received(from).entries()), this::show));
    }

    private void say(String words) {
        house.reading().problemProperty().set(words);
    }
}

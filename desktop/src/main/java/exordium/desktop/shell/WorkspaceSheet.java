// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shell;

import exordium.core.finding.UnreadableInput;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Workbench;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.workspace.WorkspaceExport;
import exordium.jobs.workspace.Workspaces;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.util.StringConverter;

/** What can be done with workspaces as a whole: named, opened, made, taken along, made of a file. */
public final class WorkspaceSheet extends FormSheet {
    private final Place.Form kind;
    private final ComboBox<Workspaces.Known> recent = new ComboBox<>();
    private final TextField name = new TextField();
    private final TextField folder = new TextField();
    private final TextField file = new TextField();

    WorkspaceSheet(House house, Runnable close, Place.Form kind) {
        super(house, close, kind.title(), aside(kind));
        this.kind = kind;
        recent.setId("workspace-recent");
        name.setId("workspace-name");
        folder.setId("workspace-folder");
        file.setId("workspace-file");
        name.setPromptText("such as Gannet Point, or My boards");
        folder.setPromptText("an empty or a new folder");
        file.setPromptText("/home/…/boards.zip");
        switch (kind) {
            case NAME_WORKSPACE -> {
                name.setText(
                        house.facts().rules().isNamed() ? house.facts().rules().workspaceName() : "");
                field("Name", name);
                deedIs("Name it so");
            }
            case OPEN_WORKSPACE -> {
                field("Opened lately", recent);
                folder.setPromptText("or the folder of one");
                field("Folder", folder);
                lookForFolder(folder, "workspace-browse", "Look for the folder");
                others();
                offer();
                deedIs("Open it");
            }
            case NEW_WORKSPACE -> {
                field("Name", name);
                field("Folder", folder);
                lookForFolder(folder, "workspace-browse", "Look for the folder");
                deedIs("Make it and open it");
            }
            case EXPORT_WORKSPACE -> {
                field("File", file);
                deedIs("Put all of it into that file");
            }
            default -> {
                field("File", file);
                field("Folder", folder);
                lookForFolder(folder, "workspace-browse", "Look for the folder");
                deedIs("Make it and open it");
            }
        }
    }

    private static String aside(Place.Form kind) {
        return switch (kind) {
            case NAME_WORKSPACE ->
                "A workspace holds your boards, media, images, copies and the logbook. Give it the name of the place your boards are at.";
            case OPEN_WORKSPACE -> "This window then shows it; what runs here has to be over first.";
            case NEW_WORKSPACE -> "A folder with everything in it, which you can take along and keep copies of.";
            case EXPORT_WORKSPACE ->
                "Registers, images, virtual drives and copies, as one zip; for another machine, or to keep.";
            default -> "The file is looked through before anything is made of it.";
        };
    }

    private void others() {
        for (Place.Form form : List.of(
                Place.Form.NEW_WORKSPACE,
                Place.Form.NAME_WORKSPACE,
                Place.Form.EXPORT_WORKSPACE,
                Place.Form.IMPORT_WORKSPACE)) {
            Button button = Parts.button(form.title(), () -> house.navigation().go(form), "quiet");
            button.setId("to-" + form.name().toLowerCase(java.util.Locale.ROOT));
            under(button);
        }
    }

    private void offer() {
        recent.setConverter(new StringConverter<>() {
            @Override
            public String toString(Workspaces.Known known) {
                return known == null ? "" : known.name() + "   " + known.folder();
            }

            @Override
            public Workspaces.Known fromString(String text) {
                throw new UnsupportedOperationException("it is chosen, not typed");
            }
        });
        Path here = house.workbench().folder().toAbsolutePath().normalize();
        house.reading()
                .read(
                        () -> Workspaces.ofUser().recent().stream()
                                .filter(each -> each.there() && !each.folder().equals(here))
                                .toList(),
                        known -> {
                            recent.getItems().setAll(known);
                            recent.setPromptText(known.isEmpty() ? "no other one yet" : "choose one");
                        });
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        switch (kind) {
            case NAME_WORKSPACE -> named();
            case EXPORT_WORKSPACE -> exported();
            case OPEN_WORKSPACE -> thenGo(this::chosen);
            case NEW_WORKSPACE -> thenGo(this::made);
            default -> imported();
        }
    }

    private void named() {
        house.reading().read(() -> Workspaces.checkedName(name.getText()), said -> {
            house.facts().rules().workspaceName(said);
            house.facts().refresh();
            close.run();
        });
    }

    private void exported() {
        house.reading().read(() -> path(file.getText(), "the file it goes into"), to -> {
            close.run();
            house.jobs().start(Request.deed("Putting the workspace into " + to.getFileName(), meter -> {
                WorkspaceExport.write(house.workbench(), to, meter);
                house.reading().say("All of the workspace is in " + to + ".");
            }));
        });
    }

    private void imported() {
        house.reading()
                .read(
                        () -> List.of(
                                path(file.getText(), "the file it is made of"),
                                path(folder.getText(), "the folder for it")),
                        both -> {
                            close.run();
                            Path from = both.get(0);
                            house.jobs()
                                    .start(
                                            Request.deed(
                                                    "Making a workspace of " + from.getFileName(),
                                                    meter -> WorkspaceArchive.importFrom(
                                                                    from,
                                                                    both.get(1),
                                                                    house.workbench()
                                                                            .clock(),
                                                                    house.workbench()
                                                                            .zone(),
                                                                    meter)
                                                            .close()),
                                            done -> house.navigation().go(new Place.Workspace(both.get(1))));
                        });
    }

    private void thenGo(exordium.desktop.desk.Reading.Source<Path> source) {
        house.reading().read(source, to -> {
            close.run();
            house.navigation().go(new Place.Workspace(to));
        });
    }

    private Path chosen() throws IOException {
        String typed = folder.getText().strip();
        if (typed.isEmpty() && recent.getValue() == null) {
            throw new UnreadableInput("Choose one that was opened lately, or name the folder of another one.");
        }
        Path to = typed.isEmpty() ? recent.getValue().folder() : path(typed, "its folder");
        if (!Workbench.isWorkspace(to)) {
            throw new UnreadableInput("There is no workspace in " + to + ".");
        }
        return to;
    }

    private Path made() throws IOException {
        Path to = path(folder.getText(), "a folder for it");
        Workspaces.ofUser()
                .create(to, name.getText(), house.workbench().clock(), ZoneId.systemDefault())
                .close();
        return to;
    }

    private static Path path(String typed, String what) throws IOException {
        try {
            String said = typed.strip();
            if (said.isEmpty()) {
                throw new UnreadableInput("Name " + what + ".");
            }
            Path path = Path.of(said).toAbsolutePath().normalize();
            if (path.getParent() != null && Files.exists(path.getParent()) && !Files.isDirectory(path.getParent())) {
                throw new UnreadableInput(path.getParent() + " is no folder.");
            }
            return path;
        } catch (InvalidPathException e) {
            throw new UnreadableInput("\"" + typed + "\" is no path.", e);
        }
    }
}

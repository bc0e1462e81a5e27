// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import exordium.desktop.desk.House;
import java.io.File;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/** A short form laid over the window: fields with their labels, what is wrong in one sentence, the deed. */
public abstract class FormSheet extends VBox implements Overlay {
    /** Of one of two columns, at the usual size of text. */
    private static final double COLUMN = 445;

    protected final House house;
    protected final Runnable close;
    private GridPane fields = grid();
    private final HBox columns = new HBox(22, fields);
    private final Button deed = Parts.button("", this::carryOut, "deed");
    private Control first;
    private int rows;

    public FormSheet(House house, Runnable close, String title, String aside) {
        this.house = house;
        this.close = close;
        getStyleClass().add("overlay");
        setMaxSize(560, USE_PREF_SIZE);
        Label problem = Parts.paragraph("", "alarm", "small");
        problem.setId("form-problem");
        problem.textProperty().bind(house.reading().problemProperty());
        deed.setId("form-deed");
        Button cancel = Parts.button("Leave it", close);
        cancel.setId("form-cancel");
        house.reading().problemProperty().set("");
        deed.setDefaultButton(true);
        getChildren()
                .addAll(
                        Parts.heading(title, ""),
                        Parts.paragraph(aside, "aside", "small"),
                        columns,
                        problem,
                        Parts.row(10, deed, cancel));
    }

    /** Carries out what the form says; the sheet closes itself when it is done. */
    protected abstract void carryOut();

    protected final void field(String name, Control control) {
        Label label = Parts.label(name, "soft");
        label.setLabelFor(control);
        label.setMinWidth(USE_PREF_SIZE);
        control.setAccessibleText(name);
        control.setPrefWidth(columns.getChildren().size() > 1 ? 300 : 330);
        control.setMaxWidth(Double.MAX_VALUE);
        GridPane.setHgrow(control, Priority.ALWAYS);
        fields.add(label, 0, rows);
        fields.add(control, 1, rows++);
        if (first == null) {
            first = control;
        }
    }

    /** A button that looks for the file a field names. */
    protected final void lookFor(TextField file, String id, String title, String accessible) {
        Button browse = Parts.button("Look for it …", () -> {
            FileChooser chooser = new FileChooser();
            chooser.setTitle(title);
            File chosen = chooser.showOpenDialog(getScene().getWindow());
            if (chosen != null) {
                file.setText(chosen.getPath());
            }
        });
        browse.setId(id);
        field("", browse);
        browse.setAccessibleText(accessible);
    }

    /** The same for a folder. */
    protected final void lookForFolder(TextField folder, String id, String accessible) {
        Button browse = Parts.button("Look for it …", () -> {
            File chosen = new DirectoryChooser().showDialog(getScene().getWindow());
            if (chosen != null) {
                folder.setText(chosen.getPath());
            }
        });
        browse.setId(id);
        field("", browse);
        browse.setAccessibleText(accessible);
    }

    /** What follows stands beside what there is, in a sheet as wide as two. */
    protected final void besideIt() {
        fields.setPrefWidth(COLUMN);
        fields = grid();
        fields.setPrefWidth(COLUMN);
        columns.getChildren().add(fields);
        rows = 0;
        setMaxSize(960, USE_PREF_SIZE);
    }

    /** Something that is no field, under those of its column. */
    protected final void under(Node node) {
        fields.add(node, 0, rows++, 2, 1);
    }

    private static GridPane grid() {
        GridPane grid = new GridPane();
        grid.setHgap(14);
        grid.setVgap(8);
        HBox.setHgrow(grid, Priority.ALWAYS);
        return grid;
    }

    /** A field that is asked for only sometimes, with its label. */
    protected final void show(Control control, boolean shown) {
        control.getParent().getChildrenUnmodifiable().stream()
                .filter(each -> GridPane.getRowIndex(each).equals(GridPane.getRowIndex(control)))
                .forEach(each -> {
                    each.setVisible(shown);
                    each.setManaged(shown);
                });
    }

    protected final void deedIs(String words) {
        deed.setText(words);
    }

    @Override
    public final void focus() {
        (first == null ? deed : first).requestFocus();
    }
}

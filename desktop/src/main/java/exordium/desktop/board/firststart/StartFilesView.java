// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.firststart.dialect.StartFilesLint;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.firststart.settings.SettingsKeys;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.AdviceColumn;
import exordium.desktop.part.Parts;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The start partition as a tree, and an editor for its files with findings at their line and a mend for each that has one. */
final class StartFilesView extends HBox {
    private final MediumFiles files;
    private final BoardProfile board;
    private final Consumer<FileEdit> save;
    private final TextArea text = new TextArea();
    private final VBox found = new VBox(4);
    private final Button put = Parts.button("Nothing changed", this::put, "deed");
    private final Button back = Parts.button("As it was", this::reset);
    private final Label meaning = Parts.label("", "aside", "small");
    private String open = "";

    /** Where save: puts an edit on the medium. */
    StartFilesView(MediumFiles files, BoardProfile board, Consumer<FileEdit> save) {
        super(12);
        this.files = files;
        this.board = board;
        this.save = save;
        TreeView<String> tree = new TreeView<>(root());
        tree.setShowRoot(false);
        tree.setId("start-files");
        tree.setAccessibleText("Files of the start partition");
        tree.setPrefWidth(190);
        tree.setMinWidth(150);
        tree.getSelectionModel()
                .selectedItemProperty()
                .addListener((property, before, now) -> open(now == null ? "" : path(now)));
        text.setId("file-text");
        text.setWrapText(true);
        Parts.tabGoesOn(text);
        text.caretPositionProperty().addListener((property, before, now) -> tell());
        text.getStyleClass().add("figure");
        text.setAccessibleText("Content of the file");
        text.textProperty().addListener((property, before, now) -> lint());
        put.setId("save-file");
        back.setId("reset-file");
        ScrollPane scroll = new ScrollPane(found);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        scroll.setPrefHeight(150);
        scroll.setMinHeight(90);
        VBox right = new VBox(8, Parts.grow(text), meaning, scroll, Parts.row(10, put, back));
        VBox.setVgrow(text, javafx.scene.layout.Priority.ALWAYS);
        getChildren().addAll(tree, Parts.grow(right));
        first(tree);
    }

    private void first(TreeView<String> tree) {
        List<String> wanted = List.of(board.startFiles().settings().orElse(files.kernelLine()), files.kernelLine());
        for (String file : wanted) {
            for (TreeItem<String> item : tree.getRoot().getChildren()) {
                if (path(item).equals(file)) {
                    tree.getSelectionModel().select(item);
                    return;
                }
            }
        }
        tree.getSelectionModel().select(0);
    }

    private TreeItem<String> root() {
        TreeItem<String> root = new TreeItem<>("");
        Map<String, TreeItem<String>> folders = new TreeMap<>();
        folders.put("", root);
        for (String name : files.names().stream()
                .filter(each -> !each.startsWith("/"))
                .sorted()
                .toList()) {
            int slash = name.lastIndexOf('/');
            TreeItem<String> parent = folders.getOrDefault(slash < 0 ? "" : name.substring(0, slash), root);
            TreeItem<String> item = new TreeItem<>(name.substring(slash + 1));
            item.setExpanded(true);
            folders.put(name, item);
            parent.getChildren().add(item);
        }
        return root;
    }

    private static String path(TreeItem<String> item) {
        TreeItem<String> above = item.getParent();
        String folder = above == null ? "" : path(above);
        return folder.isEmpty() ? item.getValue() : folder + "/" + item.getValue();
    }

    private void open(String path) {
        open = path;
        Optional<FileBody> body = files.body(path);
        text.setEditable(body.isPresent());
        text.setText(body.map(StartFilesView::latin).orElse(""));
        text.setPromptText(body.isPresent() ? "empty" : path.isEmpty() ? "" : path + " is no text that is read here.");
        lint();
    }

    private static String latin(FileBody body) {
        return new String(body.bytes(), charset(body.bytes()));
    }

    /** Bytes that are no UTF-8 stand for themselves, so that those nobody touches stay what they are. */
    private static java.nio.charset.Charset charset(byte[] bytes) {
        return java.util.Arrays.equals(
                        new String(bytes, StandardCharsets.UTF_8).getBytes(StandardCharsets.UTF_8), bytes)
                ? StandardCharsets.UTF_8
                : StandardCharsets.ISO_8859_1;
    }

    private byte[] bytes() {
        return text.getText()
                .getBytes(files.body(open).map(body -> charset(body.bytes())).orElse(StandardCharsets.UTF_8));
    }

    private boolean changed() {
        return files.body(open)
                .filter(body -> !latin(body).equals(text.getText()))
                .isPresent();
    }

    private void lint() {
        boolean changed = changed();
        put.setDisable(!changed);
        back.setDisable(!changed);
        put.setText(changed ? "Put " + open + " on the medium" : "Nothing changed");
        found.getChildren().clear();
        if (files.body(open).isEmpty()) {
            return;
        }
        List<LineFinding> lines = StartFilesLint.file(open, bytes(), files.kernelLine(), board);
        if (lines.isEmpty()) {
            found.getChildren().add(Parts.label("Nothing is wrong with " + open + ".", "aside", "small"));
        }
        lines.forEach(each -> found.getChildren().add(row(each)));
    }

    private HBox row(LineFinding each) {
        HBox row = Parts.row(
                6,
                new PennantGlyph(AdviceColumn.pennant(each.finding().severity())),
                Parts.grow(Parts.paragraph(each.finding().text(), "small")));
        each.mend().ifPresent(mend -> {
            Button button = Parts.button(
                    Character.toUpperCase(mend.words().charAt(0)) + mend.words().substring(1),
                    () -> text.setText(new String(
                            SettingsDocument.parse(bytes()).with(mend).bytes(),
                            files.body(open).map(body -> charset(body.bytes())).orElse(StandardCharsets.UTF_8))),
                    "small");
            button.setAccessibleText("Mend line " + each.line() + ": " + mend.words());
            row.getChildren().add(button);
        });
        return row;
    }

    /** What the key at the caret is for. */
    private void tell() {
        boolean settings =
                board.startFiles().settings().filter(open::equalsIgnoreCase).isPresent();
        String whole = text.getText() == null ? "" : text.getText();
        int caret = Math.min(text.getCaretPosition(), whole.length());
        int from = whole.lastIndexOf('\n', Math.max(0, caret - 1)) + 1;
        int to = whole.indexOf('\n', caret);
        String line = from > caret ? "" : whole.substring(from, to < 0 ? whole.length() : Math.max(from, to));
        meaning.setText(settings ? SettingsKeys.shipped().said(line).orElse("") : "");
    }

    private void put() {
        FileBody before = files.body(open).orElseThrow();
        save.accept(new FileEdit(files.written(open), Optional.of(before), Optional.of(before.with(bytes()))));
    }

    private void reset() {
        open(open);
    }
}

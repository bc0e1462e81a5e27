// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.FileEdit;
import exordium.core.firststart.FirstStartPlan;
import exordium.core.firststart.Intents;
import exordium.core.firststart.KernelLineLint;
import exordium.core.firststart.SettingsLint;
import exordium.core.rehearsal.MediumContents;
import exordium.desktop.board.station.Station;
import exordium.desktop.desk.Desk;
import exordium.desktop.part.Parts;
import exordium.jobs.firststart.FirstStartJob;
import exordium.store.Media;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What is wanted on the left, what that changes in the small partition on the right. */
public final class FirstStartStation extends Station<FirstStartModel> {
    private final CheckBox login = new CheckBox("Remote login on");
    private final CheckBox rootById = new CheckBox("Name the root by its identifier");
    private final TextField address = new TextField();
    private final VBox diff = new VBox(2);
    private final Button apply;

    public FirstStartStation(Desk house, FirstStartModel model) {
        super(house, model);
        apply = Parts.button("", this::apply, "deed");
        apply.setId("apply");
        login.setId("login");
        rootById.setId("root-by-id");
        address.setId("address");
        address.setPromptText("none; such as 169.254.20.7");
        address.setPrefWidth(220);
        diff.getStyleClass().add("diff");
    }

    @Override
    public String adviceTitle() {
        return "Settings, looked through";
    }

    @Override
    public Node surface() {
        if (model.contents().flatMap(MediumContents::start).isEmpty()) {
            advise(List.of());
            return Parts.column(
                    8,
                    Parts.heading("First start", ""),
                    Parts.empty(
                            "empty-begin",
                            "There is no start partition to prepare. With a medium in " + board().name()
                                    + " that holds a system, its login, address and settings are looked through and set here.",
                            board().medium().isEmpty() ? "Choose a medium for it" : "Write an image to its medium",
                            () -> goTo(board().medium().isEmpty() ? Step.STORAGE : Step.IMAGE)));
        }
        String medium = board().medium().map(Media.Medium::name).orElse("");
        VBox wants = new VBox(
                10,
                Parts.heading("Wanted", ""),
                login,
                rootById,
                Parts.label("Fixed address of the wired port", "soft", "small"),
                address,
                Parts.paragraph(
                        "The straight cable from a PC wants an address from 169.254.1.0 to 169.254.254.255.",
                        "aside",
                        "small"),
                Parts.paragraph(
                        "On a board without a monitor a wired first start is the safe choice. It takes 3 to 5 minutes: wait.",
                        "aside",
                        "small"));
        wants.setPrefWidth(270);
        wants.setMinWidth(250);
        VBox edits = new VBox(
                8,
                Parts.heading("Changes on " + medium, "start partition, read back after writing"),
                diff,
                Parts.row(10, apply),
                found());
        login.selectedProperty().addListener((property, before, now) -> show());
        rootById.selectedProperty().addListener((property, before, now) -> show());
        address.textProperty().addListener((property, before, now) -> show());
        show();
        return new HBox(24, wants, Parts.grow(edits));
    }

    private Intents intents() {
        return new Intents(
                login.isSelected(),
                address.getText().isBlank()
                        ? Optional.empty()
                        : Optional.of(address.getText().strip()),
                rootById.isSelected());
    }

    private Optional<FirstStartPlan> plan() {
        try {
            Optional<FirstStartPlan> plan = Optional.of(FirstStartPlan.of(
                    intents(),
                    model.contents().orElseThrow().found(),
                    board().at().profile()));
            house.reading().problemProperty().set("");
            return plan;
        } catch (UnreadableInput e) {
            house.reading().problemProperty().set(e.getMessage());
            return Optional.empty();
        }
    }

    private void show() {
        Optional<FirstStartPlan> plan = plan();
        diff.getChildren().clear();
        if (plan.isEmpty() || plan.get().edits().isEmpty()) {
            current();
        } else {
            plan.get().edits().forEach(this::edit);
        }
        boolean stops = plan.isEmpty()
                || plan.get().findings().stream()
                        .anyMatch(finding -> finding.stops() && !finding.code().startsWith("kernel-line"));
        boolean nothing = plan.isEmpty() || plan.get().edits().isEmpty();
        apply.setText(
                nothing
                        ? "Nothing to change"
                        : "Put this on "
                                + board().medium().map(Media.Medium::name).orElse("the medium"));
        apply.setDisable(nothing || stops);
        List<Finding> findings = plan.map(FirstStartPlan::findings).orElse(List.of());
        advise(findings);
    }

    private void current() {
        diff.getChildren().add(Parts.label("Nothing of what is on it changes.", "aside", "small"));
    }

    /** What stands on the start partition now, so that nobody has to put the card into a reader to look. */
    private VBox found() {
        MediumContents.StartPartition start =
                model.contents().flatMap(MediumContents::start).orElseThrow();
        BoardProfile.StartFiles files = board().at().profile().startFiles();
        VBox found = new VBox(
                6,
                Parts.heading("On the start partition now", ""),
                Parts.paragraph(String.join("   ", start.names()), "figure", "soft"));
        start.kernelLine().ifPresent(content -> found.getChildren()
                .add(new LintedFile(files.kernelLine(), content, KernelLineLint.of(content, files.kernelLineForm()))));
        start.settings().ifPresent(content -> found.getChildren()
                .add(new LintedFile(
                        files.settings().orElse(""),
                        content,
                        SettingsLint.of(content, board().at().profile()))));
        found.getChildren()
                .add(Parts.label("Remote login is " + (start.remoteLogin() ? "on." : "off."), "soft", "small"));
        return found;
    }

    private void edit(FileEdit edit) {
        diff.getChildren()
                .add(Parts.label(edit.file() + (edit.before().isEmpty() ? ", new and empty" : ""), "strong", "small"));
        edit.before().ifPresent(before -> before.lines()
                .filter(line -> edit.after().lines().noneMatch(line::equals))
                .forEach(line -> diff.getChildren().add(Parts.paragraph("−  " + line, "figure", "soft"))));
        edit.after()
                .lines()
                .filter(line ->
                        edit.before().isEmpty() || edit.before().get().lines().noneMatch(line::equals))
                .forEach(line -> diff.getChildren().add(Parts.paragraph("+  " + line, "figure")));
    }

    private void apply() {
        Intents wanted = intents();
        String drive = board().medium().orElseThrow().file();
        house.jobs().performOn(drive, () -> new FirstStartJob(house.workbench()).apply(board().at(), drive, wanted));
    }
}

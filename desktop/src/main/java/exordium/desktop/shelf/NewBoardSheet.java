// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.desktop.desk.Desk;
import exordium.desktop.desk.Place;
import exordium.desktop.part.FormSheet;
import exordium.jobs.shelf.Intake;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Optional;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** Puts a board into the register. */
public final class NewBoardSheet extends FormSheet {
    private final TextField name = new TextField();
    private final TextField place = new TextField();
    private final ComboBox<String> profile = new ComboBox<>();
    private final ComboBox<String> memory = new ComboBox<>();
    private final TextField firmware = new TextField();
    private final CheckBox light = new CheckBox("lightly used: copies are due less often");
    private final CheckBox reachable = new CheckBox("the card slot can be reached in its box");

    public NewBoardSheet(Desk house, Runnable close) {
        super(house, close, "New board", "What it is, and where it stands. Nothing is written to anything yet.");
        name.setId("board-name");
        place.setId("board-place");
        profile.setId("board-profile");
        memory.setId("board-memory");
        firmware.setId("board-firmware");
        name.setPromptText("such as Tide clock");
        place.setPromptText("such as Hall");
        firmware.setPromptText("date on its start screen, such as 2026-09-02");
        reachable.setSelected(true);
        house.workbench().profiles().all().forEach(each -> profile.getItems().add(each.id()));
        profile.valueProperty().addListener((property, before, now) -> offerMemory(now));
        profile.setValue(profile.getItems().get(0));
        field("Name", name);
        field("Place", place);
        field("Family", profile);
        field("Memory", memory);
        field("Firmware", firmware);
        field("", light);
        field("", reachable);
        light.setAccessibleText(light.getText());
        reachable.setAccessibleText(reachable.getText());
        deedIs("Put it in the register");
    }

    private void offerMemory(String id) {
        BoardProfile chosen = house.workbench().profiles().all().stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow();
        memory.getItems().setAll(chosen.memory());
        memory.setValue(chosen.memory().get(0));
        firmware.setDisable(!chosen.firmware().updatable());
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        house.reading().read(() -> new Intake(house.workbench()).board(wanted()), board -> {
            close.run();
            house.facts().refresh();
            house.navigation().go(new Place.Station(board.id(), Step.STORAGE));
        });
    }

    private Intake.NewBoard wanted() throws UnreadableInput {
        return new Intake.NewBoard(
                name.getText(),
                place.getText(),
                profile.getValue(),
                memory.getValue(),
                date(),
                Optional.empty(),
                light.isSelected(),
                reachable.isSelected());
    }

    private Optional<LocalDate> date() throws UnreadableInput {
        String typed = firmware.getText().strip();
        if (typed.isEmpty() || firmware.isDisabled()) {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDate.parse(typed));
        } catch (DateTimeParseException e) {
            throw new UnreadableInput("\"" + typed + "\" is no date such as 2026-09-02.", e);
        }
    }
}

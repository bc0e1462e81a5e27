// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.access.BoardState;
import exordium.core.access.BoardWay;
import exordium.core.access.BoardWays;
import exordium.core.access.Known;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.bench.FamilyPicture;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.SaidText;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardRegister;
import exordium.store.Boards;
import java.time.LocalDate;
import java.util.Objects;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** Everything a board has, entered or changed: a new one, or one of the register. */
public final class BoardSheet extends FormSheet {
    private final Optional<Workbench.BoardAtHand> edited;
    private final TextField name = text("board-name", "such as Tide clock");
    private final TextField place = text("board-place", "such as Hall");
    private final ComboBox<BoardWay> way = new ComboBox<>();
    private final ComboBox<String> profile = new ComboBox<>();
    private final Label family = Parts.paragraph("", "aside", "small");
    private final VBox picture = new VBox();
    private final ComboBox<String> memory = new ComboBox<>();
    private final TextField supply = text("board-supply", "such as 5 V 3 A, or poe-at");
    private final TextField serial = text("board-serial", "as its start screen shows it");
    private final TextField mac = text("board-mac", "such as 02:47:50:00:00:06");
    private final TextField firmware = text("board-firmware", "date on its start screen, such as 2026-09-02");
    private final ComboBox<Channel> channel = new ComboBox<>();
    private final TextField order = text("board-order", "as it is stored there");
    private final TextField carrier = text("board-carrier", "usual, or such as silent 2230,2242");
    private final TextField note = text("board-note", "whatever you want to remember of it");
    private final CheckBox light = new CheckBox("lightly used: copies are due less often");
    private final CheckBox reachable = new CheckBox("the card slot can be reached in its box");
    private final CheckBox overlay = new CheckBox("its read-only overlay is on");

    private static final String NEW =
            "What it is, and where it stands. Nothing is written to anything yet. What you leave out is taken as its family"
                    + " usually has it, and says so.";

    public BoardSheet(House house, Runnable close) {
        this(house, close, Optional.empty(), NEW);
    }

    /** For a new one of a family that was described just now. */
    public static BoardSheet of(House house, Runnable close, Place.NewBoardOf described) {
        BoardSheet sheet = new BoardSheet(house, close, Optional.empty(), described.words());
        sheet.profile.setValue(described.family());
        return sheet;
    }

    /** For one of the register. */
    public static BoardSheet edit(House house, Runnable close, Workbench.BoardAtHand board) {
        return new BoardSheet(house, close, Optional.of(board), "What differs from before counts as told now.");
    }

    private BoardSheet(House house, Runnable close, Optional<Workbench.BoardAtHand> edited, String aside) {
        super(house, close, edited.map(each -> each.register().name()).orElse("New board"), aside);
        this.edited = edited;
        way.setId("board-reach");
        way.getItems().addAll(BoardWays.all());
        way.setConverter(new SaidText<>(BoardWay::meaning));
        way.setValue(BoardWays.byHand());
        profile.setId("board-profile");
        memory.setId("board-memory");
        channel.setId("board-channel");
        channel.getItems().addAll(Channel.values());
        channel.setConverter(new SaidText<>(Channel::code));
        channel.setValue(house.facts().rules().channel());
        reachable.setSelected(true);
        house.workbench().profiles().all().forEach(each -> profile.getItems().add(each.id()));
        profile.valueProperty().addListener((property, before, now) -> offer(now));
        profile.setValue(profile.getItems().get(0));
        field("Name", name);
        field("Place", place);
        field("Family", profile);
        under(picture);
        under(family);
        Button describe = Parts.button(
                "None of these: describe it …", () -> house.navigation().go(Place.Form.NEW_FAMILY), "quiet", "small");
        describe.setId("board-describe");
        Button known = Parts.button(
                "What is known of it …",
                () -> edited.ifPresent(at -> house.navigation()
                        .go(new Place.BoardForm(at.register().id(), Place.BoardForm.FormKind.FAMILY))),
                "quiet",
                "small");
        known.setId("board-family-known");
        under(edited.isPresent() ? Parts.row(10, describe, known) : describe);
        field("Memory", memory);
        field("Supply", supply);
        field("How", way);
        field("Note", note);
        besideIt();
        field("Firmware", firmware);
        field("Channel", channel);
        field("Order", order);
        field("Carrier", carrier);
        field("Serial", serial);
        field("Hardware address", mac);
        check(light);
        check(reachable);
        check(overlay);
        edited.ifPresent(this::fill);
        deedIs(edited.isPresent() ? "Keep the changes" : "Put it in the register");
    }

    private static TextField text(String id, String prompt) {
        TextField field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        return field;
    }

    private void check(CheckBox box) {
        field("", box);
        box.setAccessibleText(box.getText());
    }

    private void offer(String id) {
        BoardProfile chosen = chosen(id);
        family.setText(chosen.tell());
        picture.getChildren().setAll(new FamilyPicture(chosen));
        memory.getItems().setAll(chosen.memory());
        memory.setValue(chosen.memory().get(0));
        firmware.setDisable(!chosen.firmware().updatable());
        supply.setPromptText("usual: " + chosen.power().supply().said() + "; or poe-at");
        order.setPromptText("usual: " + chosen.order().usual());
    }

    private BoardProfile chosen(String id) {
        return house.workbench().profiles().all().stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    private void fill(Workbench.BoardAtHand at) {
        BoardState state = at.board();
        name.setText(at.register().name());
        place.setText(at.register().place());
        way.setValue(at.register().way());
        profile.setValue(at.register().profile());
        memory.setValue(state.memory());
        supply.setText(state.supply().said());
        serial.setText(state.serial());
        mac.setText(state.mac());
        firmware.setText(
                isDefault(state.known().firmware()) ? "" : state.firmware().toString());
        channel.setValue(at.register().channel());
        order.setText(isDefault(state.known().order()) ? "" : at.order());
        carrier.setText(state.carrier().map(BoardState.Carrier::said).orElse("usual"));
        note.setText(at.register().note());
        light.setSelected(at.register().lightlyUsed());
        reachable.setSelected(at.register().slotReachable());
        overlay.setSelected(state.overlay());
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        house.reading()
                .read(
                        () -> {
                            BoardRegister register = new BoardRegister(house.workbench());
                            return edited.isPresent()
                                    ? register.edit(edited.get(), changed(edited.get()))
                                    : register.add(wanted());
                        },
                        board -> {
                            close.run();
                            house.facts().refresh();
                            if (edited.isEmpty()) {
                                house.navigation().go(new Place.Station(board.id(), Step.STORAGE));
                            }
                        });
    }

    private BoardRegister.Description wanted() throws UnreadableInput {
        return new BoardRegister.Description(
                Optional.of(name.getText()),
                typed(place),
                Optional.of(profile.getValue()),
                Optional.of(memory.getValue()),
                Optional.of(way.getValue()),
                typed(supply),
                typed(serial),
                typed(mac),
                firmware.isDisabled() ? Optional.empty() : Parts.date(firmware.getText()),
                Optional.of(channel.getValue()),
                typed(order),
                Optional.of(overlay.isSelected()),
                typed(carrier),
                Optional.of(light.isSelected()),
                Optional.of(reachable.isSelected()),
                typed(note));
    }

    /** Only what differs counts as told now; all else stays known as it was. */
    private BoardRegister.Description changed(Workbench.BoardAtHand at) throws UnreadableInput {
        BoardState state = at.board();
        Boards.Board register = at.register();
        Optional<LocalDate> release = firmware.isDisabled() ? Optional.empty() : Parts.date(firmware.getText());
        return new BoardRegister.Description(
                unless(name.getText(), register.name()),
                unless(place.getText(), register.place()),
                unless(profile.getValue(), register.profile()),
                unless(memory.getValue(), state.memory()),
                Optional.of(way.getValue()).filter(each -> each != register.way()),
                typed(supply).filter(each -> !each.equals(state.supply().said())),
                unless(serial.getText(), state.serial()),
                unless(mac.getText(), state.mac()),
                release.filter(each -> isDefault(state.known().firmware()) || !each.equals(state.firmware())),
                Optional.of(channel.getValue()).filter(each -> each != register.channel()),
                typed(order).filter(each -> isDefault(state.known().order()) || !each.equals(at.order())),
                Optional.of(overlay.isSelected()).filter(each -> each != state.overlay()),
                unless(
                        carrier.getText(),
                        state.carrier().map(BoardState.Carrier::said).orElse("usual")),
                Optional.of(light.isSelected()).filter(each -> each != register.lightlyUsed()),
                Optional.of(reachable.isSelected()).filter(each -> each != register.slotReachable()),
                unless(note.getText(), register.note()));
    }

    /** What nobody told is not shown as if it were known. */
    private static boolean isDefault(Optional<Known> known) {
        return known.filter(Known::guessed).isPresent();
    }

    private static Optional<String> unless(String typed, String before) {
        return Objects.equals(typed.strip(), before) ? Optional.empty() : Optional.of(typed.strip());
    }

    private static Optional<String> typed(TextField field) {
        return Optional.of(field.getText().strip()).filter(each -> !each.isEmpty());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyDraft;
import exordium.core.board.FamilyFromScreen;
import exordium.core.board.OrderForm;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.family.SeveralGenerations;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Inspections;
import exordium.jobs.family.Families;
import java.io.File;
import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;
import javafx.stage.FileChooser;

/** Describes a family by what a person can see, and by what an image holds that starts on it. */
public final class FamilySheet extends FormSheet {
    private static final String NEAREST = "the nearest by what is said here";
    private static final String AS_THERE = "as there";

    private final TextField id = text("family-id", "small letters, digits, dashes: heron-1");
    private final TextField title = text("family-title", "as it stands on the box");
    private final TextField image = text("family-image", "/home/…/system-for-it.img.xz, or leave it out");
    private final TextArea screen = new TextArea();
    private final ComboBox<String> like = choice("family-like");
    private final Label tell = Parts.paragraph("", "aside", "small");
    private final TextField memory = text("family-memory", "such as 2 GB, 4 GB");
    private final TextField supply = text("family-supply", "such as 5 V 3 A");
    private final SocketPicker sockets = new SocketPicker();
    private final ComboBox<String> generation = choice("family-generation");
    private final ComboBox<String> dialect = choice("family-dialect");
    private final TextField usual = text("family-usual", "the order a new one has");
    private final ComboBox<String> where = choice("family-where");

    public FamilySheet(House house, Runnable close) {
        super(
                house,
                close,
                "Describe a family",
                "Say what can be seen; what you leave out is as in the family it begins with. With an image that starts on it, its"
                        + " start files, kernel, device trees and kernel line are read off that, and it is rehearsed. What its"
                        + " start screen shows tells its order, its memory and what it starts from.");
        like.getItems().add(NEAREST);
        List<BoardProfile> all = house.workbench().profiles().all();
        all.forEach(each -> like.getItems().add(each.id()));
        like.valueProperty()
                .addListener((property, before, now) -> tell.setText(all.stream()
                        .filter(each -> each.id().equals(now))
                        .findFirst()
                        .map(BoardProfile::tell)
                        .orElse("")));
        like.setValue(NEAREST);
        dialect.getItems().add(AS_THERE);
        Arrays.stream(OrderForm.values()).map(OrderForm::code).forEach(dialect.getItems()::add);
        dialect.setValue(AS_THERE);
        where.getItems().addAll(AS_THERE, "chip", "card", "medium");
        where.setValue(AS_THERE);
        field("Name", id);
        field("Title", title);
        field("Image", image);
        generation.setPromptText("which of those it starts");
        Button browse = Parts.button("Look for it …", this::browse);
        browse.setId("family-browse");
        field("", browse);
        browse.setAccessibleText("Look for the image file");
        screen.setId("family-screen");
        screen.setPromptText("lines of one start, typed off or pasted; or leave it out");
        screen.setPrefRowCount(2);
        Parts.tabGoesOn(screen);
        field("It is for", generation);
        show(generation, false);
        field("Start screen", screen);
        field("Begin with", like);
        under(tell);
        besideIt();
        field("Memory", memory);
        field("Supply", supply);
        field("Order kept as", dialect);
        field("Usual order", usual);
        field("Firmware in", where);
        under(Parts.label("Its sockets, as one sees them: press for each", "soft", "small"));
        under(sockets);
        deedIs("Describe it");
    }

    private static TextField text(String id, String prompt) {
        TextField field = new TextField();
        field.setId(id);
        field.setPromptText(prompt);
        return field;
    }

    private static ComboBox<String> choice(String id) {
        ComboBox<String> box = new ComboBox<>();
        box.setId(id);
        return box;
    }

    private void browse() {
        File chosen = new FileChooser().showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            image.setText(chosen.getPath());
        }
    }

    /** A family that was described, and what came of rehearsing it. */
    private record Described(BoardProfile profile, Optional<Trace> trace) {}

    /** Empty where the image starts several generations; then their names. */
    private record Outcome(Optional<Described> described, List<String> generations) {}

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        FamilyDraft draft = draft();
        String file = image.getText().strip();
        String lines = screen.getText();
        Optional<String> one = Optional.ofNullable(generation.getValue());
        house.reading().look(() -> outcome(draft, file, lines, one), outcome -> {
            if (outcome.described().isEmpty()) {
                ask(outcome.generations());
                return;
            }
            Described described = outcome.described().get();
            close.run();
            house.navigation()
                    .go(new Place.NewBoardOf(
                            described.profile().id(),
                            described.profile().id() + " is described. "
                                    + described
                                            .trace()
                                            .map(trace -> trace.runs() || trace.outcome() == Trace.Outcome.INSTALLING
                                                    ? "Rehearsed with that image it runs after " + trace.seconds()
                                                            + " s."
                                                    : "Rehearsed with that image it does not run: "
                                                            + trace.cause().code() + ".")
                                            .orElse("It was not rehearsed: no image was named.")
                                    + " Nobody looked yet at "
                                    + described
                                            .profile()
                                            .from()
                                            .unknownIn(described.profile())
                                            .size()
                                    + " of its fields."));
        });
    }

    private void ask(List<String> generations) {
        generation.getItems().setAll(generations);
        show(generation, true);
        generation.requestFocus();
        house.reading()
                .problemProperty()
                .set("This image starts several generations of boards: say which one this is, above.");
    }

    private Outcome outcome(FamilyDraft said, String file, String lines, Optional<String> one) throws IOException {
        try {
            return new Outcome(Optional.of(described(said, file, lines, one)), List.of());
        } catch (SeveralGenerations e) {
            return new Outcome(Optional.empty(), e.names());
        }
    }

    private Described described(FamilyDraft said, String file, String lines, Optional<String> one) throws IOException {
        Families families = Families.of(house.workbench());
        FamilyDraft draft = lines.isBlank() ? said : families.seen(said, FamilyFromScreen.read(lines));
        BoardProfile profile;
        Optional<Trace> trace = Optional.empty();
        if (file.isEmpty()) {
            profile = families.made(draft);
        } else {
            Described read = Inspections.inside(path(file), house.targets(), TransferWatch.NONE, device -> {
                BoardProfile of = families.from(device, draft, one);
                return new Described(of, Optional.of(families.rehearsed(of, device)));
            });
            profile = read.profile();
            trace = read.trace();
        }
        families.keep(profile, false);
        house.workbench().profilesChanged();
        return new Described(profile, trace);
    }

    private static Path path(String file) throws UnreadableInput {
        try {
            return Path.of(file);
        } catch (InvalidPathException e) {
            throw new UnreadableInput("\"" + file + "\" is no path of a file.", e);
        }
    }

    private FamilyDraft draft() {
        return new FamilyDraft(
                id.getText().strip(),
                typed(title),
                Optional.of(like.getValue()).filter(each -> !each.equals(NEAREST)),
                Optional.empty(),
                words(memory),
                said(dialect).map(OrderForm::of),
                typed(usual),
                typed(supply),
                sockets.ports(),
                said(where),
                List.of(),
                List.of(),
                List.of());
    }

    private static Optional<String> typed(TextField field) {
        return Optional.of(field.getText().strip()).filter(each -> !each.isEmpty());
    }

    private static Optional<String> said(ComboBox<String> box) {
        return Optional.of(box.getValue()).filter(each -> !each.equals(AS_THERE));
    }

    private static List<String> words(TextField field) {
        return Arrays.stream(field.getText().split(","))
                .map(String::strip)
                .filter(each -> !each.isEmpty())
                .toList();
    }
}

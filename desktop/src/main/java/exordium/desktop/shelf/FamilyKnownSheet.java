// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.board.FieldSource;
import exordium.desktop.desk.House;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.SaidText;
import exordium.jobs.family.Families;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** What is known of a family of boards, where it is from, and what nobody looked at; one field of it is said at a time. */
public final class FamilyKnownSheet extends FormSheet {
    private static final double LIST = 330;
    private static final int LONGEST = 70;

    private final String family;
    private final VBox unknown = new VBox(6);
    private final VBox known = new VBox(3);
    private final ComboBox<FamilyField> field = new ComboBox<>();
    private final TextField value = new TextField();
    private final Label how = Parts.paragraph("", "aside", "small");

    public FamilyKnownSheet(House house, BoardProfile profile, boolean own, Runnable close) {
        super(
                house,
                close,
                "What is known of " + profile.title(),
                own
                        ? "What nobody looked at is as in another family: it stops nothing, and says so. Say what you found out."
                        : "This family comes with the program. Describe one of your own like it to say something else of it.");
        this.family = profile.id();
        unknown.setId("family-unknown");
        known.setId("family-fields");
        field.setId("family-field");
        field.setConverter(new SaidText<>(FamilyField::code));
        field.valueProperty()
                .addListener((property, before, now) -> how.setText(now == null ? "" : now.howToFindOut()));
        value.setId("family-value");
        value.setPromptText("as it stands in its file");
        under(Parts.label("Not known, most useful first", "strong", "small"));
        under(scrolled(unknown));
        if (own) {
            field("Field", field);
            under(how);
            field("Is", value);
            deedIs("Say it");
        } else {
            deedIs("Close it");
        }
        besideIt();
        under(Parts.label("Known, and where it is from", "strong", "small"));
        under(scrolled(known));
        show(profile, own);
    }

    private static ScrollPane scrolled(VBox list) {
        ScrollPane pane = new ScrollPane(list);
        pane.setFitToWidth(true);
        pane.setPrefViewportHeight(LIST);
        Parts.followKeys(pane);
        return pane;
    }

    private void show(BoardProfile profile, boolean own) {
        List<FamilyField> missing = profile.from().unknownIn(profile);
        unknown.getChildren().clear();
        missing.forEach(each -> unknown.getChildren()
                .add(new VBox(
                        1,
                        Parts.label(
                                each.code()
                                        + each.in(profile)
                                                .map(said -> ": " + inShort(said) + ", "
                                                        + profile.source(each, "")
                                                                .said())
                                                .orElse(""),
                                "small",
                                "strong"),
                        Parts.paragraph(each.howToFindOut(), "small", "soft"))));
        if (missing.isEmpty()) {
            unknown.getChildren().add(Parts.paragraph("Nothing: all of it was looked at or told.", "small"));
        }
        known.getChildren().clear();
        for (FamilyField each : FamilyField.values()) {
            FieldSource source = profile.source(each, "its file");
            String from = own ? source.said() : "comes with the program";
            each.in(profile).filter(said -> !source.inherited()).ifPresent(said -> known.getChildren()
                    .add(Parts.hint(
                            Parts.paragraph(each.code() + ": " + inShort(said) + " (" + from + ")", "small"),
                            String.valueOf(said))));
        }
        field.getItems().setAll(FamilyField.values());
        field.setValue(missing.isEmpty() ? FamilyField.ORDER_USUAL : missing.get(0));
        value.clear();
    }

    private static String inShort(Object said) {
        String text = said instanceof List<?> list
                ? list.stream()
                        .map(each -> each instanceof BoardProfile.Port port ? port.id() : String.valueOf(each))
                        .collect(Collectors.joining(", "))
                : String.valueOf(said)
                        .replaceFirst("^[A-Z]\\w+\\[(.*)\\]$", "$1")
                        .replaceFirst("^\\{(.*)\\}$", "$1");
        return text.length() <= LONGEST ? text : text.substring(0, LONGEST) + " …";
    }

    @Override
    protected void carryOut() {
        Optional<FamilyField> chosen = Optional.ofNullable(field.getValue());
        String said = value.getText().strip();
        if (chosen.isEmpty() || said.isEmpty()) {
            close.run();
            return;
        }
        house.reading().problemProperty().set("");
        house.reading()
                .look(
                        () -> Families.of(house.workbench())
                                .told(family, Map.of(chosen.get().code(), said), FieldSource.told("its user")),
                        profile -> {
                            show(profile, true);
                            house.reading()
                                    .read(
                                            () -> {
                                                house.workbench().profilesChanged();
                                                return profile;
                                            },
                                            done -> house.facts().refresh());
                            value.requestFocus();
                        });
    }
}

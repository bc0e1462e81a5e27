// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Wish;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.drives.PluggedStrip;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Prospect;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The wishes there are, each with what it comes to here, and the ways to the one that is chosen. */
final class WishView extends HBox {
    private final House house;
    private final String id;
    private final ListView<Wish.Kind> wishes = new ListView<>();
    private final Map<Wish.Kind, Prospect.Offer> offers = new EnumMap<>(Wish.Kind.class);
    private final VBox chosen = new VBox(8);
    private final TextField value = new TextField();
    private final WaysView ways;
    private final PluggedStrip plugged;
    private OpenedBoard board;
    private Prospect prospect;
    private boolean closed;

    WishView(House house, String id, Consumer<PassageJob.Shown> begun) {
        super(18);
        this.house = house;
        this.id = id;
        this.ways = new WaysView(house, id, begun);
        this.plugged = PluggedStrip.brief(house);
        wishes.setId("wishes");
        wishes.setAccessibleText("What is wished for it");
        wishes.getItems().setAll(Wish.Kind.values());
        wishes.setCellFactory(list -> new WishCell());
        wishes.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> choose(now));
        value.setId("wish-value");
        value.setOnAction(event -> plan());
        wishes.getStyleClass().add("wishes");
        chosen.getChildren()
                .add(Parts.paragraph("Choose what you want of it; the ways there stand here then.", "aside"));
        getChildren().addAll(wishes, Parts.grow(chosen));
    }

    /** The board as it is now. */
    void board(OpenedBoard now) {
        board = now;
        ways.called(now.name());
    }

    /** Reads anew what plans are made from; what is chosen stays. */
    void read() {
        house.reading().look(() -> closed ? null : house.passages().prospect(id), read -> {
            if (!closed && read != null) {
                prospect = read;
                if (wishes.getSelectionModel().getSelectedItem() != null) {
                    plan();
                }
                offer(read, 0);
            }
        });
    }

    /** One after the other, so that what is asked for meanwhile has not to wait for all. */
    private void offer(Prospect from, int number) {
        if (closed || prospect != from || number >= Wish.Kind.values().length) {
            return;
        }
        house.reading().look(() -> closed ? null : from.offer(Wish.Kind.values()[number]), offer -> {
            if (!closed && prospect == from && offer != null) {
                if (!offer.equals(offers.put(offer.kind(), offer))) {
                    wishes.refresh();
                }
                offer(from, number + 1);
            }
        });
    }

    private void choose(Wish.Kind kind) {
        if (kind == null) {
            return;
        }
        ways.forget();
        value.clear();
        Node asked = asked(kind);
        chosen.getChildren().setAll(Parts.heading(Words.capital(kind.title()), ""), asked, Parts.grow(ways), plugged);
        plan();
    }

    /** What a wish needs beside its name. */
    private Node asked(Wish.Kind kind) {
        Button look = Parts.button("Look for ways", this::plan, "task");
        look.setId("wish-plan");
        Label label = Parts.label("", "soft");
        label.setLabelFor(value);
        switch (kind) {
            case ORDER -> {
                label.setText("The order, as the board stores it");
                value.setPromptText("such as " + board.at().profile().order().usual());
            }
            case BATCH -> {
                label.setText("How many cards");
                value.setPromptText(String.valueOf(Wish.CLASS));
            }
            default -> {
                Region nothing = new Region();
                nothing.setManaged(false);
                return nothing;
            }
        }
        value.setAccessibleText(label.getText());
        return Parts.row(10, label, value, look);
    }

    private void plan() {
        Wish.Kind kind = wishes.getSelectionModel().getSelectedItem();
        if (kind == null) {
            return;
        }
        String typed = value.getText().strip();
        if (kind == Wish.Kind.ORDER && typed.isEmpty()) {
            ways.say(Pennant.UNKNOWN, "Say which order; what it comes to on this board is rehearsed first.");
            return;
        }
        try {
            Wish wish = Wish.parse(kind.code() + (typed.isEmpty() ? "" : "=" + typed));
            ways.plan(prospect, wish);
        } catch (UnreadableInput e) {
            ways.say(Pennant.FAILING, Sentence.of(e));
        }
    }

    void close() {
        closed = true;
        ways.close();
        plugged.close();
    }

    /** A wish and what it comes to. */
    private final class WishCell extends ListCell<Wish.Kind> {
        @Override
        protected void updateItem(Wish.Kind kind, boolean empty) {
            super.updateItem(kind, empty);
            if (empty || kind == null) {
                setGraphic(null);
                return;
            }
            Optional<Prospect.Offer> offer = Optional.ofNullable(offers.get(kind));
            String words = offer.map(Words::of).orElse("…");
            Label name = Parts.label(Words.capital(kind.title()), "strong");
            Label comes = Parts.label(words, "small", "soft");
            comes.setMinWidth(0);
            name.setMinWidth(0);
            HBox line = new HBox(
                    6, new PennantGlyph(offer.map(Words::pennant).orElse(Pennant.UNKNOWN)), new VBox(name, comes));
            line.setAccessibleText(Words.capital(kind.title()) + ": " + words);
            line.setMaxWidth(wishes.getWidth() - 24);
            setGraphic(line);
            setId("wish-" + kind.code());
            setAccessibleText(line.getAccessibleText());
            List<String> reason =
                    offer.flatMap(Prospect.Offer::plan).map(PassagePlan::reason).filter(why -> !why.isEmpty()).stream()
                            .toList();
            setTooltip(reason.isEmpty() ? null : new javafx.scene.control.Tooltip(reason.get(0)));
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.core.storage.plan.HousePlan;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.jobs.storage.StorageQuestion;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Storage for all boards together: who keeps what, what moves where, what is to be bought. */
public final class StoragePlanView extends VBox implements Page {
    private final House house;
    private final VBox rows = new VBox();
    private final Label sum = Parts.label("", "heading");

    StoragePlanView(House house) {
        super(10);
        this.house = house;
        getStyleClass().add("page");
        HBox title = Parts.title(Place.Shelf.STORAGE_PLAN.title(), Place.Shelf.STORAGE_PLAN.hint(), sum);
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        sum.setId("plan-cost");
        getChildren().addAll(title, Parts.grow(scroll));
        facts();
    }

    @Override
    public Node root() {
        return this;
    }

    @Override
    public void facts() {
        house.reading().read(() -> new StorageQuestion(house.workbench()).house(), this::show);
    }

    private void show(HousePlan plan) {
        rows.getChildren().setAll(plan.rows().stream().map(this::row).toList());
        if (plan.rows().isEmpty()) {
            rows.getChildren()
                    .add(Parts.empty(
                            "empty-begin",
                            "There is no board to plan for yet. Each board stands here with the medium it keeps, gets from the drawer,"
                                    + " or has to be bought one for.",
                            Place.Form.NEW_BOARD.title(),
                            () -> house.navigation().go(Place.Form.NEW_BOARD)));
        }
        long bought = plan.rows().stream()
                .filter(row -> row.deed() == HousePlan.Advice.BUY)
                .count();
        sum.setText(
                bought == 0
                        ? "Nothing has to be bought."
                        : String.format(Locale.ROOT, "%d to buy, %.0f euros in all", bought, plan.cost()));
    }

    private Button row(HousePlan.Row row) {
        Pennant pennant =
                switch (row.deed()) {
                    case KEEP -> Pennant.SET;
                    case MOVE, BUY -> Pennant.DUE;
                    case NOTHING_FITS -> Pennant.FAILING;
                };
        String medium = row.medium().map(each -> each.medium().name()).orElse("");
        String deed =
                switch (row.deed()) {
                    case KEEP -> "keeps " + medium;
                    case MOVE -> "gets " + medium + " from the drawer";
                    case BUY ->
                        String.format(
                                Locale.ROOT,
                                "buy %s, %.0f euros",
                                medium,
                                row.medium().orElseThrow().price());
                    case NOTHING_FITS -> "nothing fits";
                };
        Label reason = Parts.label(row.reason(), "soft", "small");
        reason.setMinWidth(0);
        Button button = new Button();
        button.setGraphic(Parts.row(
                12,
                new PennantGlyph(pennant),
                Parts.cell(Parts.label(row.name(), "strong"), 150),
                Parts.cell(Parts.label(deed), 290),
                reason));
        button.getStyleClass().setAll("plan-row");
        button.setId("plan-" + row.board());
        button.setAccessibleText(row.name() + ": " + deed + ". " + row.reason());
        button.setOnAction(event -> house.navigation().go(new Place.Station(row.board(), Step.STORAGE)));
        return Parts.hint(button, row.reason());
    }
}

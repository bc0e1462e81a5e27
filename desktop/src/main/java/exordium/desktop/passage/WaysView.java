// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.daysheet.Pennant;
import exordium.core.passage.Deed;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.core.passage.Wish;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Prospect;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** Up to three ways side by side to one scale, the steps of the chosen one, what is counted as at hand, and its beginning. */
final class WaysView extends VBox {
    private final House house;
    private final String board;
    private final Consumer<PassageJob.Shown> begun;
    private String name = "";
    private Prospect prospect;
    private Wish wish;
    private PassagePlan.Given given = PassagePlan.Given.NOTHING;
    private PassagePlan shown;
    private int chosen;
    private boolean closed;

    WaysView(House house, String board, Consumer<PassageJob.Shown> begun) {
        super(8);
        this.house = house;
        this.board = board;
        this.begun = begun;
    }

    void called(String boardName) {
        name = boardName;
    }

    /** Another wish: nothing is said any more about what is at hand. */
    void forget() {
        given = PassagePlan.Given.NOTHING;
        chosen = 0;
        shown = null;
        getChildren().clear();
    }

    void close() {
        closed = true;
    }

    void say(Pennant pennant, String words) {
        shown = null;
        getChildren().setAll(Parts.row(8, new PennantGlyph(pennant), Parts.grow(Parts.paragraph(words))));
    }

    /** Where from: what is known of the house; null while that is read. */
    void plan(Prospect from, Wish wanted) {
        prospect = from;
        wish = wanted;
        if (shown == null) {
            getChildren().setAll(Parts.paragraph("Looking for ways …", "aside"));
        }
        if (from == null) {
            return;
        }
        PassagePlan.Given with = given;
        house.reading().look(() -> closed ? null : from.plan(wanted, with), plan -> {
            if (!closed && plan != null && wanted.equals(wish) && with.equals(given)) {
                show(plan);
            }
        });
    }

    private void show(PassagePlan plan) {
        if (plan.equals(shown)) {
            return;
        }
        shown = plan;
        chosen = Math.min(chosen, Math.max(0, plan.routes().size() - 1));
        Node owner = getScene() == null ? null : getScene().getFocusOwner();
        String focus = owner == null ? null : owner.getId();
        getChildren().clear();
        if (plan.routes().isEmpty()) {
            getChildren()
                    .add(Parts.row(
                            8,
                            new PennantGlyph(plan.possible() ? Pennant.PROVEN : Pennant.FAILING),
                            Parts.grow(Parts.paragraph(
                                    (plan.possible() ? "" : "There is no way now. ") + plan.reason()))));
            if (!plan.possible()) {
                getChildren().add(helps());
            }
            getChildren().add(counted());
        } else {
            double longest = plan.routes().stream()
                    .mapToDouble(each -> each.cost().minutes())
                    .max()
                    .orElse(1);
            for (int i = 0; i < plan.routes().size(); i++) {
                getChildren().add(way(i, plan.routes().get(i), longest));
            }
            getChildren().addAll(counted(), Parts.grow(steps()), foot());
        }
        Node again = focus == null ? null : lookup("#" + focus);
        if (again != null) {
            again.requestFocus();
        }
    }

    private Button way(int number, Route route, double longest) {
        String bought = route.buy().isEmpty()
                ? "nothing to buy"
                : "to buy: "
                        + String.join(
                                ", ", route.buy().stream().map(prospect::called).toList()) + ", "
                        + Words.euros(route.cost().euros());
        Button way = new Button();
        way.getStyleClass().setAll("candidate");
        if (number == chosen) {
            way.getStyleClass().add("here");
        }
        way.setId("way-" + (number + 1));
        way.setMaxWidth(Double.MAX_VALUE);
        VBox content = new VBox(
                3,
                Parts.row(
                        12,
                        Parts.whole(Parts.label("Way " + (number + 1), "strong")),
                        Parts.whole(Parts.label(route.cost().said(), "soft", "small")),
                        Parts.label(bought, "soft", "small")),
                Lanes.of(number + 1, route, longest));
        content.prefWidthProperty().bind(way.widthProperty().subtract(24));
        way.setGraphic(content);
        way.setAccessibleText("Way " + (number + 1) + ": " + route.cost().said() + ", " + bought);
        way.setOnAction(event -> {
            chosen = number;
            PassagePlan same = shown;
            shown = null;
            show(same);
        });
        return way;
    }

    private ScrollPane steps() {
        Route route = shown.routes().get(chosen);
        VBox list = new VBox(4);
        int number = 0;
        for (Step step : route.steps()) {
            list.getChildren().add(StepRow.planned(++number, step));
        }
        list.getChildren().add(Parts.paragraph("It ends so, as rehearsed: " + prospect.ended(route), "strong"));
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        scroll.setId("way-steps");
        scroll.setAccessibleText("The steps of way " + (chosen + 1));
        return scroll;
    }

    private Node foot() {
        Button begin = Parts.button("Begin way " + (chosen + 1), this::begin, "deed");
        begin.setId("passage-begin");
        return Parts.row(
                12,
                begin,
                Parts.label("Nothing is done yet: each step waits for you on the job card.", "aside", "small"));
    }

    private void begin() {
        mayBegin(false);
        PassagePlan.Given with = given;
        int route = chosen + 1;
        house.reading().read(() -> house.passages().start(board, wish, with, route), begun, () -> mayBegin(true));
    }

    private void mayBegin(boolean now) {
        Node begin = lookup("#passage-begin");
        if (begin != null) {
            begin.setDisable(!now);
        }
    }

    /** What the ways count on, and what would make them shorter. */
    private Node counted() {
        FlowPane things = new FlowPane(6, 4);
        for (String thing : given.with()) {
            things.getChildren()
                    .add(thing("counted-" + thing, prospect.called(thing) + " counted as here: undo", () -> {
                        given = given.with(thing, false);
                        again();
                    }));
        }
        for (String thing : given.without()) {
            things.getChildren().add(thing("left-" + thing, prospect.called(thing) + " left out: undo", () -> {
                given = given.without(thing, false);
                again();
            }));
        }
        for (PassagePlan.Missing missing : shown.missing()) {
            if (!given.without().contains(missing.thing())) {
                String gain = missing.wouldSaveMinutes()
                        .map(minutes -> Math.max(1, Math.round(minutes)) + " min less")
                        .orElse("then there is a way");
                things.getChildren()
                        .add(thing(
                                "with-" + missing.thing(),
                                "With " + prospect.called(missing.thing()) + ": " + gain,
                                () -> {
                                    given = given.with(missing.thing(), true);
                                    again();
                                }));
            }
        }
        for (String thing : used()) {
            boolean here = prospect.here(thing);
            things.getChildren()
                    .add(thing(
                            (here ? "without-" : "with-") + thing,
                            here ? "Without " + prospect.called(thing) : prospect.called(thing) + " is here",
                            () -> {
                                given = here ? given.without(thing, true) : given.with(thing, true);
                                again();
                            }));
        }
        if (things.getChildren().isEmpty()) {
            things.setManaged(false);
        } else {
            things.getChildren().add(0, Parts.label("Counted on:", "soft", "small"));
        }
        return things;
    }

    private Set<String> used() {
        Set<String> used = new LinkedHashSet<>();
        if (!shown.routes().isEmpty()) {
            Route route = shown.routes().get(chosen);
            for (Step step : route.steps()) {
                used.addAll(step.needs());
            }
            used.addAll(route.buy());
            route.steps().stream()
                    .filter(step -> step.deed() == Deed.TAKE_OUT)
                    .flatMap(step -> step.medium().stream())
                    .forEach(used::remove);
        }
        used.removeAll(given.with());
        return new TreeSet<>(used);
    }

    private static Button thing(String id, String words, Runnable deed) {
        Button button = Parts.button(words, deed, "quiet", "small");
        button.setId(id);
        return button;
    }

    private void again() {
        plan(prospect, wish);
    }

    /** Where one goes for what is missing. */
    private Node helps() {
        List<Node> ways = new ArrayList<>();
        switch (wish.kind()) {
            case NEW_BOARD, SEVERAL_SYSTEMS, BATCH -> {
                ways.add(help("help-image", Place.Form.SHELVE_IMAGE.title(), Place.Form.SHELVE_IMAGE));
                ways.add(help("help-media", "See the media", Place.Shelf.MEDIA));
            }
            case FIRMWARE, REVIVE ->
                ways.add(help("help-release", Place.Form.ADD_RELEASE.title(), Place.Form.ADD_RELEASE));
            case NETWORK -> ways.add(help("help-network", Place.Form.NETWORK_START.title(), Place.Form.NETWORK_START));
            case PUT_BACK ->
                ways.add(help(
                        "help-copies",
                        "Make a copy of " + name,
                        new Place.Station(board, exordium.core.finding.Step.COPIES)));
            case ORDER, READ_ONLY ->
                ways.add(help(
                        "help-rehearsal",
                        "See why it does not start",
                        new Place.Station(board, exordium.core.finding.Step.REHEARSAL)));
            default -> ways.add(help("help-media", "See the media", Place.Shelf.MEDIA));
        }
        return Parts.row(8, ways.toArray(Node[]::new));
    }

    private Button help(String id, String words, Place to) {
        Button button = Parts.button(words, () -> house.navigation().go(to), "task");
        button.setId(id);
        return button;
    }
}

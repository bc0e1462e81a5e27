// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.schedule.Retention;
import exordium.core.finding.Finding;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
import exordium.core.passage.Weights;
import exordium.core.storage.judgement.Reliability;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Gradual;
import exordium.desktop.part.Page;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.bench.HouseRules;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** House rules: what the user decides once, each with the default and its reason. */
public final class RulesView extends VBox implements Page {
    private static final int ROWS_A_FRAME = 1;

    private final House house;
    private final HouseRules rules;
    private final Label vault = Parts.label("");

    RulesView(House house) {
        super(10);
        this.house = house;
        this.rules = house.facts().rules();
        getStyleClass().add("page");
        HBox title = Parts.title(
                "House rules",
                "decided once, counted everywhere; where practitioners differ, the reason stands beside");
        VBox all = new VBox(8);
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        Parts.followKeys(scroll);
        getChildren().addAll(title, Parts.grow(scroll));
        Gradual.fill(all, rows(), ROWS_A_FRAME, () -> {});
    }

    /** A row of the table: a rule with what may be chosen, and the default with its reason. */
    private Supplier<Node> rule(String what, String reason, Node... choices) {
        return () -> Parts.row(
                14,
                Parts.cell(Parts.label(what), 220),
                Parts.cell(new HBox(6, choices), 250),
                Parts.label(reason, "aside", "small"));
    }

    private List<Supplier<Node>> rows() {
        CopyRule copies = rules.copyRule();
        Retention kept = rules.retention();
        Weights weights = rules.weights();
        return List.of(
                () -> Parts.heading("Copies", ""),
                rule(
                        "A board is copied every",
                        "30 days, so that little is lost and it is done; 90 when lightly used: what hardly changes is hardly lost.",
                        number("copy-days", copies.days(), " days", this::copyDays, 7, 14, 30, 60, 90),
                        number(
                                "copy-days-light",
                                copies.daysWhenLightlyUsed(),
                                " lightly used",
                                this::copyDaysLight,
                                30,
                                60,
                                90,
                                180)),
                rule(
                        "A risk makes a copy due sooner",
                        "Yes. A medium near its end, much that is written, little that may be lost: each halves the days or more.",
                        yesOrNo("copy-risk", copies.byRisk(), "yes", "no", this::byRisk)),
                rule(
                        "Due copies, and media to be fetched",
                        "By themselves while this is open, where the medium is here; of others it reminds once a day.",
                        yesOrNo("due-runs", rules.dueRuns(), "by themselves", "wait for me", rules::dueRuns),
                        yesOrNo("reminders", rules.reminders(), "remind", "silent", rules::reminders)),
                rule(
                        "A dead medium comes back from",
                        "A copy. What took work to set up is not set up twice.",
                        choice("way-back", rules.wayBack(), WayBack::title, rules::wayBack, List.of(WayBack.values()))),
                rule(
                        "Of its copies are kept",
                        "3 and 3. One of them may be broken, and the one before a change is the way back from it.",
                        number("keep-last", kept.last(), " newest", keep(Retention::withLast), 1, 2, 3, 5, 10),
                        number(
                                "keep-changes",
                                kept.changes(),
                                " before changes",
                                keep(Retention::withChanges),
                                0,
                                1,
                                3,
                                5)),
                rule(
                        "And one a month, one a year for",
                        "6 and 2. What broke quietly is often seen months later; what is shared costs little.",
                        number("keep-months", kept.months(), " months", keep(Retention::withMonths), 0, 3, 6, 12),
                        number("keep-years", kept.years(), " years", keep(Retention::withYears), 0, 1, 2, 5)),
                rule(
                        "The vault lies",
                        "In the workspace. On another drive or a share, copies outlive this machine.",
                        vaultPlace()),
                () -> Parts.heading("Storage", ""),
                rule(
                        "No card smaller than",
                        "16 GB. One school says 8 will do for a small system, one says never under 32 for long use.",
                        number("smallest", rules.smallestLabel(), " GB", rules::smallestLabel, 8, 16, 32)),
                rule(
                        "NVMe runs at PCIe",
                        "2.0. It is what such boards are rated for; 3.0 reads faster in one piece, at your own risk.",
                        number("pcie", rules.pcie(), ".0", rules::pcie, 2, 3)),
                rule(
                        "Reliability comes by",
                        "By role. An SSD where much is written, read-only where nothing changes, copies everywhere.",
                        choice(
                                "reliability",
                                rules.reliability(),
                                Reliability::title,
                                rules::reliability,
                                List.of(Reliability.values()))),
                rule(
                        "Left free behind a grown partition",
                        "1 %. The next card of the same label may be a little smaller, and flash likes room.",
                        number("free-tail", rules.freeTail(), " %", rules::freeTail, 0, 1, 2, 5, 10)),
                () -> Parts.heading("Setting up and starting", ""),
                rule(
                        "Settings are made",
                        "When it is written. Then neither monitor nor keyboard is needed.",
                        choice(
                                "set-up-at",
                                rules.setUpAt(),
                                SetUpAt::title,
                                rules::setUpAt,
                                List.of(SetUpAt.values()))),
                rule(
                        "Firmware follows channel",
                        "Default, the proven one. New boards follow it; a board that follows another says so.",
                        choice(
                                "channel",
                                rules.channel(),
                                Channel::code,
                                rules::channel,
                                List.of(Channel.DEFAULT, Channel.LATEST))),
                rule(
                        "Tried first",
                        "The card keeps a rescue way in; a fast drive saves seconds and survives a forgotten card.",
                        choice(
                                "first-tried",
                                rules.firstTried(),
                                FirstTried::title,
                                rules::firstTried,
                                List.of(FirstTried.values()))),
                () -> Parts.heading("Passages", "what counts how much when the ways to a wish are compared"),
                rule(
                        "Opening the box counts as",
                        "10 minutes. A box is opened once rather than ten minutes saved.",
                        number(
                                "weigh-opening",
                                (int) weights.opening(),
                                " minutes",
                                this::weighOpening,
                                0,
                                5,
                                10,
                                20,
                                60)),
                rule(
                        "A euro, and 10 GB written, in minutes",
                        "3 and 2. What lies in the drawer is used before anything is bought; flash wears.",
                        number("weigh-euro", (int) weights.euro(), " a euro", this::weighEuro, 0, 1, 3, 10),
                        number("weigh-wear", (int) weights.wear(), " for 10 GB", this::weighWear, 0, 2, 5, 20)),
                () -> Parts.heading("Drives of this machine", ""),
                this::realDrives);
    }

    @Override
    public Node root() {
        return this;
    }

    /** What is set here is what there is; the vault may have been moved meanwhile. */
    @Override
    public void facts() {
        house.reading().read(() -> house.workbench().standing().place(), place -> {
            vault.setText(place.map(Path::toString).orElse("in the workspace"));
            vault.setTooltip(new Tooltip(vault.getText()));
        });
    }

    private Node vaultPlace() {
        Button move = Parts.button("Elsewhere …", () -> house.navigation().go(Place.Form.VAULT_PLACE), "small");
        move.setId("rule-vault");
        move.setAccessibleText(Place.Form.VAULT_PLACE.title());
        vault.setId("vault-where");
        facts();
        return Parts.row(8, Parts.grow(vault), move);
    }

    private Consumer<Integer> keep(BiFunction<Retention, Integer, Retention> with) {
        return chosen -> rules.retention(with.apply(rules.retention(), chosen));
    }

    private void copyDays(int days) {
        CopyRule rule = rules.copyRule();
        rules.copyRule(new CopyRule(days, rule.daysWhenLightlyUsed(), rule.byRisk()));
    }

    private void copyDaysLight(int days) {
        CopyRule rule = rules.copyRule();
        rules.copyRule(new CopyRule(rule.days(), days, rule.byRisk()));
    }

    private void weighOpening(int minutes) {
        Weights now = rules.weights();
        rules.weights(new Weights(minutes, now.euro(), now.wear()));
    }

    private void weighEuro(int minutes) {
        Weights now = rules.weights();
        rules.weights(new Weights(now.opening(), minutes, now.wear()));
    }

    private void weighWear(int minutes) {
        Weights now = rules.weights();
        rules.weights(new Weights(now.opening(), now.euro(), minutes));
    }

    private void byRisk(boolean yes) {
        CopyRule rule = rules.copyRule();
        rules.copyRule(new CopyRule(rule.days(), rule.daysWhenLightlyUsed(), yes));
    }

    private Node yesOrNo(String id, boolean now, String yes, String no, Consumer<Boolean> keep) {
        return choice(id, now, each -> each ? yes : no, keep, List.of(true, false));
    }

    private Node number(String id, int now, String unit, Consumer<Integer> keep, Integer... offered) {
        return choice(id, now, number -> number + unit, keep, List.of(offered));
    }

    private <T> Node choice(String id, T now, Function<T, String> words, Consumer<T> keep, List<T> offered) {
        ComboBox<T> box = new ComboBox<>();
        box.setId("rule-" + id);
        box.getItems().setAll(offered);
        if (!box.getItems().contains(now)) {
            box.getItems().add(now);
        }
        WordCell.in(box, words);
        box.setValue(now);
        box.setMaxWidth(Double.MAX_VALUE);
        box.valueProperty().addListener((property, before, chosen) -> {
            keep.accept(chosen);
            house.facts().refresh();
        });
        return Parts.whole(box);
    }

    private Node realDrives() {
        CheckBox allow = new CheckBox("Allow writing to drives of this machine");
        allow.setId("rule-real-drives");
        allow.setSelected(rules.realDrives());
        Optional<Finding> notReached = house.targets().notReached();
        if (notReached.isPresent()) {
            allow.setDisable(true);
            return new VBox(6, allow, Parts.paragraph(notReached.get().text(), "soft", "small"));
        }
        allow.selectedProperty().addListener((property, before, now) -> {
            rules.realDrives(now);
            house.facts().refresh();
        });
        return new VBox(
                6,
                allow,
                Parts.paragraph(
                        "Off until you say so. Virtual drives and image files always work. Even when it is on, a drive that holds the running system, "
                                + "is mounted, is swap or holds a workspace is refused, and the target's own name has to be typed. Writing erases.",
                        "soft",
                        "small"));
    }
}

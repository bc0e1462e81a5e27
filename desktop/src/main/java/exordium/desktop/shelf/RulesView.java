// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.bootorder.FirstTried;
import exordium.core.copies.care.WayBack;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.copies.schedule.Retention;
import exordium.core.finding.Finding;
import exordium.core.firmware.Channel;
import exordium.core.firststart.SetUpAt;
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
        HBox title = Parts.row(
                12,
                Parts.label("House rules", "title"),
                Parts.label(
                        "decided once, counted everywhere; where practitioners differ, the reason stands beside",
                        "aside"));
        title.setAlignment(javafx.geometry.Pos.BASELINE_LEFT);
        VBox all = new VBox(8);
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setFocusTraversable(false);
        Parts.followKeys(scroll);
        getChildren().addAll(title, Parts.grow(scroll));
        Gradual.fill(all, rows(), ROWS_A_FRAME, () -> {});
    }

    private List<Supplier<Node>> rows() {
        return List.of(
                () -> Parts.heading("Copies", ""),
                () -> rule(
                        "A board is copied every",
                        Parts.row(
                                6,
                                Parts.whole(days(
                                        "rule-copy-days",
                                        List.of(7, 14, 30, 60, 90),
                                        rules.copyRule().days(),
                                        true)),
                                Parts.whole(days(
                                        "rule-copy-days-light",
                                        List.of(30, 60, 90, 180),
                                        rules.copyRule().daysWhenLightlyUsed(),
                                        false))),
                        "30 days, so that little is lost and it is done; 90 when lightly used: what hardly changes is hardly lost."),
                () -> rule(
                        "A risk makes a copy due sooner",
                        choice(
                                "rule-copy-risk",
                                List.of(true, false),
                                rules.copyRule().byRisk(),
                                yes -> yes ? "yes" : "no",
                                this::byRisk),
                        "Yes. A medium near its end, much that is written, little that may be lost: each halves the days or more."),
                () -> rule(
                        "Due copies, and media to be fetched",
                        Parts.row(
                                6,
                                Parts.whole(choice(
                                        "rule-due-runs",
                                        List.of(true, false),
                                        rules.dueRuns(),
                                        yes -> yes ? "by themselves" : "wait for me",
                                        rules::dueRuns)),
                                Parts.whole(choice(
                                        "rule-reminders",
                                        List.of(true, false),
                                        rules.reminders(),
                                        yes -> yes ? "remind" : "silent",
                                        rules::reminders))),
                        "By themselves while this is open, where the medium is here; of others it reminds once a day."),
                () -> rule(
                        "A dead medium comes back from",
                        choice(
                                "rule-way-back",
                                List.of(WayBack.values()),
                                rules.wayBack(),
                                WayBack::title,
                                rules::wayBack),
                        "A copy. What took work to set up is not set up twice."),
                () -> rule(
                        "Of its copies are kept",
                        Parts.row(
                                6,
                                kept(
                                        "last",
                                        List.of(1, 2, 3, 5, 10),
                                        " newest",
                                        Retention::last,
                                        (rule, count) ->
                                                new Retention(count, rule.months(), rule.years(), rule.changes())),
                                kept(
                                        "changes",
                                        List.of(0, 1, 3, 5),
                                        " before changes",
                                        Retention::changes,
                                        (rule, count) ->
                                                new Retention(rule.last(), rule.months(), rule.years(), count))),
                        "3 and 3. One of them may be broken, and the one before a change is the way back from it."),
                () -> rule(
                        "And one a month, one a year for",
                        Parts.row(
                                6,
                                kept(
                                        "months",
                                        List.of(0, 3, 6, 12),
                                        " months",
                                        Retention::months,
                                        (rule, count) ->
                                                new Retention(rule.last(), count, rule.years(), rule.changes())),
                                kept(
                                        "years",
                                        List.of(0, 1, 2, 5),
                                        " years",
                                        Retention::years,
                                        (rule, count) ->
                                                new Retention(rule.last(), rule.months(), count, rule.changes()))),
                        "6 and 2. What broke quietly is often seen months later; what is shared costs little."),
                () -> rule(
                        "The vault lies",
                        vaultPlace(),
                        "In the workspace. On another drive or a share, copies outlive this machine."),
                () -> Parts.heading("Storage", ""),
                () -> rule(
                        "No card smaller than",
                        number("rule-smallest", List.of(8, 16, 32), rules.smallestLabel(), " GB", rules::smallestLabel),
                        "16 GB. One school says 8 will do for a small system, one says never under 32 for long use."),
                () -> rule(
                        "NVMe runs at PCIe",
                        number("rule-pcie", List.of(2, 3), rules.pcie(), ".0", rules::pcie),
                        "2.0. It is what such boards are rated for; 3.0 reads faster in one piece, at your own risk."),
                () -> rule(
                        "Reliability comes by",
                        choice(
                                "rule-reliability",
                                List.of(Reliability.values()),
                                rules.reliability(),
                                Reliability::title,
                                rules::reliability),
                        "By role. An SSD where much is written, read-only where nothing changes, copies everywhere."),
                () -> rule(
                        "Left free behind a grown partition",
                        number("rule-free-tail", List.of(0, 1, 2, 5, 10), rules.freeTail(), " %", rules::freeTail),
                        "1 %. The next card of the same label may be a little smaller, and flash likes room."),
                () -> Parts.heading("Setting up and starting", ""),
                () -> rule(
                        "Settings are made",
                        choice(
                                "rule-set-up-at",
                                List.of(SetUpAt.values()),
                                rules.setUpAt(),
                                SetUpAt::title,
                                rules::setUpAt),
                        "When it is written. Then neither monitor nor keyboard is needed."),
                () -> rule(
                        "Firmware follows channel",
                        choice(
                                "rule-channel",
                                List.of(Channel.DEFAULT, Channel.LATEST),
                                rules.channel(),
                                Channel::code,
                                rules::channel),
                        "Default, the proven one. New boards follow it; a board that follows another says so."),
                () -> rule(
                        "Tried first",
                        choice(
                                "rule-first-tried",
                                List.of(FirstTried.values()),
                                rules.firstTried(),
                                FirstTried::title,
                                rules::firstTried),
                        "The card keeps a rescue way in; a fast drive saves seconds and survives a forgotten card."),
                () -> Parts.heading("Drives of this machine", ""),
                () -> realDrives());
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

    private static Node rule(String what, Node control, String reason) {
        return Parts.row(
                14,
                Parts.cell(Parts.label(what), 220),
                Parts.cell(new HBox(control), 250),
                Parts.label(reason, "aside", "small"));
    }

    private Node vaultPlace() {
        Button move = Parts.button("Elsewhere …", () -> house.navigation().go(Place.Form.VAULT_PLACE), "small");
        move.setId("rule-vault");
        move.setAccessibleText(Place.Form.VAULT_PLACE.title());
        vault.setId("vault-where");
        facts();
        return Parts.row(8, Parts.grow(vault), move);
    }

    private ComboBox<Integer> kept(
            String part,
            List<Integer> offered,
            String unit,
            Function<Retention, Integer> now,
            BiFunction<Retention, Integer, Retention> with) {
        return Parts.whole(number(
                "rule-keep-" + part,
                offered,
                now.apply(rules.retention()),
                unit,
                chosen -> rules.retention(with.apply(rules.retention(), chosen))));
    }

    private ComboBox<Integer> days(String id, List<Integer> offered, int now, boolean usual) {
        return number(id, offered, now, usual ? " days" : " lightly used", chosen -> {
            CopyRule rule = rules.copyRule();
            rules.copyRule(
                    usual
                            ? new CopyRule(chosen, rule.daysWhenLightlyUsed(), rule.byRisk())
                            : new CopyRule(rule.days(), chosen, rule.byRisk()));
        });
    }

    private void byRisk(boolean yes) {
        CopyRule rule = rules.copyRule();
        rules.copyRule(new CopyRule(rule.days(), rule.daysWhenLightlyUsed(), yes));
    }

    private ComboBox<Integer> number(String id, List<Integer> offered, int now, String unit, Consumer<Integer> keep) {
        return choice(id, offered, now, number -> number + unit, keep);
    }

    private <T> ComboBox<T> choice(String id, List<T> offered, T now, Function<T, String> words, Consumer<T> keep) {
        ComboBox<T> box = new ComboBox<>();
        box.setId(id);
        box.getItems().setAll(offered);
        if (!offered.contains(now)) {
            box.getItems().add(now);
        }
        WordCell.in(box, words);
        box.setValue(now);
        box.setMaxWidth(Double.MAX_VALUE);
        box.valueProperty().addListener((property, before, chosen) -> {
            keep.accept(chosen);
            house.facts().refresh();
        });
        return box;
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

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.drives;

import exordium.core.daysheet.Pennant;
import exordium.core.storage.media.MediumKind;
import exordium.desktop.desk.CopyRequests;
import exordium.desktop.desk.DriveWatch;
import exordium.desktop.desk.House;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.copies.schedule.Homecoming;
import exordium.jobs.media.OpenedSource;
import exordium.jobs.media.PluggedIn;
import exordium.store.Media;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;

/** Drives plugged into this machine now: known ones by name, others with what takes them into the register. */
public final class PluggedStrip extends VBox {
    private final House house;
    private final DriveWatch watch;
    private final Optional<Consumer<OpenedSource.Subject>> inside;
    private final boolean brief;
    private final Subscription plugged;
    private final Map<Shown, Node> rows = new LinkedHashMap<>();
    private final Map<String, Home> homes = new HashMap<>();
    private final Optional<Node> notReached;
    private List<PluggedIn.NotUsable> without = List.of();

    /** By what a row is told apart from others; what else a drive tells changes with every write to it. */
    private record Shown(String drive, Optional<String> medium, List<String> alike) {}

    /** All of them, each with what is in it at one press. */
    public static PluggedStrip whole(House house, Consumer<OpenedSource.Subject> inside) {
        return new PluggedStrip(house, Optional.of(inside), false);
    }

    /** Those alone that could be used: what is new here, and what only a house rule refuses. */
    public static PluggedStrip brief(House house) {
        return new PluggedStrip(house, Optional.empty(), true);
    }

    private PluggedStrip(House house, Optional<Consumer<OpenedSource.Subject>> inside, boolean brief) {
        super(6);
        this.inside = inside;
        this.brief = brief;
        this.house = house;
        this.watch = house.drives();
        setId("plugged");
        this.notReached = house.targets().notReached().map(why -> Parts.paragraph(why.text(), "soft", "small"));
        plugged = watch.pluggedProperty()
                .subscribe(() -> show())
                .and(watch.refusedProperty().subscribe(() -> show()));
        show();
    }

    public void close() {
        plugged.unsubscribe();
    }

    /** New facts: a medium that was copied is due on another day. */
    public void facts() {
        homes.forEach((medium, home) -> home.read());
    }

    /** What stays plugged in keeps its row, and whoever is at it is not disturbed. */
    private void show() {
        List<PluggedIn.Plugged> there = watch.pluggedProperty().get().stream()
                .filter(each -> !brief || each.medium().isEmpty())
                .toList();
        List<PluggedIn.NotUsable> refused = watch.refusedProperty().get().stream()
                .filter(each -> !brief || each.byRule())
                .toList();
        Map<Shown, Node> kept = new HashMap<>(rows);
        rows.clear();
        homes.keySet()
                .retainAll(there.stream()
                        .flatMap(each -> each.medium().stream().map(Media.Medium::id))
                        .toList());
        there.forEach(each -> {
            Shown key = new Shown(each.id(), each.medium().map(Media.Medium::id), each.alike());
            rows.put(key, kept.containsKey(key) ? kept.get(key) : row(each));
        });
        List<Node> all = new ArrayList<>();
        if (!there.isEmpty() || !refused.isEmpty()) {
            all.add(Parts.heading("Plugged in now", "drives of this machine"));
            all.addAll(rows.values());
            refused.forEach(each -> all.add(row(each)));
        }
        notReached.ifPresent(all::add);
        setManaged(!all.isEmpty());
        setVisible(!all.isEmpty());
        if (!getChildren().containsAll(rows.values())
                || getChildren().size() != all.size()
                || !refused.equals(without)) {
            without = refused;
            getChildren().setAll(all);
        }
    }

    private Node row(PluggedIn.NotUsable each) {
        Label why = Parts.label(brief ? "" : each.why(), "soft", "small");
        why.setMinWidth(0);
        Label refused = Parts.label(each.model().isEmpty() ? "refused" : each.model() + ", refused", "strong");
        refused.setMinWidth(Region.USE_PREF_SIZE);
        HBox row = Parts.row(
                8,
                new PennantGlyph(Pennant.UNKNOWN),
                Parts.cell(Parts.label(each.id() + ", " + each.size().said(), "figure", "soft"), 130),
                refused,
                Parts.grow(why));
        if (each.byRule()) {
            Button allow = Parts.button(
                    brief ? "Allow this machine's drives" : "Allow writing to drives of this machine",
                    () -> {
                        house.facts().rules().realDrives(true);
                        house.facts().refresh();
                    },
                    "task",
                    "small");
            allow.setId("plugged-allow-" + each.id());
            row.getChildren().add(allow);
        }
        return Parts.hint(row, each.why());
    }

    private Node row(PluggedIn.Plugged each) {
        Node what =
                Parts.cell(Parts.label(each.id() + ", " + each.drive().size().said(), "figure"), 130);
        if (each.medium().isPresent()) {
            return Parts.row(
                    8,
                    new PennantGlyph(Pennant.SET),
                    what,
                    Parts.label(each.title(), "strong"),
                    homecoming(each.medium().get()),
                    deeds(each));
        }
        TextField name = new TextField(each.guess().name());
        name.setId("plugged-name-" + each.id());
        name.setAccessibleText("What " + each.id() + " is called");
        ComboBox<MediumKind> kind = new ComboBox<>();
        kind.setId("plugged-kind-" + each.id());
        WordCell.in(kind, MediumKind::title);
        kind.getItems().setAll(house.workbench().media().kinds());
        kind.setValue(each.guess().kind());
        Button take = Parts.button(
                "Take it into the register",
                () -> watch.takeIn(each, name.getText(), kind.getValue().id()),
                "task");
        take.setId("plugged-take-" + each.id());
        HBox row = Parts.row(8, new PennantGlyph(Pennant.UNKNOWN), what, name, kind, take, deeds(each));
        return each.alike().isEmpty()
                ? row
                : Parts.column(
                        2,
                        row,
                        Parts.paragraph(
                                "It could be " + String.join(" or ", each.alike())
                                        + ", which hold the same identifier; neither is taken for it. Give one of them another.",
                                "alarm",
                                "small"));
    }

    private Node homecoming(Media.Medium medium) {
        Home home = new Home(medium);
        homes.put(medium.id(), home);
        home.read();
        return home;
    }

    /** Whose it is, what is due for it, and the copy at one press; read beside the window. */
    private final class Home extends HBox {
        private final Media.Medium medium;
        private Optional<Homecoming> shown = Optional.empty();

        Home(Media.Medium medium) {
            super(8, Parts.label("known; at home at " + medium.place(), "soft", "small"));
            this.medium = medium;
            setAlignment(Pos.CENTER_LEFT);
        }

        void read() {
            house.reading().look(() -> Homecoming.of(house.workbench(), house.sheets(), medium), found -> found.filter(
                            home -> !found.equals(shown))
                    .ifPresent(this::show));
        }

        private void show(Homecoming home) {
            shown = Optional.of(home);
            Button copy = Parts.button(
                    home.deed(),
                    () -> house.jobs()
                            .start(
                                    CopyRequests.copy(
                                            house,
                                            "Copying " + medium.name() + " of " + home.name(),
                                            home.board(),
                                            medium.file()),
                                    done -> house.reading().say("Copied and proven. " + home.back())),
                    home.due().overdue() ? "deed" : "quiet",
                    "small");
            copy.setId("plugged-copy-" + medium.id());
            copy.disableProperty().bind(house.jobs().held(Set.of(medium.file())));
            getChildren()
                    .setAll(
                            Parts.hint(
                                    Parts.label(home.sentence(), home.due().overdue() ? "strong" : "soft", "small"),
                                    home.back()),
                            copy);
        }
    }

    private HBox deeds(PluggedIn.Plugged each) {
        HBox deeds = Parts.row(8);
        inside.ifPresent(open -> {
            Button look =
                    Parts.button("Look inside", () -> open.accept(OpenedSource.Subject.of(each)), "quiet", "small");
            look.setId("plugged-inside-" + each.id());
            deeds.getChildren().add(look);
        });
        deeds.getChildren().add(letGo(each));
        return deeds;
    }

    /** Unmounts and ejects, so that it can be unplugged or written. */
    private Button letGo(PluggedIn.Plugged each) {
        Button button = Parts.button("Let it go", () -> watch.letGo(each), "quiet", "small");
        button.setId("plugged-let-go-" + each.id());
        return Parts.hint(button, "Unmounts it and ejects it, so that it can be unplugged.");
    }
}

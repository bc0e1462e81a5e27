// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.storage;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.Setting;
import exordium.core.storage.judgement.SystemKind;
import exordium.core.storage.judgement.WriteHabit;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import java.util.function.Consumer;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.layout.VBox;

/** What the board is for, in its user's words and as numbers that move; each movement gives a new role. */
public final class RoleSliders extends VBox {
    /** Sliders of bytes go by powers: from nothing over this least to the most. */
    private static final double LEAST_DAILY = 0.02;

    private static final double MOST_DAILY = 60;
    private static final double LEAST_DATA = 0.5;
    private static final double MOST_DATA = 900;

    private final Consumer<UnaryOperator<Role>> change;
    private Slider daily;

    /** Where change: applies a change to the role and shows what comes of it. */
    RoleSliders(Role role, Consumer<UnaryOperator<Role>> change) {
        super(5);
        this.change = change;
        getStyleClass().add("role");
        ComboBox<SystemKind> system = box("role-system", SystemKind.values(), role.system(), SystemKind::title);
        system.valueProperty().addListener((property, before, now) -> change.accept(was -> was.withSystem(now)));
        ComboBox<WriteHabit> habit = box("role-habit", WriteHabit.values(), role.habit(), WriteHabit::title);
        habit.valueProperty().addListener((property, before, now) -> {
            change.accept(was -> was.withHabit(now));
            daily.setValue(share(now.usual().bytes() / 1e9, LEAST_DAILY, MOST_DAILY));
        });
        ComboBox<Setting> place = box("role-place", Setting.values(), role.place(), Setting::title);
        place.valueProperty().addListener((property, before, now) -> change.accept(was -> was.withPlace(now)));
        getChildren().addAll(Parts.heading("What it is for", ""), system, habit, place);
        daily = slider(
                "role-daily",
                "written a day",
                share(role.dailyWrites().bytes() / 1e9, LEAST_DAILY, MOST_DAILY),
                1,
                at -> bytes(at, LEAST_DAILY, MOST_DAILY).said(),
                at -> was -> was.withDailyWrites(bytes(at, LEAST_DAILY, MOST_DAILY)));
        slider(
                "role-data",
                "data now",
                share(role.data().bytes() / 1e9, LEAST_DATA, MOST_DATA),
                1,
                at -> bytes(at, LEAST_DATA, MOST_DATA).said(),
                at -> was -> was.withData(bytes(at, LEAST_DATA, MOST_DATA)));
        slider(
                "role-growth",
                "more each year",
                share(role.growth().bytes() / 1e9, LEAST_DATA, MOST_DATA / 4),
                1,
                at -> bytes(at, LEAST_DATA, MOST_DATA / 4).said(),
                at -> was -> was.withGrowth(bytes(at, LEAST_DATA, MOST_DATA / 4)));
        slider(
                "role-years",
                "years it is to last",
                role.years(),
                15,
                at -> Math.max(1, Math.round(at)) + " years",
                at -> was -> was.withYears((int) Math.max(1, Math.round(at))));
        slider(
                "role-budget",
                "budget",
                role.budget(),
                120,
                at -> Math.round(at) == 0 ? "none set" : Math.round(at) + " euros",
                at -> was -> was.withBudget(Math.round(at)));
        slider(
                "role-ports",
                "fast ports for other things",
                role.portsNeeded(),
                4,
                at -> String.valueOf(Math.round(at)),
                at -> was -> was.withPortsNeeded((int) Math.round(at)));
        slider(
                "role-hours",
                "hours a day it runs",
                role.hoursADay(),
                24,
                at -> Math.round(at) + " h",
                at -> was -> was.withHoursADay(Math.round(at)));
        slider(
                "role-lost",
                "days one may lose",
                role.lostDays(),
                90,
                at -> Span.days(Math.round(at)),
                at -> was -> was.withLostDays((int) Math.round(at)));
        check("role-quick", "seconds at the start matter", role.quickStart(), on -> was -> was.withQuickStart(on));
        check(
                "role-reach",
                "the card slot can be reached",
                role.slotReachable(),
                on -> was -> was.withSlotReachable(on));
        check("role-overlay", "read-only overlay", role.overlay(), on -> was -> was.withOverlay(on));
        check("role-logs", "logs kept in memory", role.logsInMemory(), on -> was -> was.withLogsInMemory(on));
        check("role-server", "a server for roots is there", role.server(), on -> was -> was.withServer(on));
    }

    private static <T> ComboBox<T> box(String id, T[] values, T now, Function<T, String> words) {
        ComboBox<T> box = new ComboBox<>();
        box.getItems().setAll(values);
        box.setId(id);
        WordCell.in(box, words);
        box.setValue(now);
        box.setMaxWidth(Double.MAX_VALUE);
        return box;
    }

    private Slider slider(
            String id,
            String name,
            double value,
            double most,
            DoubleFunction<String> words,
            DoubleFunction<UnaryOperator<Role>> move) {
        Label figure = Parts.label(words.apply(value), "figure");
        Slider slider = new Slider(0, most, value);
        slider.setId(id);
        slider.setAccessibleText(name);
        slider.setBlockIncrement(most / 20);
        slider.valueProperty().addListener((property, before, now) -> {
            figure.setText(words.apply(now.doubleValue()));
            change.accept(move.apply(now.doubleValue()));
        });
        getChildren().add(new VBox(Parts.row(6, Parts.label(name, "soft", "small"), Parts.spring(), figure), slider));
        return slider;
    }

    private void check(String id, String words, boolean now, Function<Boolean, UnaryOperator<Role>> move) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.getStyleClass().add("small");
        box.setSelected(now);
        box.selectedProperty().addListener((property, before, on) -> change.accept(move.apply(on)));
        getChildren().add(box);
    }

    /** The left end is nothing at all; from there on each step multiplies. */
    private static ByteSize bytes(double share, double least, double most) {
        return share < 0.02
                ? ByteSize.ZERO
                : ByteSize.ofGigabytes(least * Math.pow(most / least, (share - 0.02) / 0.98));
    }

    private static double share(double gigabytes, double least, double most) {
        return gigabytes < least ? 0 : Math.min(1, 0.02 + 0.98 * Math.log(gigabytes / least) / Math.log(most / least));
    }
}

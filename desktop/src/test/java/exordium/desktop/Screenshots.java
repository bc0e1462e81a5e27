// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import exordium.core.block.MachineDrives;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.finding.Step;
import exordium.core.passage.Wish;
import exordium.core.testing.PlayedMachine;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.Gradual;
import exordium.desktop.shell.Shell;
import exordium.jobs.bench.Workbench;
import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.embed.swing.SwingFXUtils;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.robot.Robot;
import javafx.util.Duration;
import javax.imageio.ImageIO;

/** Goes through every main view and puts a picture of each into a folder, then ends the program: {@code --screenshots=DIR}. */
final class Screenshots {
    private static final Duration SETTLE = Duration.millis(1800);
    private static final Duration LONGEST_WAIT = Duration.seconds(60);

    private final House house;
    private final Shell shell;
    private final File folder;
    private final Consumer<Boolean> night;
    private final Deque<Shot> shots = new ArrayDeque<>();

    /** The program itself, on a made-up machine with one made-up card in its reader: nothing of this one is in a picture. */
    public static final class OfDemo extends App {
        @Override
        protected MachineDrives drives(Workbench opened) throws IOException {
            PlayedMachine machine = new PlayedMachine(Files.createTempDirectory("exordium-machine"));
            machine.plug("mmcblk0", 31_914_983_424L, "");
            machine.put("sys/block/mmcblk0/device/model", "TIDEWELL 32\n");
            return machine.drives();
        }

        @Override
        protected void begun(House opened, Shell shown) {
            Path folder = Path.of(getParameters().getNamed().get("screenshots"));
            Screenshots shots = new Screenshots(opened, shown, folder, this::applyTheme);
            String only = getParameters().getNamed().getOrDefault("only", "");
            if (!only.isEmpty()) {
                shots.only(List.of(only.split(",")));
            }
            Optional.ofNullable(getParameters().getNamed().get("size")).ifPresent(size -> {
                String[] sides = size.split("x");
                shown.getScene().getWindow().setWidth(Double.parseDouble(sides[0]));
                shown.getScene().getWindow().setHeight(Double.parseDouble(sides[1]));
            });
            shots.takeAll(getParameters().getNamed().containsKey("night"));
        }
    }

    public static void main(String[] args) {
        Application.launch(OfDemo.class, args);
    }

    private record Shot(String name, Runnable before, BooleanSupplier ready) {}

    Screenshots(House house, Shell shell, Path folder, Consumer<Boolean> night) {
        this.house = house;
        this.shell = shell;
        this.folder = folder.toFile();
        this.night = night;
        station("storage", "mast-webcam", Step.STORAGE);
        shots.add(new Shot("storage-price", this::priceView, Screenshots::always));
        // Not pictured: the next one shows the same and more.
        station("", "store-room-spare", Step.IMAGE);
        shots.add(new Shot("image-writing", this::beginWrite, this::provingHalf));
        shots.add(new Shot("image-proven", () -> {}, this::proven));
        shots.add(new Shot(
                "first-start",
                () -> house.navigation().go(new Place.Station("film-loop", Step.FIRST_START)),
                this::somethingIsWanted));
        station("firmware", "ticket-desk", Step.FIRMWARE);
        station("order", "film-loop", Step.ORDER);
        station("rehearsal", "wave-tank", Step.REHEARSAL);
        station("copies", "tide-clock", Step.COPIES);
        shots.add(new Shot(
                "wishes",
                () -> house.navigation().go(new Place.Passage("ticket-desk")),
                () -> chosen(Wish.Kind.TO_USB_SSD)));
        shots.add(new Shot(
                "job-card", () -> house.navigation().go(new Place.Passage("ticket-desk")), this::copiedOfCard));
        shots.addFirst(new Shot("day-sheet", () -> house.navigation().go(new Place.Sheet()), Screenshots::always));
        for (Place.Shelf shelf : Place.Shelf.values()) {
            if (shelf == Place.Shelf.LOGBOOK
                    || shelf == Place.Shelf.CALENDAR
                    || shelf == Place.Shelf.FIRMWARE
                    || shelf == Place.Shelf.IMAGES) {
                // Plain lists; fewer than twenty pictures in all.
                continue;
            }
            shots.add(new Shot(
                    "shelf-" + shelf.name().toLowerCase(java.util.Locale.ROOT),
                    () -> {
                        closeForm();
                        house.navigation().go(shelf);
                    },
                    Screenshots::always));
        }
        shots.add(new Shot(
                "day-sheet-night",
                () -> {
                    night.accept(true);
                    house.navigation().go(new Place.Sheet());
                },
                Screenshots::always));
        shots.add(new Shot(
                "diagnosis-night",
                () -> house.navigation().go(new Place.Station("wave-tank", Step.REHEARSAL)),
                this::firstQuestionAnswered));
    }

    /** Only those of these names, which need none of the others; forms are taken only when they are asked for. */
    void only(List<String> names) {
        shots.removeIf(shot -> !names.contains(shot.name()));
        if (names.contains("told")) {
            shots.add(new Shot(
                    "told",
                    () -> house.navigation().go(new Place.BoardForm("slipway-lamp", Place.BoardForm.FormKind.TOLD)),
                    () -> shell.lookup("#form-deed") != null));
        }
        if (names.contains("family")) {
            shots.add(new Shot(
                    "family",
                    () -> house.navigation().go(new Place.BoardForm("slipway-lamp", Place.BoardForm.FormKind.FAMILY)),
                    () -> shell.lookup("#form-deed") != null));
        }
        for (Place.Form form : Place.Form.values()) {
            String name = "form-" + form.name().toLowerCase(java.util.Locale.ROOT);
            if (names.contains(name)) {
                shots.add(new Shot(name, () -> house.navigation().go(form), () -> shell.lookup("#form-deed") != null));
            }
        }
    }

    private void station(String name, String board, Step step) {
        shots.add(new Shot(name, () -> house.navigation().go(new Place.Station(board, step)), Screenshots::always));
    }

    /** What a person would type first, as soon as there is a place for it. */
    private boolean somethingIsWanted() {
        if (!(shell.lookup("#host-name") instanceof TextField name)
                || !(shell.lookup("#login") instanceof CheckBox login)) {
            return false;
        }
        if (name.getText().isEmpty()) {
            name.setText("film-loop");
            ((TextField) shell.lookup("#time-zone")).setText("Europe/Lisbon");
            login.fire();
            return false;
        }
        return true;
    }

    /** A wish chosen, its ways there, and of all others what they come to. */
    private boolean chosen(Wish.Kind wish) {
        if (!(shell.lookup("#wishes") instanceof ListView<?> list)) {
            return false;
        }
        if (list.getSelectionModel().isEmpty()) {
            list.getSelectionModel().select(wish.ordinal());
        }
        boolean all = list.lookupAll(".list-cell").stream()
                .filter(cell -> cell instanceof ListCell<?> line && !line.isEmpty() && line.isVisible())
                .noneMatch(cell -> String.valueOf(cell.getAccessibleText()).endsWith("…"));
        return all && shell.lookup("#passage-begin") != null;
    }

    /** The first way to an SSD begun, and its first step, a copy, carried out. */
    private boolean copiedOfCard() {
        if (shell.lookup("#passage-view-1") == null) {
            if (chosen(Wish.Kind.TO_USB_SSD)
                    && shell.lookup("#passage-begin") instanceof Button begin
                    && !begin.isDisabled()) {
                begin.fire();
            }
            return false;
        }
        if (house.jobs().any() || !(shell.lookup("#passage-do") instanceof Button deed)) {
            return false;
        }
        if (shell.lookup("#passage-confirm") != null) {
            return true;
        }
        deed.fire();
        return false;
    }

    /** "It did otherwise", with the screen told. */
    private boolean firstQuestionAnswered() {
        if (!(shell.lookup("#rehearsal-view-1") instanceof ToggleButton view)) {
            return false;
        }
        if (shell.lookup("#diagnosis") == null) {
            view.fire();
        } else if (shell.lookup("#answer-kernel-stops") instanceof Button answer) {
            answer.fire();
        } else {
            return shell.lookup("#put-down") != null;
        }
        return false;
    }

    private void priceView() {
        ((CheckBox) shell.lookup("#storage-shops")).setSelected(true);
        ((ToggleButton) shell.lookup("#view-price")).fire();
    }

    private void closeForm() {
        if (shell.lookup("#form-cancel") instanceof Button cancel) {
            cancel.fire();
        }
    }

    private static boolean always() {
        return true;
    }

    /** Types the name of the target that the image station proposes and presses its button, as a user would. */
    private void beginWrite() {
        String id = ((TextField) shell.lookup("#confirm")).getPromptText();
        ((TextField) shell.lookup("#confirm")).setText(id);
        ((Button) shell.lookup("#write")).fire();
    }

    /** The job is over, and the logbook's last words are of it. */
    private boolean proven() {
        return !house.jobs().any() && house.facts().lastEntryProperty().get().contains("was read back");
    }

    private boolean provingHalf() {
        return house.jobs().running().stream()
                .map(job -> job.meter().moment())
                .anyMatch(moment -> moment.phase() == Phase.READING_BACK && moment.share() > 0.4);
    }

    void takeAll(boolean atNight) {
        if (!folder.isDirectory() && !folder.mkdirs()) {
            throw new UncheckedIOException(new IOException("no folder " + folder));
        }
        night.accept(atNight);
        house.facts().sheetProperty().addListener(new javafx.beans.value.ChangeListener<>() {
            @Override
            public void changed(
                    javafx.beans.value.ObservableValue<? extends exordium.core.daysheet.DaySheet> sheet,
                    exordium.core.daysheet.DaySheet before,
                    exordium.core.daysheet.DaySheet now) {
                house.facts().sheetProperty().removeListener(this);
                next();
            }
        });
    }

    private void next() {
        Shot shot = shots.poll();
        if (shot == null) {
            night.accept(false);
            Platform.exit();
            return;
        }
        // A pointer in the middle would light up whatever lies under it.
        new Robot().mouseMove(0, 0);
        shot.before().run();
        after(SETTLE, () -> whenReady(shot, System.nanoTime()));
    }

    /** Waits until the view shows what the picture is to show, a minute at the longest. */
    private void whenReady(Shot shot, long since) {
        boolean ready = shot.ready().getAsBoolean() && !Gradual.underWay(shell);
        if (ready || System.nanoTime() - since > LONGEST_WAIT.toMillis() * 1e6) {
            take(shot.name());
            next();
        } else {
            after(Duration.millis(100), () -> whenReady(shot, since));
        }
    }

    private static void after(Duration pause, Runnable then) {
        PauseTransition wait = new PauseTransition(pause);
        wait.setOnFinished(event -> then.run());
        wait.play();
    }

    private void take(String name) {
        if (name.isEmpty()) {
            return;
        }
        Scene scene = shell.getScene();
        try {
            ImageIO.write(SwingFXUtils.fromFXImage(scene.snapshot(null), null), "png", new File(folder, name + ".png"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}

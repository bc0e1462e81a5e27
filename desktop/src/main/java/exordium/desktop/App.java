// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import atlantafx.base.theme.PrimerLight;
import exordium.core.block.MachineDrives;
import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.shell.Shell;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Workbench;
import exordium.jobs.workspace.Workspaces;
import java.io.IOException;
import java.io.InputStream;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.control.Alert;
import javafx.scene.control.ButtonType;
import javafx.scene.text.Font;
import javafx.stage.Stage;
import javafx.util.Subscription;

/**
 * The program's window. Parameters: {@code --workspace=DIR}, {@code --demo=new} to make the demo there first,
 * {@code --now=INSTANT} for a fixed clock, {@code --for=SECONDS} to end by itself.
 */
public class App extends Application {
    private static final List<String> FONTS =
            List.of("Cabin-Regular.otf", "Cabin-Italic.otf", "Cabin-Bold.otf", "JetBrainsMono-Regular.ttf");

    /** The toolkit makes this object itself; what was begun before it is left here by the main method. */
    private static Beginning begun;

    private Workbench workbench;
    private HouseRules rules;
    private String unreadable;
    private boolean fresh;
    private boolean elsewhere;
    private WindowSeat seat;
    private Stage stage;
    private House house;
    private Shell shell;
    private Scene scene;

    static void begin(String... args) {
        begun = Beginning.of(args);
    }

    /** Off the interface thread: a database that is held by somebody else is waited for here. */
    @Override
    public void init() throws IOException {
        timed("begun");
        try {
            Beginning beginning =
                    begun == null ? Beginning.of(getParameters().getRaw().toArray(String[]::new)) : begun;
            workbench = beginning.opened();
            fresh = beginning.fresh();
            rules = workbench.rules();
            Optional<WindowSeat> taken = WindowSeat.take(workbench.folder(), this::toFront);
            elsewhere = taken.isEmpty();
            seat = taken.orElse(null);
            timed("workspace open");
        } catch (UnreadableInput | NotPossible e) {
            unreadable = e.getMessage();
        }
    }

    @Override
    public void start(Stage stage) throws IOException {
        timed("toolkit there");
        Map<String, String> named = getParameters().getNamed();
        loadFonts();
        setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
        if (unreadable != null) {
            new Alert(Alert.AlertType.ERROR, unreadable, ButtonType.CLOSE).showAndWait();
            Platform.exit();
            return;
        }
        if (elsewhere) {
            alreadyOpen();
            return;
        }
        timed("styles there");
        show(stage, new House(workbench, Platform::runLater, drives(workbench), rules));
        begun(house, shell);
        if (fresh) {
            house.navigation().go(Place.Form.NAME_WORKSPACE);
        }
        remember();
        if (named.containsKey("for")) {
            endAfter(Duration.ofSeconds(Long.parseLong(named.get("for"))));
        }
    }

    /** The drives it shows. */
    protected MachineDrives drives(Workbench opened) throws IOException {
        return opened.machine().drives();
    }

    /** The window is there, and begins to work. */
    protected void begun(House opened, Shell shown) {
        opened.due().start();
    }

    /** Another window has the workspace: it comes to the front, or it is said that there is one. */
    private void alreadyOpen() {
        boolean called = WindowSeat.callToFront(workbench.folder());
        String words = "A window on " + workbench.folder() + " is open already"
                + (called ? "; it was brought to the front." : ".");
        System.err.println(words);
        if (!called) {
            new Alert(Alert.AlertType.INFORMATION, words, ButtonType.CLOSE).showAndWait();
        }
        workbench.close();
        Platform.exit();
    }

    private void toFront() {
        Platform.runLater(() -> {
            if (stage != null) {
                stage.setIconified(false);
                stage.toFront();
                stage.requestFocus();
            }
        });
    }

    /** Keeps in mind that this one was opened, unless it is a demo. */
    private void remember() {
        if (getParameters() == null || !getParameters().getNamed().containsKey("demo")) {
            Path folder = workbench.folder();
            String name = house.facts().rules().workspaceName();
            house.reading().perform(() -> Workspaces.ofUser().opened(folder, name));
        }
    }

    /** Shows another workspace in this window; what runs here has to be over first. */
    private void switchTo(Path folder) {
        if (house.jobs().any()) {
            house.reading()
                    .problemProperty()
                    .set(house.jobs().running().get(0).title()
                            + " is not finished; wait for it or stop it, then open another workspace.");
            return;
        }
        house.reading()
                .read(
                        () -> {
                            Workbench other = Beginning.of(folder).opened();
                            Optional<WindowSeat> taken = WindowSeat.take(other.folder(), this::toFront);
                            if (taken.isEmpty()) {
                                other.close();
                                boolean called = WindowSeat.callToFront(folder);
                                throw new UnreadableInput("A window on " + folder + " is open already"
                                        + (called ? "; it was brought to the front." : "."));
                            }
                            return new Other(other, other.rules(), taken.get());
                        },
                        this::moveInto);
    }

    private record Other(Workbench bench, HouseRules rules, WindowSeat seat) {}

    private void moveInto(Other other) {
        leave();
        workbench = other.bench();
        seat = other.seat();
        show(stage, new House(workbench, Platform::runLater, workbench.machine().drives(), other.rules()));
        house.due().start();
        remember();
    }

    private void leave() {
        if (house != null) {
            house.close();
            house.workbench().close();
        }
        if (seat != null) {
            try {
                seat.close();
            } catch (IOException e) {
                // The lock goes with the process.
                assert seat != null;
            }
        }
    }

    /** Puts the house into a window; for tests as well. */
    public void show(Stage shown, House opened) {
        stage = shown;
        house = opened;
        shell = new Shell(house, () -> applyTheme(!house.facts().rules().nightChart()), this::changeTextSize);
        scene = new Scene(shell, 1280, 800);
        scene.getStylesheets().add(App.class.getResource("chart.css").toExternalForm());
        applyTheme(house.facts().rules().nightChart());
        changeTextSize(Integer.MIN_VALUE);
        stage.setTitle(title());
        stage.setScene(scene);
        stage.setMinWidth(1024);
        stage.setMinHeight(700);
        stage.setOnCloseRequest(event -> {
            if (house.jobs().any() && !mayClose()) {
                event.consume();
            }
        });
        house.navigation().formProperty().addListener((property, before, now) -> {
            if (now instanceof Place.Workspace other) {
                switchTo(other.folder());
            }
        });
        house.facts().readingsProperty().addListener((property, before, now) -> stage.setTitle(title()));
        Subscription firstSheet = house.facts().sheetProperty().subscribe(sheet -> {
            if (sheet != null) {
                timed("interactive");
            }
        });
        stage.setOnHidden(event -> firstSheet.unsubscribe());
        stage.show();
        Platform.runLater(() -> timed("ready for keys"));
        house.facts().refresh();
        house.drives().start();
        house.reading().problemProperty().set(String.join(" ", house.workbench().unreadable()));
    }

    private String title() {
        return "Exordium · " + house.facts().rules().workspaceName();
    }

    /** Says how long it took since this Java began, where somebody asked for that. */
    private static void timed(String what) {
        if (Boolean.getBoolean("exordium.timing")) {
            // The system tells a process's start by a clock of whole seconds; the machine's own is exact.
            long since = System.currentTimeMillis()
                    - ManagementFactory.getRuntimeMXBean().getStartTime();
            System.err.println(what + " after " + since + " ms");
        }
    }

    static void loadFonts() throws IOException {
        for (String font : FONTS) {
            try (InputStream stream = App.class.getResourceAsStream("fonts/" + font)) {
                Font.loadFont(stream, 14);
            }
        }
    }

    final void applyTheme(boolean night) {
        if (night != house.facts().rules().nightChart()) {
            house.facts().rules().nightChart(night);
        }
        scene.getRoot().getStyleClass().remove("night");
        if (night) {
            scene.getRoot().getStyleClass().add("night");
        }
        shell.themeIs(night);
    }

    /** Changes by so many percent; 0 sets it back, the smallest number only applies what is set. */
    private void changeTextSize(int change) {
        HouseRules settings = house.facts().rules();
        if (change != Integer.MIN_VALUE) {
            settings.textSize(change == 0 ? 100 : settings.textSize() + change);
        }
        scene.getRoot().setStyle("-fx-font-size: " + 14 * settings.textSize() / 100.0 + "px;");
    }

    private boolean mayClose() {
        Alert ask = new Alert(
                Alert.AlertType.CONFIRMATION,
                house.jobs().running().get(0).title()
                        + " is not finished. Stop it and close? Its target is then incomplete.",
                new ButtonType("Stop it and close", javafx.scene.control.ButtonBar.ButtonData.OK_DONE),
                new ButtonType("Go on", javafx.scene.control.ButtonBar.ButtonData.CANCEL_CLOSE));
        ask.getDialogPane().getStylesheets().addAll(scene.getStylesheets());
        return ask.showAndWait()
                .filter(button -> button.getButtonData() == javafx.scene.control.ButtonBar.ButtonData.OK_DONE)
                .isPresent();
    }

    private static void endAfter(Duration span) {
        javafx.animation.PauseTransition pause =
                new javafx.animation.PauseTransition(javafx.util.Duration.seconds((double) span.toSeconds()));
        pause.setOnFinished(event -> Platform.exit());
        pause.play();
    }

    @Override
    public void stop() {
        leave();
    }
}

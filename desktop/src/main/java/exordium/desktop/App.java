// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import atlantafx.base.theme.PrimerLight;
import exordium.core.finding.UnreadableInput;
import exordium.desktop.model.HouseModel;
import exordium.jobs.DemoWorkspace;
import exordium.jobs.Workbench;
import exordium.store.Settings;
import exordium.store.Workspace;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
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
 * {@code --now=INSTANT} for a fixed clock, {@code --for=SECONDS} to end by itself, {@code --screenshots=DIR}.
 */
public final class App extends Application {
    private static final List<String> FONTS =
            List.of("Cabin-Regular.otf", "Cabin-Italic.otf", "Cabin-Bold.otf", "JetBrainsMono-Regular.ttf");

    private HouseModel house;
    private Shell shell;
    private Scene scene;

    @Override
    public void start(Stage stage) throws IOException {
        Map<String, String> named = getParameters().getNamed();
        loadFonts();
        setUserAgentStylesheet(new PrimerLight().getUserAgentStylesheet());
        Workspace workspace;
        try {
            workspace = open(named);
        } catch (UnreadableInput e) {
            new Alert(Alert.AlertType.ERROR, e.getMessage(), ButtonType.CLOSE).showAndWait();
            Platform.exit();
            return;
        }
        ZoneId zone = named.containsKey("now") ? ZoneId.of("UTC") : ZoneId.systemDefault();
        show(stage, Workbench.on(workspace, zone));
        if (named.containsKey("for")) {
            endAfter(Duration.ofSeconds(Long.parseLong(named.get("for"))));
        }
        if (named.containsKey("screenshots")) {
            new Screenshots(house, shell, Path.of(named.get("screenshots")), this::applyTheme).takeAll();
        }
    }

    /** Puts the house into a window; for tests as well. */
    public HouseModel show(Stage stage, Workbench workbench) {
        house = new HouseModel(workbench, Platform::runLater);
        Settings settings = workbench.workspace().settings();
        shell = new Shell(house, () -> applyTheme(!settings.nightChart()), this::changeTextSize);
        scene = new Scene(shell, 1280, 800);
        scene.getStylesheets().add(App.class.getResource("chart.css").toExternalForm());
        applyTheme(settings.nightChart());
        changeTextSize(Integer.MIN_VALUE);
        stage.setTitle("Exordium · " + settings.workspaceName());
        stage.setScene(scene);
        stage.setMinWidth(1024);
        stage.setMinHeight(700);
        stage.setOnCloseRequest(event -> {
            if (house.busy() && !mayClose()) {
                event.consume();
            }
        });
        Subscription firstSheet = house.sheetProperty().subscribe(sheet -> {
            if (sheet != null && Boolean.getBoolean("exordium.timing")) {
                long since = ProcessHandle.current()
                        .info()
                        .startInstant()
                        .map(start -> Duration.between(start, Instant.now()).toMillis())
                        .orElse(-1L);
                System.err.println("interactive after " + since + " ms");
            }
        });
        stage.setOnHidden(event -> firstSheet.unsubscribe());
        stage.show();
        house.refresh();
        house.drives().start();
        return house;
    }

    private static Workspace open(Map<String, String> named) throws IOException {
        Path folder =
                Path.of(named.getOrDefault("workspace", Workspace.usualFolder().toString()));
        Clock clock = named.containsKey("now")
                ? Clock.fixed(Instant.parse(named.get("now")), ZoneId.of("UTC"))
                : Clock.systemUTC();
        if (named.containsKey("demo")) {
            return DemoWorkspace.make(folder, true, clock);
        }
        return Workspace.open(folder, clock);
    }

    static void loadFonts() throws IOException {
        for (String font : FONTS) {
            try (InputStream stream = App.class.getResourceAsStream("fonts/" + font)) {
                Font.loadFont(stream, 14);
            }
        }
    }

    private void applyTheme(boolean night) {
        house.workspace().settings().nightChart(night);
        scene.getRoot().getStyleClass().remove("night");
        if (night) {
            scene.getRoot().getStyleClass().add("night");
        }
        shell.themeIs(night);
    }

    /** Changes by so many percent; 0 sets it back, the smallest number only applies what is set. */
    private void changeTextSize(int change) {
        Settings settings = house.workspace().settings();
        if (change != Integer.MIN_VALUE) {
            settings.textSize(change == 0 ? 100 : settings.textSize() + change);
        }
        scene.getRoot().setStyle("-fx-font-size: " + 14 * settings.textSize() / 100.0 + "px;");
    }

    private boolean mayClose() {
        Alert ask = new Alert(
                Alert.AlertType.CONFIRMATION,
                house.runningProperty().get().title()
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
        if (house != null) {
            house.close();
            house.workspace().close();
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import exordium.desktop.desk.House;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeoutException;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxToolkit;

/** A test with the real window on a workspace of its own, anew for each method and gone after it. */
abstract class WindowCase {
    @TempDir
    Path own;

    Workbench workbench;
    House house;
    Stage stage;
    Hand hand;

    /** The workspace the window opens on; made in {@code own}, on the interface thread. */
    abstract Workbench furnish() throws IOException;

    /** The house is put together, and not shown yet; on the interface thread. */
    void housed() {
        // As it is.
    }

    @BeforeEach
    final void openWindow() throws TimeoutException {
        System.setProperty("exordium.state", own.resolve("state").toString());
        FxToolkit.registerPrimaryStage();
        FxToolkit.setupApplication(() -> new Application() {
            @Override
            public void start(Stage shown) throws IOException {
                stage = shown;
                Hand.dress();
                workbench = furnish();
                house = new House(workbench, Platform::runLater);
                housed();
                new App().show(stage, house);
            }
        });
        hand = new Hand(stage.getScene());
    }

    @AfterEach
    final void closeWindow() throws IOException {
        try {
            if (house != null) {
                Hand.on(() -> stage.close());
                house.close();
                workbench.close();
            }
            closed();
        } finally {
            System.clearProperty("exordium.state");
            letGo();
        }
    }

    /** Who ran it keeps a test until all of its class have run; a window is pictures of many megabytes, which go now. */
    private void letGo() {
        if (stage != null) {
            Hand.on(() -> stage.setScene(null));
        }
        house = null;
        workbench = null;
        hand = null;
        stage = null;
    }

    /** After the window has gone. */
    void closed() throws IOException {
        // Nothing more.
    }

    /** Waits until the day sheet is read. */
    final void ready() {
        hand.until("the day sheet is read", () -> house.facts().sheetProperty().get() != null);
    }

    /** A folder of its own. */
    final Path folder(String name) throws IOException {
        return Files.createDirectories(own.resolve(name));
    }
}

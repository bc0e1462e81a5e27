// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.block.MachineDrives;
import exordium.core.daysheet.Cell;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.Step;
import exordium.jobs.media.PluggedIn;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.ListChangeListener;

/** Looks every few seconds which drives of this machine came and went, off the interface thread. */
public final class DriveWatch implements AutoCloseable {
    private static final long SECONDS = 3;

    private final House house;
    private final PluggedIn pluggedIn;
    private final ObjectProperty<List<PluggedIn.Plugged>> plugged = new SimpleObjectProperty<>(List.of());
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "exordium-drives");
        thread.setDaemon(true);
        return thread;
    });
    private final ObjectProperty<List<PluggedIn.NotUsable>> refused = new SimpleObjectProperty<>(List.of());
    private volatile boolean busy;
    private List<PluggedIn.Plugged> before = List.of();
    private List<PluggedIn.NotUsable> refusedBefore = List.of();
    private ScheduledFuture<?> beat;

    DriveWatch(House house, MachineDrives machine) {
        this.house = house;
        this.pluggedIn = new PluggedIn(house.workbench(), machine);
        house.jobs().running().addListener((ListChangeListener<RunningJob>)
                change -> busy = house.jobs().any());
    }

    public void start() {
        beat = clock.scheduleWithFixedDelay(this::look, 0, SECONDS, TimeUnit.SECONDS);
    }

    public ObjectProperty<List<PluggedIn.Plugged>> pluggedProperty() {
        return plugged;
    }

    /** Those that are there and cannot be used, with why. */
    public ObjectProperty<List<PluggedIn.NotUsable>> refusedProperty() {
        return refused;
    }

    /** One look; while a job writes, drives are left alone. */
    void look() {
        house.jobs().looks().acquireUninterruptibly();
        try {
            if (!busy) {
                lookNow();
            }
        } finally {
            house.jobs().looks().release();
        }
    }

    private void lookNow() {
        try {
            List<PluggedIn.NotUsable> without = pluggedIn.refused();
            if (!without.equals(refusedBefore)) {
                refusedBefore = without;
                house.reading().post(() -> refused.set(without));
            }
            List<PluggedIn.Plugged> now = pluggedIn.now();
            if (now.equals(before)) {
                return;
            }
            List<PluggedIn.Arrival> arrivals = pluggedIn.arrived(before, now);
            before = now;
            house.reading().post(() -> arrivals.forEach(this::show));
            house.reading().post(() -> plugged.set(now));
            // Pages list drives as well, whether they are known or not.
            house.facts().refresh();
        } catch (IOException | RuntimeException e) {
            house.reading().say(e);
        }
    }

    /** What came is said; who is at the day sheet is taken to its board, at what is due there. */
    private void show(PluggedIn.Arrival arrival) {
        if (arrival.board().isPresent()
                && house.navigation().placeProperty().get() instanceof Place.Sheet
                && house.facts().sheetProperty().get() != null) {
            house.navigation()
                    .go(new Place.Station(
                            arrival.board().get(), due(arrival.board().get())));
        }
        house.reading().problemProperty().set(arrival.words());
    }

    private Step due(String board) {
        return house.facts().sheetProperty().get().board(board).cells().stream()
                .filter(cell -> cell.pennant() == Pennant.FAILING || cell.pennant() == Pennant.DUE)
                .map(Cell::step)
                .findFirst()
                .orElse(Step.COPIES);
    }

    public void takeIn(PluggedIn.Plugged drive, String name, String kind) {
        house.facts().perform(() -> {
            pluggedIn.takeIn(drive.drive(), name, kind);
            look();
        });
    }

    public void letGo(PluggedIn.Plugged drive) {
        house.facts().perform(() -> {
            pluggedIn.letGo(drive.drive());
            look();
        });
    }

    @Override
    public void close() {
        if (beat != null) {
            beat.cancel(false);
        }
        clock.shutdownNow();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.block.LinuxDrives;
import exordium.core.finding.Sentence;
import exordium.core.storage.MediumKind;
import exordium.jobs.PluggedIn;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/** Looks every few seconds which drives of this machine came and went, off the interface thread. */
public final class DriveWatch implements AutoCloseable {
    private static final long SECONDS = 3;

    private final HouseModel house;
    private final PluggedIn pluggedIn;
    private final ObjectProperty<List<PluggedIn.Plugged>> plugged = new SimpleObjectProperty<>(List.of());
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "exordium-drives");
        thread.setDaemon(true);
        return thread;
    });
    private List<PluggedIn.Plugged> before = List.of();
    private ScheduledFuture<?> beat;

    DriveWatch(HouseModel house, LinuxDrives machine) {
        this.house = house;
        this.pluggedIn = new PluggedIn(house.workbench(), machine);
    }

    public void start() {
        beat = clock.scheduleWithFixedDelay(this::look, 0, SECONDS, TimeUnit.SECONDS);
    }

    public ObjectProperty<List<PluggedIn.Plugged>> pluggedProperty() {
        return plugged;
    }

    /** One look; while a job writes, drives are left alone. */
    void look() {
        if (house.busy()) {
            return;
        }
        try {
            List<PluggedIn.Plugged> now = pluggedIn.now();
            if (now.equals(before)) {
                return;
            }
            boolean known = !pluggedIn.arrived(before, now).isEmpty();
            before = now;
            house.posted(() -> plugged.set(now));
            if (known) {
                house.refresh();
            }
        } catch (IOException | RuntimeException e) {
            house.posted(() -> house.problemProperty().set(Sentence.of(e)));
        }
    }

    public MediumKind likelyKind(PluggedIn.Plugged drive) {
        return pluggedIn.likelyKind(drive.drive());
    }

    public void takeIn(PluggedIn.Plugged drive, String name, String kind) {
        house.perform(() -> {
            pluggedIn.takeIn(drive.drive(), name, kind);
            look();
        });
    }

    public void letGo(PluggedIn.Plugged drive) {
        house.perform(() -> {
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

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.jobs.copies.care.CareJob;
import exordium.jobs.copies.schedule.CopyYear;
import exordium.jobs.copies.schedule.DueRun;
import exordium.jobs.copies.schedule.Reminder;
import java.io.IOException;
import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import javafx.collections.ListChangeListener;

/**
 * While the window is open: makes due copies of media that are here, one after the other, tries restores that are due, and reminds of
 * media that have to be fetched. What failed is not tried again on the same day. All of it by the house's rules.
 */
public final class DueWatch implements AutoCloseable {
    private static final long FIRST_SECONDS = 20;
    private static final long SECONDS = 15 * 60;

    private final House house;
    private final Reminder reminder;
    private final Set<String> tried = new HashSet<>();
    private final ScheduledExecutorService clock = Executors.newSingleThreadScheduledExecutor(work -> {
        Thread thread = new Thread(work, "exordium-due");
        thread.setDaemon(true);
        return thread;
    });
    private final ListChangeListener<RunningJob> whenFree = change -> {
        if (change.getList().isEmpty()) {
            again();
        }
    };
    private volatile boolean busy;
    private volatile boolean began;
    private LocalDate day = LocalDate.MIN;
    private LocalDate drilled = LocalDate.MIN;
    private ScheduledFuture<?> beat;

    DueWatch(House house, Reminder reminder) {
        this.house = house;
        this.reminder = reminder;
        house.jobs().running().addListener((ListChangeListener<RunningJob>)
                change -> busy = house.jobs().any());
    }

    /** Begins to look; on the interface thread. */
    public void start() {
        beat = clock.scheduleWithFixedDelay(this::look, FIRST_SECONDS, SECONDS, TimeUnit.SECONDS);
        house.jobs().running().addListener(whenFree);
    }

    /** After one of its own came to its end, the next one follows at once. */
    private void again() {
        if (began && !clock.isShutdown()) {
            began = false;
            clock.execute(this::look);
        }
    }

    /** One look. */
    void look() {
        if (busy) {
            return;
        }
        try {
            LocalDate today = house.workbench().today();
            if (!today.equals(day)) {
                day = today;
                tried.clear();
            }
            List<DueRun.DueBoard> due = new DueRun(house.workbench(), house.sheets()).due();
            if (house.facts().rules().reminders()) {
                reminder.remind(due, today);
            }
            if (house.facts().rules().dueRuns() && !copy(due)) {
                drill();
            }
        } catch (IOException | RuntimeException e) {
            house.reading().say(e);
        }
    }

    private boolean copy(List<DueRun.DueBoard> due) throws IOException {
        CareJob care = new CareJob(house.workbench());
        for (DueRun.DueBoard each : due) {
            String id = each.board().id();
            if (each.here() && care.mayBeOff(id) && tried.add(id)) {
                began = true;
                house.reading().post(() -> house.jobs()
                        .start(CopyRequests.copy(
                                house,
                                "Copying " + each.medium().name() + " of "
                                        + each.board().name() + ", due since "
                                        + each.due().date(),
                                id,
                                each.medium().file())));
                return true;
            }
        }
        return false;
    }

    private void drill() throws IOException {
        Optional<String> next =
                CopyYear.drillsDue(house.workbench(), house.sheets()).stream().findFirst();
        // One a day: a restore takes its time.
        if (next.isPresent() && !drilled.equals(day)) {
            drilled = day;
            String name = house.workbench().board(next.get()).register().name();
            began = true;
            house.reading().post(() -> house.jobs().start(CopyRequests.drill(house, name, next.get())));
        }
    }

    @Override
    public void close() {
        house.jobs().running().removeListener(whenFree);
        if (beat != null) {
            beat.cancel(false);
        }
        clock.shutdownNow();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.finding.Finding;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.WriteReport;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/**
 * What runs: each request on a thread of its own, any number beside each other. What may run beside what is decided by whoever does
 * it. To be asked on the interface thread only.
 */
public final class JobsModel implements AutoCloseable {
    private static final int CLOSING_SECONDS = 5;

    private final Reading reading;
    private final HouseFacts facts;
    private final ExecutorService workers = Executors.newCachedThreadPool(work -> Reading.thread(work, "job"));
    private final Semaphore looks = new Semaphore(1);
    private final ObservableList<RunningJob> running = FXCollections.observableArrayList();
    private final ObjectProperty<Written> written = new SimpleObjectProperty<>();
    private final ObjectProperty<Told> told = new SimpleObjectProperty<>(new Told("", ""));

    /** A write that came to its end, with a report for each of its targets, and what a rehearsal of them says. */
    public record Written(RunningJob job, List<WriteReport> reports, List<Finding> findings) {}

    /** What came of the last thing done to a drive. */
    public record Told(String drive, String words) {}

    JobsModel(Reading reading, HouseFacts facts) {
        this.reading = reading;
        this.facts = facts;
    }

    /** Held by who looks at the drives; a job that is begun meanwhile waits for it. */
    Semaphore looks() {
        return looks;
    }

    /** In the order they were begun. */
    public ObservableList<RunningJob> running() {
        return running;
    }

    public boolean any() {
        return !running.isEmpty();
    }

    /** The last write that ended. */
    public ObjectProperty<Written> writtenProperty() {
        return written;
    }

    /** Tells of the reports of a write that goes by this meter; from any thread. */
    public void ended(TransferMeter meter, List<WriteReport> reports, List<Finding> findings) {
        reading.post(() -> running.stream()
                .filter(job -> job.meter() == meter)
                .findFirst()
                .ifPresent(job -> written.set(new Written(job, reports, List.copyOf(findings)))));
    }

    public ObjectProperty<Told> toldProperty() {
        return told;
    }

    /** The job that has one of these drives in hand. */
    public Optional<RunningJob> holding(Set<String> drives) {
        return running.stream().filter(job -> job.holds(drives)).findFirst();
    }

    /** Whether a job has one of these drives in hand, as it changes. */
    public BooleanBinding held(Set<String> drives) {
        return Bindings.createBooleanBinding(() -> holding(drives).isPresent(), running);
    }

    /** The write that a board's page shows. */
    public Optional<RunningJob> writingFor(String board) {
        return running.stream()
                .filter(job -> job.board().equals(board) && job.target().isPresent())
                .findFirst();
    }

    public void start(Request<?> request) {
        start(request, done -> {}, () -> {});
    }

    public <T> void start(Request<T> request, Consumer<T> then) {
        start(request, then, () -> {});
    }

    /** Where then: what is done with what came of it, and ended: in any case behind that; both on the interface thread. */
    public <T> void start(Request<T> request, Consumer<T> then, Runnable ended) {
        TransferMeter meter = new TransferMeter(System::nanoTime, request.readsBack());
        RunningJob job = new RunningJob(request.title(), request.board(), request.target(), request.drives(), meter);
        reading.problemProperty().set("");
        running.add(job);
        workers.execute(() -> {
            try {
                // A look at the drives that is under way has them open; none begins while a job runs.
                looks.acquireUninterruptibly();
                looks.release();
                T done = request.work().run(meter);
                reading.post(() -> then.accept(done));
            } catch (IOException | RuntimeException e) {
                reading.say(e);
            } finally {
                reading.post(ended);
                reading.post(() -> running.remove(job));
                facts.refresh();
            }
        });
    }

    /** Asks a job to stop; it ends with its report. */
    public void stop(RunningJob job) {
        job.meter().cancel();
    }

    /** Stops what runs and waits a little, so that its report still reaches the logbook. */
    @Override
    public void close() {
        List.copyOf(running).forEach(this::stop);
        workers.shutdown();
        try {
            if (!workers.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS)) {
                workers.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

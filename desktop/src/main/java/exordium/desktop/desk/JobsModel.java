// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.finding.Finding;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.network.NetworkPlan;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.ChangesJob;
import exordium.jobs.copies.care.DrillJob;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.copies.vault.VaultPlace;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.firmware.FirmwareCardJob;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.firststart.CardBatch;
import exordium.jobs.media.DriveWork;
import exordium.jobs.multiboot.LayoutJob;
import exordium.jobs.network.NetworkKit;
import exordium.jobs.network.NetworkTry;
import exordium.jobs.shelf.Intake;
import exordium.jobs.workspace.WorkspaceArchive;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/**
 * What runs: each job on a thread of its own, any number beside each other as long as no two have the same drive in hand. To be
 * asked on the interface thread only.
 */
public final class JobsModel implements AutoCloseable {
    private static final int CLOSING_SECONDS = 5;

    private final Workbench workbench;
    private final DaySheets sheets;
    private final Supplier<Targets> targets;
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

    /** What is done to one drive; gives back what came of it, in a sentence. */
    public interface DriveDeed {
        String run(DriveWork work, Targets.Target target, TransferMeter meter) throws IOException;
    }

    JobsModel(Workbench workbench, DaySheets sheets, Supplier<Targets> targets, Reading reading, HouseFacts facts) {
        this.workbench = workbench;
        this.sheets = sheets;
        this.targets = targets;
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

    /** Starts a write whose plans have no stop; its reports arrive in {@link #writtenProperty}. */
    public void write(
            String title, String board, List<WriteJob.Planned> plans, boolean grow, Optional<AfterWrite.Wanted> after) {
        TransferMeter meter = meter();
        List<WriteJob.Order> orders = plans.stream()
                .map(each -> new WriteJob.Order(
                        each.plan(),
                        each.target(),
                        Optional.of(board),
                        each.equals(plans.get(0)) ? meter : meter.beside()))
                .toList();
        writing(title, board, orders, meter, grow, after, () -> WriteJob.runAll(workbench, orders));
    }

    /** Goes on with a write that was cut off. */
    public void goOn(WriteJob.Unfinished unfinished, String board, String typed) {
        TransferMeter meter = meter();
        facts.perform(() -> {
            WriteJob.Order order =
                    WriteJob.again(workbench, targets.get(), unfinished, Optional.of(board), typed, meter);
            reading.post(() -> writing(
                    "Going on with " + unfinished.write().image(),
                    board,
                    List.of(order),
                    meter,
                    false,
                    Optional.empty(),
                    () -> List.of(WriteJob.resume(workbench, order, unfinished))));
        });
    }

    private static TransferMeter meter() {
        return new TransferMeter(System::nanoTime, true);
    }

    private void writing(
            String title,
            String board,
            List<WriteJob.Order> orders,
            TransferMeter meter,
            boolean grow,
            Optional<AfterWrite.Wanted> after,
            Reading.Source<List<WriteReport>> run) {
        Set<String> inHand =
                orders.stream().map(each -> each.plan().target().id()).collect(Collectors.toSet());
        RunningJob job = new RunningJob(
                title, board, Optional.of(orders.get(0).plan().target().id()), inHand, meter);
        start(job, () -> {
            List<WriteReport> done = run.get();
            reading.post(() -> written.set(new Written(job, done, List.of())));
            List<Finding> findings = new ArrayList<>();
            for (int i = 0; i < done.size(); i++) {
                WriteReport report = done.get(i);
                if (!report.verdict().good()) {
                    reading.say(report.sentence());
                } else if (grow) {
                    driveWork()
                            .grow(
                                    orders.get(i).target(),
                                    orders.get(i).plan().target().id());
                }
                if (report.verdict().good() && after.isPresent()) {
                    findings.addAll(new AfterWrite(workbench, new BenchReader(workbench))
                            .finish(orders.get(i).target(), withMedium(board), after.get())
                            .findings());
                }
            }
            if (!findings.isEmpty()) {
                reading.post(() -> written.set(new Written(job, done, List.copyOf(findings))));
            }
        });
    }

    /** A board as it is, where something is in the place of which another medium can be rehearsed. */
    private Optional<Workbench.BoardAtHand> withMedium(String board) throws IOException {
        return Optional.of(workbench.board(board))
                .filter(at -> workbench.mainMedium(at).isPresent());
    }

    private DriveWork driveWork() {
        return new DriveWork(workbench, new SecureRandom()::nextLong);
    }

    /** Clears a drive of the workspace, grows its last partition or proves its capacity. */
    public void workOn(String title, String drive, DriveDeed deed) {
        TransferMeter meter = meter();
        start(new RunningJob(title, "", Optional.of(drive), Set.of(drive), meter), () -> {
            String words = deed.run(driveWork(), targets.get().at(workbench.driveFile(drive), ByteSize.ZERO), meter);
            reading.post(() -> told.set(new Told(drive, words)));
        });
    }

    public void copy(String title, String board, String drive) {
        copy(title, board, drive, Optional.empty(), Optional.empty());
    }

    /**
     * Copies a board's medium.
     *
     * @param before the change it is made before; such copies are kept longer
     * @param then what is said when the copy is proven, such as where the medium goes back to
     */
    public void copy(String title, String board, String drive, Optional<String> before, Optional<String> then) {
        TransferMeter meter = meter();
        start(new RunningJob(title, board, Optional.empty(), Set.of(drive), meter), () -> {
            new CopyJob(workbench, sheets).run(board, new CopyJob.Wanted(false, before), meter);
            then.ifPresent(reading::say);
        });
    }

    /** Puts a board's newest copy back onto a virtual drive, and says whether it starts. */
    public void drill(String name, String board) {
        TransferMeter meter = meter();
        start(new RunningJob("Trying a restore of " + name, board, Optional.empty(), Set.of(), meter), () -> {
            DrillJob.Done done = new DrillJob(workbench, new BenchReader(workbench), new CopyJob(workbench, sheets))
                    .run(board, meter);
            if (!done.passed()) {
                reading.say(done.sentence());
            }
        });
    }

    /** Says what changed since; found and ended are told on the interface thread, ended in any case. */
    public void changes(
            String board, String since, Optional<String> to, Consumer<ChangesJob.Found> found, Runnable ended) {
        TransferMeter meter = meter();
        start(new RunningJob("Comparing what changed", board, Optional.empty(), Set.of(), meter), () -> {
            try {
                ChangesJob.Found changes =
                        new ChangesJob(workbench, new CopyJob(workbench, sheets)).of(board, since, to, meter);
                reading.post(() -> found.accept(changes));
            } finally {
                reading.post(ended);
            }
        });
    }

    /** Makes a drive a card that has a board's firmware chip written anew. */
    public void recoveryCard(String board, RecoveryJob.Card card, Targets.Target target, String typed) {
        makeCard("a recovery card", board, target, (path, meter) -> new RecoveryJob(workbench)
                .make(workbench.board(board), card, targets.get(), path, typed, meter));
    }

    /** Makes a drive a card that carries a board's firmware. */
    public void firmwareCard(String board, FirmwareCardJob.Planned card, Targets.Target target, String typed) {
        makeCard("a firmware card", board, target, (path, meter) -> new FirmwareCardJob(
                        workbench, new BenchReader(workbench))
                .make(card, targets.get(), path, typed, meter));
    }

    private interface CardMaker {
        WriteReport make(Path path, TransferMeter meter) throws IOException;
    }

    private void makeCard(String kind, String board, Targets.Target target, CardMaker maker) {
        TransferMeter meter = meter();
        String name = target.description().id();
        start(
                new RunningJob("Making " + kind + " of " + name, board, Optional.empty(), Set.of(name), meter),
                () -> reading.say(maker.make(target.description().path(), meter).sentence()));
    }

    /** Puts several systems on a drive; how each starts from it is said when it is read back. */
    public void layout(LayoutPlan plan, Targets.Target target, String typed) {
        TransferMeter meter = meter();
        String name = target.description().id();
        start(
                new RunningJob(
                        "Putting " + plan.systems().size() + " systems on " + name,
                        "",
                        Optional.of(name),
                        Set.of(name),
                        meter),
                () -> {
                    LayoutJob job = new LayoutJob(workbench);
                    LayoutJob.Made made =
                            job.apply(plan, targets.get(), target.description().path(), typed, meter);
                    reading.say(made.sentence()
                            + job.keepEntries(made, name)
                                    .map(file -> " Its entries are in " + file + ".")
                                    .orElse(""));
                });
    }

    /** Writes and sets up several cards; what became of each is handed over on the interface thread. */
    public void batch(String board, CardBatch.Batch batch, Consumer<List<CardBatch.Made>> sink) {
        TransferMeter meter = meter();
        Set<String> inHand = batch.cards().stream()
                .map(card -> String.valueOf(card.target().getFileName()))
                .collect(Collectors.toSet());
        String title = "Setting up " + batch.cards().size() + " cards";
        start(new RunningJob(title, board, Optional.empty(), inHand, meter), () -> {
            List<CardBatch.Made> made = new CardBatch(workbench, targets.get()).run(batch, meter);
            reading.post(() -> sink.accept(made));
        });
    }

    /** Takes an image file onto the shelf. */
    public void shelve(Path file, Optional<String> pasted) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(
                new RunningJob(
                        "Taking " + file.getFileName() + " onto the shelf", "", Optional.empty(), Set.of(), meter),
                () -> new Intake(workbench).image(file, pasted, meter));
    }

    /** Asks real servers as each board of the kit would; found and ended are told on the interface thread, ended in any case. */
    public void networkTry(Consumer<NetworkTry.Report> found, Runnable ended) {
        start(new RunningJob("Asking real servers", "", Optional.empty(), Set.of(), meter()), () -> {
            try {
                NetworkTry.Report report = new NetworkTry(workbench, NetworkKit.of(workbench)).real(Optional.empty());
                reading.post(() -> found.accept(report));
            } finally {
                reading.post(ended);
            }
        });
    }

    /** Brings the kit for a network start to a plan; then: what is done when it is there. */
    public void networkKit(NetworkPlan plan, Runnable then) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(
                new RunningJob("Making the kit for " + plan.server().name(), "", Optional.empty(), Set.of(), meter),
                () -> {
                    NetworkKit kit = NetworkKit.of(workbench);
                    kit.bringTo(plan, NetworkKit.Roots.TAR, meter);
                    reading.say("The kit is in " + kit.folder() + "; what to do with it is in its STEPS.txt.");
                    reading.post(then);
                });
    }

    /** Takes the vault to another folder. */
    public void moveVault(VaultPlace.Planned plan) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(new RunningJob("Taking the vault to " + plan.to(), "", Optional.empty(), Set.of(), meter), () -> {
            reading.say(new VaultPlace(workbench).move(plan, meter));
        });
    }

    /** Puts the whole workspace into one file. */
    public void export(Path to) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(
                new RunningJob("Putting the workspace into " + to.getFileName(), "", Optional.empty(), Set.of(), meter),
                () -> {
                    WorkspaceArchive.export(workbench, to, meter);
                    reading.say("All of the workspace is in " + to + ".");
                });
    }

    /** Makes a workspace of such a file; then: what is done when it is there. */
    public void importFrom(Path file, Path folder, Runnable then) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(
                new RunningJob("Making a workspace of " + file.getFileName(), "", Optional.empty(), Set.of(), meter),
                () -> {
                    WorkspaceArchive.importFrom(file, folder, workbench.clock(), workbench.zone(), meter)
                            .close();
                    reading.post(then);
                });
    }

    private void start(RunningJob job, Reading.Action deed) {
        reading.problemProperty().set("");
        running.add(job);
        workers.execute(() -> {
            try {
                // A look at the drives that is under way has them open; none begins while a job runs.
                looks.acquireUninterruptibly();
                looks.release();
                deed.run();
            } catch (IOException | RuntimeException e) {
                reading.say(e);
            } finally {
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

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.model;

import exordium.core.block.LinuxDrives;
import exordium.core.daysheet.DaySheet;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.inspection.DriveInspection;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.TransferMeter;
import exordium.core.writing.WriteReport;
import exordium.jobs.Benches;
import exordium.jobs.BoardJobs;
import exordium.jobs.CopyJob;
import exordium.jobs.DaySheets;
import exordium.jobs.DriveWork;
import exordium.jobs.Inspections;
import exordium.jobs.Intake;
import exordium.jobs.StorageQuestion;
import exordium.jobs.TargetHistory;
import exordium.jobs.Targets;
import exordium.jobs.Workbench;
import exordium.jobs.WriteJob;
import exordium.store.Media;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/**
 * The model behind the whole window: where one is, the day sheet, what runs, what was said last. Work goes on its own
 * threads; properties change only where {@code post} runs things, which is the interface thread.
 */
public final class HouseModel implements AutoCloseable {
    private static final int CLOSING_SECONDS = 5;

    private final Workbench workbench;
    private final Benches benches;
    private final DaySheets sheets;
    private final BoardJobs boardJobs;
    private final Consumer<Runnable> post;
    private final ExecutorService readers = threads("reader");
    private final ExecutorService lookers = threads("looker");
    private final ExecutorService workers = threads("job");

    private final LinuxDrives machine;
    private final DriveWatch drives;

    private final Map<Path, DriveInspection> inImages = new ConcurrentHashMap<>();

    private final ObjectProperty<Place> place = new SimpleObjectProperty<>(new Place.Sheet());
    private final ObjectProperty<Place.Form> form = new SimpleObjectProperty<>();
    private final ObjectProperty<DaySheet> sheet = new SimpleObjectProperty<>();
    private final IntegerProperty readings = new SimpleIntegerProperty();
    private final ObjectProperty<RunningJob> running = new SimpleObjectProperty<>();
    private final ObjectProperty<List<WriteReport>> reports = new SimpleObjectProperty<>(List.of());
    private final StringProperty told = new SimpleStringProperty("");
    private final StringProperty lastEntry = new SimpleStringProperty("");
    private final StringProperty problem = new SimpleStringProperty("");

    /** Work that may fail, for the job threads. */
    public interface Deed {
        void run() throws IOException;
    }

    /** Something read for a view. */
    public interface Read<T> {
        T get() throws IOException;
    }

    public HouseModel(Workbench workbench, Consumer<Runnable> post) {
        this(workbench, post, new LinuxDrives());
    }

    /** Where machine: the drives of this machine, or a tree that stands in for them. */
    public HouseModel(Workbench workbench, Consumer<Runnable> post, LinuxDrives machine) {
        this.machine = machine;
        this.workbench = workbench;
        this.benches = new Benches(workbench);
        this.sheets = new DaySheets(workbench, benches);
        this.boardJobs = new BoardJobs(workbench, benches);
        this.post = post;
        this.drives = new DriveWatch(this, machine);
    }

    private static ExecutorService threads(String name) {
        return Executors.newSingleThreadExecutor(work -> {
            Thread thread = new Thread(work, "exordium-" + name);
            thread.setDaemon(true);
            return thread;
        });
    }

    /** Drives of this machine as they come and go. */
    public DriveWatch drives() {
        return drives;
    }

    /** Does something on the interface thread. */
    void posted(Runnable work) {
        post.accept(work);
    }

    public Workbench workbench() {
        return workbench;
    }

    public DaySheets sheets() {
        return sheets;
    }

    public BoardJobs boardJobs() {
        return boardJobs;
    }

    public Workspace workspace() {
        return workbench.workspace();
    }

    public ObjectProperty<Place> placeProperty() {
        return place;
    }

    public ObjectProperty<DaySheet> sheetProperty() {
        return sheet;
    }

    /** Counts how often everything was read anew; changes even where the sheet comes out the same. */
    public IntegerProperty readingsProperty() {
        return readings;
    }

    public ObjectProperty<RunningJob> runningProperty() {
        return running;
    }

    /** Reports of the last write, one for each target; none while it runs. */
    public ObjectProperty<List<WriteReport>> reportsProperty() {
        return reports;
    }

    public StringProperty lastEntryProperty() {
        return lastEntry;
    }

    /** The last thing that could not be done, in one sentence; empty when there is none. */
    public StringProperty problemProperty() {
        return problem;
    }

    public void go(Place to) {
        problem.set("");
        if (to instanceof Place.Form asked) {
            form.set(null);
            form.set(asked);
        } else {
            place.set(to);
        }
    }

    /** The form asked for last; set anew each time. */
    public ObjectProperty<Place.Form> formProperty() {
        return form;
    }

    /** Reads the day sheet anew. */
    public void refresh() {
        on(readers, () -> {
            try {
                DaySheet now = sheets.now();
                String entry = workspace().log().last().map(each -> each.text()).orElse("");
                post.accept(() -> {
                    lastEntry.set(entry);
                    sheet.set(now);
                    readings.set(readings.get() + 1);
                });
            } catch (IOException | RuntimeException e) {
                say(e);
            }
        });
    }

    private static void on(ExecutorService threads, Runnable work) {
        try {
            threads.execute(work);
        } catch (RejectedExecutionException e) {
            if (!threads.isShutdown()) {
                throw e;
            }
            // The house is closed; nobody is left to look at what would be read.
        }
    }

    /** Reads something off the interface thread and hands it over on it. */
    public <T> void read(Read<T> source, Consumer<T> sink) {
        on(readers, () -> hand(source, sink));
    }

    private <T> void hand(Read<T> source, Consumer<T> sink) {
        try {
            T value = source.get();
            post.accept(() -> sink.accept(value));
        } catch (IOException | RuntimeException e) {
            say(e);
        }
    }

    /** As {@link #read}, for what may take long, such as unpacking an image; pages do not wait for it. */
    public <T> void look(Read<T> source, Consumer<T> sink) {
        on(lookers, () -> hand(source, sink));
    }

    /** Does something to a drive of the workspace, unless a job has it in hand. */
    public void performOn(String drive, Deed deed) {
        RunningJob job = running.get();
        if (job != null && job.inHand().contains(drive)) {
            problem.set(job.title() + " is not finished; " + drive + " is in its hands until then.");
            return;
        }
        perform(deed);
    }

    /** Does something short to a board, then reads everything anew. */
    public void perform(Deed deed) {
        post.accept(() -> problem.set(""));
        on(readers, () -> {
            try {
                deed.run();
            } catch (IOException | RuntimeException e) {
                say(e);
            }
        });
        refresh();
    }

    public BoardDetail detail(String id) throws IOException {
        Workbench.BoardAtHand at = workbench.board(id);
        var facts = sheets.facts(at);
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        Map<String, String> service = new HashMap<>();
        workbench.inService().forEach((drive, board) -> service.put(drive, board.name()));
        return new BoardDetail(
                workbench,
                at,
                facts,
                DaySheet.of(List.of(facts)).board(id),
                benches.of(at),
                medium,
                medium.isPresent()
                        ? Optional.of(benches.contents(medium.get().file(), at.profile()))
                        : Optional.empty(),
                workspace().media().all(),
                new StorageQuestion(workbench).candidates(at),
                Map.copyOf(service),
                workspace().imageShelf().all(),
                knownTargets(),
                workspace().copies().of(id),
                WriteJob.unfinished(workspace()));
    }

    /** Every target there is, with what the registers know of it. */
    private List<Targets.Target> knownTargets() throws IOException {
        TargetHistory history = new TargetHistory(workbench);
        List<Targets.Target> known = new ArrayList<>();
        for (Targets.Target target : targets().all(workspace().drives())) {
            known.add(history.known(target));
        }
        return known;
    }

    Targets targets() {
        return new Targets(
                workbench.reader(),
                machine,
                workspace().folder(),
                workspace().settings().realDrives());
    }

    /** What is in an image of the shelf; read once, since a shelved image does not change. */
    public DriveInspection inImage(Path file) throws IOException {
        DriveInspection known = inImages.get(file);
        if (known == null) {
            known = Inspections.ofImage(file);
            inImages.put(file, known);
        }
        return known;
    }

    /** How many things lie on the shelves that hold things. */
    public Map<Place.Shelf, Integer> shelfCounts() {
        return Map.of(
                Place.Shelf.MEDIA, workspace().media().all().size(),
                Place.Shelf.IMAGES, workspace().imageShelf().all().size(),
                Place.Shelf.FIRMWARE, workbench.firmware().releases().size());
    }

    public boolean busy() {
        return running.get() != null;
    }

    /** Starts a write whose plans have no stop; the reports arrive in {@link #reportsProperty}. */
    public void write(String title, String board, List<WriteDraft.Planned> plans, boolean grow) {
        TransferMeter meter = new TransferMeter(System::nanoTime, true);
        List<WriteJob.Order> orders = plans.stream()
                .map(each -> new WriteJob.Order(
                        each.plan(),
                        each.target(),
                        Optional.of(board),
                        each.equals(plans.get(0)) ? meter : meter.beside()))
                .toList();
        writing(title, board, orders, meter, grow, () -> WriteJob.runAll(workbench, orders));
    }

    /** Goes on with a write that was cut off. */
    public void goOn(WriteJob.Unfinished unfinished, String board, String typed) {
        TransferMeter meter = new TransferMeter(System::nanoTime, true);
        perform(() -> {
            WriteJob.Order order = WriteJob.again(workbench, targets(), unfinished, Optional.of(board), typed, meter);
            post.accept(() -> writing(
                    "Going on with " + unfinished.write().image(),
                    board,
                    List.of(order),
                    meter,
                    false,
                    () -> List.of(WriteJob.resume(workbench, order, unfinished))));
        });
    }

    private void writing(
            String title,
            String board,
            List<WriteJob.Order> orders,
            TransferMeter meter,
            boolean grow,
            Read<List<WriteReport>> run) {
        reports.set(List.of());
        Set<String> inHand =
                orders.stream().map(each -> each.plan().target().id()).collect(Collectors.toSet());
        start(
                new RunningJob(
                        title, board, Optional.of(orders.get(0).plan().target().id()), inHand, meter),
                () -> {
                    List<WriteReport> done = run.get();
                    post.accept(() -> reports.set(done));
                    for (int i = 0; i < done.size(); i++) {
                        WriteReport report = done.get(i);
                        if (!report.verdict().good()) {
                            post.accept(() -> problem.set(report.sentence()));
                        } else if (grow) {
                            driveWork()
                                    .grow(
                                            orders.get(i).target(),
                                            orders.get(i).plan().target().id());
                        }
                    }
                });
    }

    private DriveWork driveWork() {
        return new DriveWork(workbench, new SecureRandom()::nextLong);
    }

    /** Clears a drive of the workspace, grows its last partition or proves its capacity. */
    public void workOn(String title, String drive, DriveDeed deed) {
        TransferMeter meter = new TransferMeter(System::nanoTime, true);
        start(new RunningJob(title, "", Optional.of(drive), Set.of(drive), meter), () -> {
            String words = deed.run(driveWork(), targets().at(workbench.driveFile(drive), ByteSize.ZERO), meter);
            post.accept(() -> told.set(words));
        });
    }

    /** What is done to one drive; gives back what came of it, in a sentence. */
    public interface DriveDeed {
        String run(DriveWork work, Targets.Target target, TransferMeter meter) throws IOException;
    }

    /** What came of the last thing done to a drive. */
    public StringProperty toldProperty() {
        return told;
    }

    public void copy(String title, String board, String drive) {
        TransferMeter meter = new TransferMeter(System::nanoTime, true);
        start(new RunningJob(title, board, Optional.empty(), Set.of(drive), meter), () -> new CopyJob(workbench, sheets)
                .run(board, meter));
    }

    /** Takes an image file onto the shelf. */
    public void shelve(Path file, Optional<String> pasted) {
        TransferMeter meter = new TransferMeter(System::nanoTime, false);
        start(
                new RunningJob(
                        "Taking " + file.getFileName() + " onto the shelf", "", Optional.empty(), Set.of(), meter),
                () -> new Intake(workbench).image(file, pasted, meter));
    }

    public Intake intake() {
        return new Intake(workbench);
    }

    /** Checks every copy of a board against its checksum and puts the result in the logbook. */
    public void checkCopies(String board) {
        perform(() -> {
            for (CopyJob.Checked checked : new CopyJob(workbench, sheets).check(Optional.of(board))) {
                workspace()
                        .log()
                        .add(
                                Optional.of(board),
                                Step.COPIES,
                                checked.whole() ? "copy-checked" : "copy-broken",
                                checked.text(),
                                Optional.empty());
                if (!checked.whole()) {
                    post.accept(() -> problem.set(checked.text()));
                }
            }
        });
    }

    private void start(RunningJob job, Deed deed) {
        if (busy()) {
            problem.set("Something is running already; wait for it or stop it.");
            return;
        }
        problem.set("");
        running.set(job);
        workers.execute(() -> {
            try {
                deed.run();
            } catch (IOException | RuntimeException e) {
                say(e);
            } finally {
                post.accept(() -> running.set(null));
                refresh();
            }
        });
    }

    public void stopRunning() {
        if (running.get() != null) {
            running.get().meter().cancel();
        }
    }

    private void say(Exception failure) {
        String sentence = Sentence.of(failure);
        post.accept(() -> problem.set(sentence));
    }

    /** Stops what runs and waits a little, so that its report still reaches the logbook. */
    @Override
    public void close() {
        stopRunning();
        drives.close();
        workers.shutdown();
        try {
            if (!workers.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS)) {
                workers.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        lookers.shutdownNow();
        readers.shutdownNow();
    }
}

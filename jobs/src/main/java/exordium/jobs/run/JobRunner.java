// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.PageJournal;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.Stopped;
import exordium.core.finding.TypedName;
import exordium.core.writing.CapacityProof;
import exordium.core.writing.Ending;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.locks.LockSupport;
import java.util.function.Supplier;

/**
 * One way for everything that is done to a medium or a board: refused unless the target is free; claimed; a row put down; done;
 * the row closed and the logbook told, whatever the ending. What is still proven of a medium follows from these rows. Writes of
 * images, several targets from one reading, come by {@link #claim}; their rows are of the same kind and keep the report.
 */
public final class JobRunner {
    private static final Duration PATIENCE = Duration.ofSeconds(10);
    private static final Duration LETTING_GO = Duration.ofSeconds(3);
    private static final long LOOK_NANOS = 20_000_000;

    private final Workbench workbench;

    public JobRunner(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * What is to be done.
     *
     * @param kind a stable code; the logbook has it with -stopped and -failed behind it
     * @param doing such as "clearing"
     * @param half what is true when it ends half-way: after the name of a medium that was written to; else a sentence
     * @param touches whether it is meant to change what is on the medium
     */
    public record DeedKind(String kind, Step step, String doing, String half, boolean touches) {
        /** What is being done to what, as the beginning of a sentence. */
        String title(String name) {
            return Character.toUpperCase(doing.charAt(0)) + doing.substring(1) + " " + name;
        }

        /** Of a medium that is changed. */
        public DeedKind(String kind, Step step, String doing, String half) {
            this(kind, step, doing, half, true);
        }

        /** Of a board, or of a medium that is only read. */
        public static DeedKind reading(String kind, Step step, String doing) {
            return new DeedKind(kind, step, doing, "", false);
        }

        /** Of what is no drive and may be left half-done. */
        public static DeedKind keyed(String kind, Step step, String doing, String half) {
            return new DeedKind(kind, step, doing, half, false);
        }
    }

    /** What came of it, and what the logbook says; details: what a later deed needs of this one. */
    public record Outcome<T>(T value, String logKind, String words, Optional<String> details) {
        public Outcome(T value, String logKind, String words) {
            this(value, logKind, words, Optional.empty());
        }
    }

    /** Works on a device that nobody else gets at. */
    public interface Work<T> {
        Outcome<T> on(BlockDevice device, Keeping keeping) throws IOException;
    }

    /** Where a deed keeps what it changes until it has. */
    public final class Keeping {
        private final Targets.Target target;
        private final long row;
        private boolean restored;

        private Keeping(Targets.Target target, long row) {
            this.target = target;
            this.row = row;
        }

        /** The number of the deed's row. */
        public long row() {
            return row;
        }

        /** Carries out what was staged: killed at any moment, the next look brings it to its end. */
        public void carryOut(BlockDevice device, StagedDevice staged) throws IOException {
            List<StagedDevice.Page> changes = staged.changes();
            if (!changes.isEmpty()) {
                keep(PageJournal.Direction.FORWARD, device, changes).apply(device);
                forget();
            }
        }

        /** Keeps what is there, before it is touched. */
        PageJournal keep(PageJournal.Direction direction, BlockDevice device, List<StagedDevice.Page> pages)
                throws IOException {
            PageJournal journal = new PageJournal(
                    new PageJournal.Head(
                            direction,
                            target.description().path().toAbsolutePath().toString(),
                            target.key(),
                            device.size().bytes(),
                            row),
                    pages);
            journal.save(file(row));
            return journal;
        }

        /** For a proof that puts everything back. */
        public CapacityProof.Keeper back(BlockDevice device) {
            return new CapacityProof.Keeper() {
                @Override
                public PageJournal keep(List<StagedDevice.Page> pages) throws IOException {
                    return Keeping.this.keep(PageJournal.Direction.BACK, device, pages);
                }

                @Override
                public void restored() throws IOException {
                    restored = true;
                    forget();
                }
            };
        }

        /** Everything is where it belongs, and was read back. */
        public void forget() throws IOException {
            Files.deleteIfExists(file(row));
        }
    }

    private Path file(long row) {
        return workbench.workspace().deeds().resolve(row + ".pages");
    }

    /** Notes whether anything was written at all. */
    private static final class Touched extends DelegatingDevice {
        private volatile boolean touched;

        Touched(BlockDevice inner) {
            super(inner);
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            touched = true;
            super.write(position, source);
        }
    }

    /** What must hold before anything is done to a target. @throws Refused when it does not */
    public static void requireAllowed(Targets.Target target, String typed) {
        Refused.ifAnyStops(target.description().refusals());
        TypedName.require(typed, target.description().id());
    }

    /** What may run beside what: any two deeds but on one and the same thing, and none beside one that takes all. */
    private Optional<Operations.Operation> inTheWay(Key key) {
        return workbench.workspace().operations().running().stream()
                .filter(each -> key.excludes(each.deed().key()))
                .findFirst();
    }

    private void requireFree(Key key) {
        Optional<Operations.Operation> other = inTheWay(key);
        if (other.isPresent()) {
            throw new Refused(busy(key, other.get()));
        }
    }

    private static Finding busy(Key key, Operations.Operation runs) {
        return Finding.stop(
                "target-busy",
                (runs.words().isEmpty() ? "Another deed" : runs.words()) + " is not finished; "
                        + (key.code().equals(Key.WORKSPACE)
                                ? "all of the workspace can be had when nothing else is done in it."
                                : key.name() + " is in its hands until then.")
                        + " Wait for it or stop it.",
                Basis.computed("what runs at this moment"));
    }

    /**
     * The target for one deed alone: nobody else gets at it until it is closed. What a deed that was killed left on it is brought
     * in order first.
     *
     * @throws Refused when it may not be touched, or something is being done to it
     */
    public BlockDevice claim(Targets.Target planned, TransferWatch watch) throws IOException {
        requireFree(new Key(planned.key(), planned.description().id(), false));
        Targets.Target target = letGo(planned, watch);
        Refused.ifAnyStops(target.description().refusals());
        BlockDevice device = target.claim(watch);
        try {
            new Recovery(workbench).settle(target, device);
            return device;
        } catch (IOException | RuntimeException e) {
            device.close();
            throw e;
        }
    }

    /** Whoever looked at what a deed changed may have it open a moment longer; that alone is waited for. */
    private Targets.Target letGo(Targets.Target planned, TransferWatch watch) throws IOException {
        Targets.Target now = planned;
        long until = System.nanoTime() + LETTING_GO.toNanos();
        while (now.onlyOpen() && System.nanoTime() < until) {
            watch.goOnOrStop();
            LockSupport.parkNanos(LOOK_NANOS);
            now = workbench
                    .targets()
                    .at(planned.description().path(), planned.description().size());
        }
        return now;
    }

    /**
     * Does it.
     *
     * @throws Refused when the target may not be touched; nothing was
     * @throws Stopped when the watch says stop, saying what is true of the medium now
     */
    public <T> T run(DeedKind kind, Targets.Target target, Optional<String> board, TransferWatch watch, Work<T> work)
            throws IOException {
        return run(kind, target, target.key(), board, watch, work);
    }

    /** The same where the row goes by another key than the target's, such as the file that comes of it. */
    public <T> T run(
            DeedKind kind, Targets.Target target, String key, Optional<String> board, TransferWatch watch, Work<T> work)
            throws IOException {
        Optional<Media.Medium> medium = workbench.registered(target);
        medium.ifPresent(known -> target.opener()
                .ofMachine()
                .ifPresent(drive -> workbench.recognition().note(known, drive)));
        String name = target.description().id();
        Operations.Action deed =
                new Operations.Action(kind.kind(), board, medium.map(Media.Medium::id), name, key, kind.touches());
        String called =
                board.isPresent() ? "" : medium.map(each -> each.name() + ": ").orElse("");
        try (Touched device = new Touched(claim(target, watch))) {
            long row = workbench.workspace().operations().begin(deed, kind.title(deed.target()));
            Keeping keeping = new Keeping(target, row);
            boolean whole = false;
            try {
                T done = closed(
                        kind,
                        deed,
                        row,
                        called,
                        () -> work.on(device, keeping),
                        () -> new Left(device.touched, left(kind, name, device, keeping)));
                whole = true;
                return done;
            } finally {
                if (device.touched && medium.isPresent() && !target.simulated()) {
                    workbench.readings().afterDeed(medium.get(), device, whole);
                }
            }
        }
    }

    /** The same for a board: what is done to it goes by its name, and nothing on a medium is touched. */
    public <T> T onBoard(DeedKind kind, String board, KeyedWork<T> work) throws IOException {
        return keyed(kind, Key.board(board), Optional.of(board), work);
    }

    /**
     * The same for what is no drive: a board, the vault, a place on the shelf, the kit, the workspace.
     *
     * @throws Refused while something else has it in its hands
     */
    public <T> T keyed(DeedKind kind, Key key, Optional<String> board, KeyedWork<T> work) throws IOException {
        Operations.Action deed = new Operations.Action(kind.kind(), board, key.medium(), key.name(), key.code(), false);
        long row = alone(deed, key, kind.title(key.name()));
        String half = kind.half().isEmpty() ? "Nothing on it was changed." : kind.half();
        return closed(kind, deed, row, "", work, () -> new Left(false, half));
    }

    private record Turn(Optional<Operations.Operation> other, long row) {}

    /** The row is put down in the same transaction in which nobody else's is found. */
    private long alone(Operations.Action deed, Key key, String title) {
        long until = System.nanoTime() + (key.waits() ? PATIENCE.toNanos() : 0);
        while (true) {
            Turn turn = workbench.workspace().inTransaction(() -> {
                Optional<Operations.Operation> other = inTheWay(key);
                return new Turn(
                        other,
                        other.isPresent()
                                ? 0
                                : workbench.workspace().operations().begin(deed, title));
            });
            if (turn.other().isEmpty()) {
                return turn.row();
            }
            if (System.nanoTime() > until) {
                throw new Refused(busy(key, turn.other().get()));
            }
            LockSupport.parkNanos(LOOK_NANOS);
            if (Thread.interrupted()) {
                Thread.currentThread().interrupt();
                throw new CancellationException();
            }
        }
    }

    /** Works on something that goes by a key. */
    public interface KeyedWork<T> {
        Outcome<T> run() throws IOException;
    }

    private record Left(boolean touched, String words) {}

    private <T> T closed(
            DeedKind kind, Operations.Action deed, long row, String called, KeyedWork<T> work, Supplier<Left> left)
            throws IOException {
        try {
            Outcome<T> outcome = work.run();
            end(
                    kind,
                    deed,
                    row,
                    Ending.DONE,
                    left.get(),
                    outcome.logKind(),
                    called,
                    outcome.words(),
                    outcome.details());
            return outcome.value();
        } catch (CancellationException e) {
            Left now = left.get();
            String answer = e.getMessage() == null ? "" : " (" + e.getMessage() + ")";
            String words = "Stopped while " + kind.doing() + " " + deed.target() + answer + ". " + now.words();
            end(kind, deed, row, Ending.STOPPED, now, kind.kind() + "-stopped", called, words, Optional.empty());
            throw new Stopped(words);
        } catch (Refused e) {
            end(kind, deed, row, Ending.FAILED, left.get(), "", called, Sentence.of(e), Optional.empty());
            throw e;
        } catch (IOException | RuntimeException e) {
            Left now = left.get();
            String words =
                    "Failed while " + kind.doing() + " " + deed.target() + ": " + Sentence.of(e) + " " + now.words();
            end(kind, deed, row, Ending.FAILED, now, kind.kind() + "-failed", called, words, Optional.empty());
            throw e;
        }
    }

    private static String left(DeedKind kind, String name, Touched device, Keeping keeping) {
        if (!device.touched) {
            return "Nothing on it was changed.";
        }
        return keeping.restored
                ? "Everything on it was put back and read back: it is as it was."
                : name + " " + kind.half();
    }

    /** The row closed and the logbook told, both or neither; where logKind is empty, it is not. */
    private void end(
            DeedKind kind,
            Operations.Action deed,
            long row,
            Ending ending,
            Left left,
            String logKind,
            String called,
            String words,
            Optional<String> details) {
        Workspace workspace = workbench.workspace();
        workspace.inTransaction(() -> {
            workspace.operations().end(row, ending, left.touched(), words);
            if (!logKind.isEmpty()) {
                workspace.log().add(deed.board(), kind.step(), logKind, called + words, details);
            }
            return null;
        });
    }
}

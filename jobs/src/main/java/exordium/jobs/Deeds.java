// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

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
import exordium.core.writing.CapacityProof;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;

/**
 * One way for everything that changes a medium beside writing an image: refused unless the target is free and its name was typed;
 * claimed; a row put down; done; the row closed and the logbook told, whatever the ending. What is still proven of a medium
 * follows from these rows.
 */
final class Deeds {
    private final Workbench workbench;

    Deeds(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * What is to be done.
     *
     * @param kind a stable code; the logbook has it with -stopped and -failed behind it
     * @param doing such as "clearing"
     * @param half what is true of the medium when it ends half-way and something was written, after its name
     */
    record Kind(String kind, Step step, String doing, String half) {}

    /** What came of it, and what the logbook says. */
    record Outcome<T>(T value, String logKind, String words) {}

    /** Works on a device that nobody else gets at. */
    interface Work<T> {
        Outcome<T> on(BlockDevice device, Keeping keeping) throws IOException;
    }

    /** Where a deed keeps what it changes until it has. */
    final class Keeping {
        private final Targets.Target target;
        private final long row;
        private boolean restored;

        private Keeping(Targets.Target target, long row) {
            this.target = target;
            this.row = row;
        }

        /** Carries out what was staged: killed at any moment, the next look brings it to its end. */
        void carryOut(BlockDevice device, StagedDevice staged) throws IOException {
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
        CapacityProof.Keeper back(BlockDevice device) {
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
        void forget() throws IOException {
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
    static void requireAllowed(Targets.Target target, String typed) {
        Refused.ifAnyStops(target.description().refusals());
        requireName(target.description().id(), typed);
    }

    /** The one check that a name was typed, to the letter. */
    static void requireName(String name, String typed) {
        if (!typed.equals(name)) {
            throw new Refused(Finding.stop(
                    "target-not-confirmed",
                    "\"" + typed + "\" is not its name; that is " + name + ".",
                    Basis.computed("the name typed")));
        }
    }

    /**
     * Does it.
     *
     * @throws Refused when the target may not be touched; nothing was
     * @throws Stopped when the watch says stop, saying what is true of the medium now
     */
    <T> T run(Kind kind, Targets.Target target, Optional<String> board, TransferWatch watch, Work<T> work)
            throws IOException {
        Workspace workspace = workbench.workspace();
        Refused.ifAnyStops(target.description().refusals());
        String name = target.description().id();
        Optional<Media.Medium> medium = WriteJob.registered(workspace, target);
        String called =
                board.isPresent() ? "" : medium.map(each -> each.name() + ": ").orElse("");
        try (Touched device = new Touched(target.claim(watch))) {
            new Recovery(workbench).settle(target, device);
            device.touched = false;
            long row = workspace
                    .operations()
                    .begin(new Operations.Deed(
                            kind.kind(), board, medium.map(Media.Medium::id), name, target.key(), true));
            Keeping keeping = new Keeping(target, row);
            try {
                Outcome<T> outcome = work.on(device, keeping);
                close(row, Operations.DONE, device.touched, outcome.words());
                if (!outcome.logKind().isEmpty()) {
                    log(board, kind, outcome.logKind(), called + outcome.words());
                }
                return outcome.value();
            } catch (CancellationException e) {
                String answer = e.getMessage() == null ? "" : " (" + e.getMessage() + ")";
                String words = "Stopped while " + kind.doing() + " " + name + answer + ". "
                        + left(kind, name, device, keeping);
                close(row, Operations.STOPPED, device.touched, words);
                log(board, kind, kind.kind() + "-stopped", called + words);
                throw new Stopped(words);
            } catch (Refused e) {
                close(row, Operations.FAILED, device.touched, Sentence.of(e));
                throw e;
            } catch (IOException | RuntimeException e) {
                String words = "Failed while " + kind.doing() + " " + name + ": " + Sentence.of(e) + " "
                        + left(kind, name, device, keeping);
                close(row, Operations.FAILED, device.touched, words);
                log(board, kind, kind.kind() + "-failed", called + words);
                throw e;
            }
        }
    }

    private static String left(Kind kind, String name, Touched device, Keeping keeping) {
        if (!device.touched) {
            return "Nothing on it was changed.";
        }
        return keeping.restored
                ? "Everything on it was put back and read back: it is as it was."
                : name + " " + kind.half();
    }

    private void close(long row, String ending, boolean touched, String words) {
        workbench.workspace().operations().end(row, ending, touched, words);
    }

    private void log(Optional<String> board, Kind kind, String code, String words) {
        workbench.workspace().log().add(board, kind.step(), code, words, Optional.empty());
    }
}

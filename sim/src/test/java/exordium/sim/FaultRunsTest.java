// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.PatientDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UsedMap;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.writing.JournalFile;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteGranularity;
import exordium.core.writing.WriteJournal;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.core.writing.WriteRun;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.concurrent.locks.LockSupport;
import org.apache.commons.io.FileUtils;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random writes on to drives with random faults: none that leaves the target different from the image, as its owner would
 * read it, may end verified, and none may hang. More runs: {@code -Dexordium.faultRuns=N}; the same again:
 * {@code -Dexordium.faultSeed=S}.
 */
class FaultRunsTest {
    private static final long LOOK_NANOS = 5_000_000L;
    private static final int RUNS = Integer.getInteger("exordium.faultRuns", 200);
    private static final int MOST_BYTES = 5 << 20;
    private static final int HANGS_EVERY = 100;
    /** Some 80 chunks a run, and a flush every eight: what happens to a large image happens to a small one. */
    private static final WriteGranularity SMALL = new WriteGranularity(1 << 16, 1 << 19);
    /** So many runs are on the disk, past its cache; the others in memory, where a flush costs nothing. */
    private static final int ON_DISK = 150;

    private static final Path MEMORY = Path.of("/dev/shm");

    @TempDir
    Path disk;

    private Path memory;

    private final ProfileReader profiles = new ProfileReader();

    @AfterEach
    void forget() throws IOException {
        FileUtils.deleteDirectory(memory.toFile());
    }

    private String fault(Random random, int image) {
        long at = random.nextInt(image);
        long length = 1L + random.nextInt(random.nextBoolean() ? 4096 : 2 << 20);
        // A drive that hangs costs a second of patience, so there are few.
        return switch (random.nextInt(HANGS_EVERY)) {
            case 0 -> "hang:" + at;
            default -> fault(random.nextInt(11), at, length, random.nextInt(image));
        };
    }

    private static String fault(int kind, long at, long length, long other) {
        return switch (kind) {
            case 0 -> "flip:" + at;
            case 1 -> "bad:" + at + "+" + length;
            case 2 -> "wrong:" + at + "+" + length;
            case 3 -> "stale:" + at + "+" + length;
            case 4 -> "wrap:" + Math.max(4096, at / 4096 * 4096);
            case 5 -> "unplug:" + at;
            case 6 -> "readonly:" + at;
            case 7 -> "lose:" + at;
            case 8 -> "shrink:" + at + "@" + other;
            case 9 -> "twice:" + at + "+" + length + "@" + other;
            default -> "slow:" + at + "@900000000";
        };
    }

    /** Goes on until the drive hangs, as its user would. */
    private static final class UntilItHangs implements TransferWatch {
        private final VirtualDrive drive;

        UntilItHangs(VirtualDrive drive) {
            this.drive = drive;
        }

        @Override
        public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

        @Override
        public boolean cancelled() {
            return drive.hangs();
        }
    }

    private WriteReport write(Path image, Path drive, WriteMode mode, Random random, Optional<Path> journal)
            throws IOException {
        ImageFile file = ImageFile.open(image);
        ByteSize size =
                ByteSize.of(VirtualDrive.describe(profiles, drive).bytes().bytes());
        Optional<UsedMap> used = Optional.empty();
        if (mode == WriteMode.USED) {
            try (BlockDevice device = file.device().orElseThrow()) {
                used = Optional.of(UsedMap.of(device));
            }
        }
        WritePlan plan = WritePlan.of(
                file,
                file.uncompressedSize().orElseThrow(),
                new WritePlan.TargetDescription(
                        "drive.img", drive, size, Optional.empty(), Optional.empty(), Optional.empty(), List.of()),
                new WritePlan.Options(mode, random.nextInt(20) > 0, false, used),
                "drive.img");
        VirtualDrive opened = openedOnceFree(drive);
        TransferWatch watch = new UntilItHangs(opened);
        try (PatientDevice device = new PatientDevice(opened, watch::cancelled)) {
            if (journal.isEmpty()) {
                return new WriteRun(List.of(new WriteRun.Lane(plan, device, watch, WriteJournal.NONE)), SMALL)
                        .executeAll()
                        .get(0);
            }
            try (JournalFile notes = JournalFile.open(journal.get(), JournalFile.Head.of(plan, ""), Duration.ZERO)) {
                WriteJournal each = notes;
                return new WriteRun(List.of(new WriteRun.Lane(plan, device, watch, each)), SMALL)
                        .executeAll()
                        .get(0);
            }
        }
    }

    /** One that hung is let go as soon as its thread was told that nobody waits any more. */
    private VirtualDrive openedOnceFree(Path drive) throws IOException {
        while (true) {
            try {
                return VirtualDrive.open(profiles, drive, true);
            } catch (Refused e) {
                LockSupport.parkNanos(LOOK_NANOS);
            }
        }
    }

    /** What the drive's owner would read: through the faults, chunk by chunk. */
    private boolean holds(Path drive, byte[] image) {
        // A drive opened anew has written nothing yet, so that what comes with writing does not come here.
        try (VirtualDrive device = VirtualDrive.open(profiles, drive, false)) {
            ByteBuffer all = ByteBuffer.allocate(image.length);
            device.read(0, all);
            return Arrays.equals(all.array(), image);
        } catch (IOException e) {
            return false;
        }
    }

    /** On both cores of a small machine, each half with a seed of its own. */
    @Test
    void noRunThatLeftTheTargetDifferentEndsVerified() throws Exception {
        long seed = Long.getLong("exordium.faultSeed", System.nanoTime());
        System.out.println(RUNS + " fault runs from seeds " + seed + " and " + (seed + 1));
        memory = Files.isWritable(MEMORY) ? Files.createTempDirectory(MEMORY, "fault-runs") : disk;
        AtomicIntegerArray verdicts = new AtomicIntegerArray(Verdict.values().length);
        ExecutorService halves = Executors.newFixedThreadPool(2);
        try {
            List<Callable<Void>> work = new ArrayList<>();
            for (int half = 0; half < 2; half++) {
                long own = seed + half;
                Path onDisk = Files.createDirectories(disk.resolve("half" + half));
                Path inMemory = Files.createDirectories(memory.resolve("half" + half));
                work.add(() -> {
                    runs(own, RUNS / 2, onDisk, inMemory, verdicts);
                    return null;
                });
            }
            for (var each : halves.invokeAll(work)) {
                each.get();
            }
        } finally {
            halves.shutdownNow();
        }
        assertThat(verdicts.get(Verdict.VERIFIED.ordinal())).isPositive();
        assertThat(verdicts.get(Verdict.DIFFERENT.ordinal())).isPositive();
        assertThat(verdicts.get(Verdict.FAILED.ordinal())).isPositive();
    }

    private void runs(long seed, int runs, Path onDisk, Path inMemory, AtomicIntegerArray verdicts) throws IOException {
        Random random = new Random(seed);
        byte[] noise = new byte[MOST_BYTES];
        random.nextBytes(noise);
        for (int run = 0; run < runs; run++) {
            Path folder = run < ON_DISK / 2 ? onDisk : inMemory;
            Path image = folder.resolve("image.img");
            Path drive = folder.resolve("drive.img");
            Path journal = folder.resolve("1.journal");
            int bytes = 4096 + random.nextInt(MOST_BYTES - 4096);
            byte[] content = Arrays.copyOf(noise, bytes);
            content[0] = (byte) run;
            Files.write(image, content);
            Files.deleteIfExists(drive);
            Files.deleteIfExists(VirtualDrive.descriptionOf(drive));
            Files.deleteIfExists(journal);
            List<String> faults = new ArrayList<>();
            for (int i = random.nextInt(3); i >= 0; i--) {
                faults.add(fault(random, bytes));
            }
            VirtualDrive.create(
                    profiles,
                    drive,
                    new DriveDescription(
                            "faulty",
                            "usb",
                            "",
                            ByteSize.of(MOST_BYTES + random.nextInt(3) * DiskBuilder.MIB),
                            Optional.empty(),
                            Optional.empty(),
                            faults));
            if (random.nextBoolean()) {
                // Most of the image is there already, as after an older version of it.
                try (FileChannel old = FileChannel.open(drive, StandardOpenOption.WRITE)) {
                    byte[] before = content.clone();
                    before[random.nextInt(bytes)] ^= 1;
                    before[random.nextInt(bytes)] ^= 1;
                    old.write(ByteBuffer.wrap(before));
                }
            }
            WriteMode mode = WriteMode.values()[random.nextInt(3)];
            String what = "run " + run + " of seed " + seed + ", " + mode + ", " + bytes + " bytes, " + faults;
            boolean notes = random.nextInt(3) == 0;
            for (int round = 0; round < (notes ? 2 : 1); round++) {
                try {
                    WriteReport report =
                            write(image, drive, mode, random, notes ? Optional.of(journal) : Optional.empty());
                    verdicts.incrementAndGet(report.verdict().ordinal());
                    if (report.verdict() == Verdict.VERIFIED) {
                        assertThat(holds(drive, content)).as(what).isTrue();
                    }
                } catch (UnreadableInput e) {
                    throw new AssertionError(what, e);
                }
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.RealKernel;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random benches of up to three drives, rehearsed and handed to a real kernel: it mounts the root that was told, on the drive that
 * was told, or finds none where none was told. What a kernel cannot show, the firmware's order before it, is not asked here.
 */
class KernelAgreesTest {
    private static final int RUNS = Integer.getInteger("exordium.kernelBenches", 4);
    private static final long SEED = Long.getLong("exordium.kernelSeed", 20_261_126);
    private static final List<String> PORTS = List.of("card", "nvme", "usb1");
    private static final List<String> KINDS = List.of("card", "nvme", "stick");
    private static final List<String> IDS = List.of("5eed0001", "5eed0002", "7c41e0b2");
    private static final Pattern MOUNTED =
            Pattern.compile("VFS: Mounted root \\(ext4 filesystem\\).* on device 98:(\\d+)");
    private static final long ROOT_SUPERBLOCK = 44 * DiskBuilder.MIB + 1024;

    @TempDir
    private Path folder;

    @Test
    void aRealKernelFindsTheRootThatWasTold() throws IOException {
        RealKernel kernel = new RealKernel(folder);
        Map<String, Integer> seen = new java.util.TreeMap<>();
        for (int run = 0; run < RUNS; run++) {
            long seed = SEED + run;
            Random random = new Random(seed);
            String line = line(random);
            List<Path> disks = disks(random, line, run);
            List<Bench.Attached> attached = new ArrayList<>();
            for (int i = 0; i < disks.size(); i++) {
                attached.add(Benches.attached("plover-5", PORTS.get(i), KINDS.get(i), disks.get(i)));
            }
            Trace told = Rehearsal.of(Benches.bench("plover-5", "0xf1", attached.toArray(Bench.Attached[]::new)));
            String log = kernel.boot(disks, line);
            String found = found(log);
            String wanted = told.cause() == Cause.ROOT_NOT_FOUND
                    ? "not found"
                    : told.cause() == Cause.ROOT_UNREADABLE
                            ? "unreadable"
                            : told.rootFrom().orElse("?");
            assertThat(found)
                    .as(() -> "seed " + seed + ": " + line + "\n" + told.steps() + "\n" + log)
                    .isEqualTo(wanted);
            // A pasted log of it names what was told.
            if (!told.rootFrom().isPresent()) {
                assertThat(BootLog.read(log, Benches.bench("plover-5", "0xf1")).named())
                        .as(log)
                        .contains(told.cause());
            }
            seen.merge(found, 1, Integer::sum);
            for (Path disk : disks) {
                Files.delete(disk);
            }
        }
        System.out.println("real kernel, seeds " + SEED + " to " + (SEED + RUNS - 1) + ": " + seen);
        assertThat(seen).hasSizeGreaterThan(1);
    }

    private static String line(Random random) {
        String id = IDS.get(random.nextInt(IDS.size())) + "-02";
        String root =
                switch (random.nextInt(6)) {
                    case 0 -> "PARTUUID=" + id.toUpperCase(java.util.Locale.ROOT);
                    case 1 -> "UUID=0a0b0c0d-1111-2222-3333-444455556666";
                    case 2 -> "LABEL=root";
                    default -> "PARTUUID=" + id;
                };
        // The last of two counts.
        String twice = random.nextInt(4) == 0 ? "root=PARTUUID=00000000-02 " : "";
        return "console=tty1 " + twice + "root=" + root + " rootwait";
    }

    private List<Path> disks(Random random, String line, int run) throws IOException {
        List<Path> disks = new ArrayList<>();
        int count = 1 + random.nextInt(PORTS.size());
        for (int i = 0; i < count; i++) {
            Path disk = new DiskBuilder(folder)
                    .id(IDS.get(random.nextInt(IDS.size())))
                    .start("cmdline.txt", line + "\n")
                    .build("disk" + run + "-" + i + ".img");
            if (random.nextInt(5) == 0) {
                try (RandomAccessFile file = new RandomAccessFile(disk.toFile(), "rw")) {
                    file.seek(ROOT_SUPERBLOCK);
                    file.write(new byte[1024]);
                }
            }
            disks.add(disk);
        }
        return disks;
    }

    /** Where the kernel says its root is: ubda is the first drive, sixteen numbers a drive. */
    private static String found(String log) {
        Matcher mounted = MOUNTED.matcher(log);
        if (mounted.find()) {
            return PORTS.get(Integer.parseInt(mounted.group(1)) / 16);
        }
        return log.contains("Cannot open root device")
                ? "not found"
                : log.contains("Unable to mount root fs") ? "unreadable" : "?";
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.diagnosis.BootLog;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
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
    private static final long ROOT_SUPERBLOCK = 44 * DiskBuilder.MIB + 1024;

    @TempDir
    private Path folder;

    @Test
    void aRealKernelFindsTheRootThatWasTold() throws IOException {
        Map<String, Integer> seen = new TreeMap<>();
        for (int run = 0; run < RUNS; run++) {
            long seed = SEED + run;
            Random random = new Random(seed);
            String line = line(random);
            List<Path> disks = disks(random, line, run);
            List<Bench.Attached> attached = new ArrayList<>();
            Map<String, RealBench.Drive> drives = new LinkedHashMap<>();
            for (int i = 0; i < disks.size(); i++) {
                attached.add(Benches.attached("plover-5", PORTS.get(i), KINDS.get(i), disks.get(i)));
                drives.put(PORTS.get(i), RealFirmwareTest.drive(disks.get(i)));
            }
            RealBench real = RealBench.of(
                    Benches.bench("plover-5", "0xf1", attached.toArray(Bench.Attached[]::new)),
                    drives,
                    Files.createDirectory(folder.resolve("run" + run)));
            LinuxKernel kernel = new LinuxKernel();
            Needs.here(kernel.silent(real).isEmpty(), "no linux.uml here");
            Compared compared = kernel.compare(real);
            assertThat(compared.points())
                    .as(() -> "seed " + seed + ": " + line + "\n" + real.trace().steps() + "\n" + compared.log())
                    .allMatch(Compared.Point::agrees);
            // A pasted log of it names what was told.
            if (real.trace().rootFrom().isEmpty()) {
                assertThat(BootLog.read(compared.log(), real.bench()).named())
                        .as(compared.log())
                        .contains(real.trace().cause());
            }
            seen.merge(compared.points().get(0).real(), 1, Integer::sum);
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
}

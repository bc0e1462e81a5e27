// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.rehearsal.Bench;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random benches rehearsed, and handed to U-Boot and to EDK2 under qemu with the order set as theirs: they must try the drives in the
 * order that was told, take the entry of the menu that was told, hand over its line, and pass over what was told to be passed over.
 */
class RealFirmwareTest {
    private static final int RUNS = Integer.getInteger("exordium.firmwareBenches", 2);
    private static final long SEED = Long.getLong("exordium.firmwareSeed", 20_261_127);
    private static final List<String> IDS = List.of("5eed0001", "5eed0002", "7c41e0b2");

    @TempDir
    private Path folder;

    /** One made-up drive: what is on it decides what firmware does with it. */
    private interface Kind {
        void onto(DiskBuilder disk, Random random);
    }

    @Test
    void uBootDoesWhatWasTold() throws IOException {
        Needs.here(GeneralTools.exitOf("qemu-system-aarch64", "--version") == 0, "no qemu here");
        Map<String, String> media = new LinkedHashMap<>();
        media.put("emmc", "emmc");
        media.put("card", "card");
        media.put("usb1", "stick");
        List<String> names = List.of("mmc1", "mmc0", "usb0");
        run(
                "curlew-e",
                media,
                names,
                " ",
                List.of(
                        RealFirmwareTest::menu,
                        RealFirmwareTest::menu,
                        RealFirmwareTest::menu,
                        RealFirmwareTest::menu,
                        RealFirmwareTest::noKernel,
                        RealFirmwareTest::noMenu,
                        RealFirmwareTest::noTree));
    }

    @Test
    void edk2DoesWhatWasTold() throws IOException {
        Needs.here(GeneralTools.exitOf("qemu-system-aarch64", "--version") == 0, "no qemu here");
        Map<String, String> media = new LinkedHashMap<>();
        media.put("card", "card");
        media.put("usb1", "stick");
        media.put("usb2", "stick");
        run(
                "dunlin-u",
                media,
                List.of("0002", "0003"),
                ",",
                List.of(RealFirmwareTest::program, RealFirmwareTest::program, RealFirmwareTest::otherProgram));
    }

    private void run(String profile, Map<String, String> media, List<String> names, String separator, List<Kind> kinds)
            throws IOException {
        Map<String, Integer> seen = new TreeMap<>();
        for (int run = 0; run < RUNS; run++) {
            long seed = SEED + run;
            Random random = new Random(seed);
            Map<String, RealBench.Drive> drives = new LinkedHashMap<>();
            List<Bench.Attached> attached = new ArrayList<>();
            for (Map.Entry<String, String> place : media.entrySet()) {
                if (random.nextInt(5) > 0) {
                    Path disk = disk(random, kinds, profile + run + "-" + place.getKey() + ".img");
                    attached.add(Benches.attached(profile, place.getKey(), place.getValue(), disk));
                    drives.put(place.getKey(), drive(disk));
                }
            }
            List<String> order = new ArrayList<>(names);
            Collections.shuffle(order, random);
            order = random.nextInt(3) > 0 ? order : order.subList(0, 1 + random.nextInt(order.size()));
            Bench bench =
                    Benches.bench(profile, String.join(separator, order), attached.toArray(Bench.Attached[]::new));
            Path room = Files.createDirectory(folder.resolve(profile + run));
            RealBench real = RealBench.of(bench, drives, room);
            AgainstReal against = AgainstReal.of(real);
            for (Compared compared : against.compared()) {
                assertThat(compared.points())
                        .as(() -> "seed " + seed + ": " + bench.order() + "\n"
                                + real.trace().steps() + "\n" + compared.log())
                        .allMatch(Compared.Point::agrees);
                seen.merge(
                        compared.peer() + " "
                                + compared.points()
                                        .get(compared.points().size() > 1 ? 1 : 0)
                                        .real(),
                        1,
                        Integer::sum);
            }
            for (Bench.Attached medium : attached) {
                Files.delete(folder.resolve(medium.name()));
            }
        }
        System.out.println(profile + ", seeds " + SEED + " to " + (SEED + RUNS - 1) + ": " + seen);
        assertThat(seen).isNotEmpty();
    }

    private Path disk(Random random, List<Kind> kinds, String name) throws IOException {
        if (random.nextInt(6) == 0) {
            Path blank = folder.resolve(name);
            DiskBuilder.blank(blank, 61 * DiskBuilder.MIB);
            return blank;
        }
        DiskBuilder disk = new DiskBuilder(folder).id(IDS.get(random.nextInt(IDS.size())));
        kinds.get(random.nextInt(kinds.size())).onto(disk, random);
        return disk.build(name);
    }

    static RealBench.Drive drive(Path disk) {
        return new RealBench.Drive() {
            @Override
            public BlockDevice open() throws IOException {
                return FileDevice.forReading(disk);
            }

            @Override
            public Optional<Path> raw() {
                return Optional.of(disk);
            }
        };
    }

    /** A menu of one to three entries, with a default or without; what the entries name is there. */
    private static void menu(DiskBuilder disk, Random random) {
        StringBuilder menu = new StringBuilder();
        int count = 1 + random.nextInt(3);
        if (random.nextBoolean()) {
            menu.append("default l").append(random.nextInt(count)).append('\n');
        }
        menu.append("timeout 1\n");
        for (int i = 0; i < count; i++) {
            boolean tree = random.nextBoolean();
            menu.append("label l").append(i).append("\n  kernel /kernel-32.img\n");
            menu.append(tree ? "  fdt /curlew-e-b.dtb\n" : "");
            menu.append("  append console=ttyS0 root=PARTUUID=")
                    .append(IDS.get(i))
                    .append("-02 entry=")
                    .append(i)
                    .append('\n');
        }
        disk.start("extlinux/extlinux.conf", menu.toString())
                .start("kernel-32.img", "kernel")
                .start("curlew-e-b.dtb", "tree");
    }

    private static void noKernel(DiskBuilder disk, Random random) {
        menu(disk, random);
        disk.without("kernel-32.img");
    }

    private static void noTree(DiskBuilder disk, Random random) {
        disk.start(
                        "extlinux/extlinux.conf",
                        "timeout 1\nlabel a\n  kernel /kernel-32.img\n  fdt /curlew-e-b.dtb\n  append root=PARTUUID=5eed0001-02\n")
                .start("kernel-32.img", "kernel");
    }

    private static void noMenu(DiskBuilder disk, Random random) {
        disk.start("kernel-32.img", "kernel").start("curlew-e-b.dtb", "tree");
    }

    private static void program(DiskBuilder disk, Random random) {
        disk.start("EFI/BOOT/BOOTAA64.EFI", "program")
                .start(
                        "loader/entries/dunlin.conf",
                        "title a\nlinux /kernel-64.img\noptions root=PARTUUID=" + IDS.get(random.nextInt(3)) + "-02\n");
    }

    private static void otherProgram(DiskBuilder disk, Random random) {
        disk.start("EFI/OTHER/START.EFI", "program");
    }
}

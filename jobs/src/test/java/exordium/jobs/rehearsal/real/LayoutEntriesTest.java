// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.board.StartSource;
import exordium.core.bootorder.EfiStore;
import exordium.core.bootorder.EfiVariables;
import exordium.core.finding.Finding;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.profile.ProfileReader;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.jobs.bench.Workbench;
import exordium.jobs.multiboot.LayoutJob;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A drive with three systems and a start partition for each: EDK2 starts the one its list has in front, as rehearsed. */
class LayoutEntriesTest {
    private static final List<String> NAMES = List.of("everyday", "trial", "rescue");

    @TempDir
    Path folder;

    private Workbench workbench;

    @BeforeEach
    void images() throws IOException {
        workbench = Opening.at(Files.createDirectories(folder.resolve("space")), Clock.systemUTC(), ZoneOffset.UTC);
        for (int i = 0; i < NAMES.size(); i++) {
            String id = "5eed002" + i;
            new DiskBuilder(folder)
                    .id(id)
                    .start(
                            "EFI/BOOT/BOOTAA64.EFI",
                            new String(StandInFiles.program(NAMES.get(i)), StandardCharsets.ISO_8859_1))
                    .start("kernel-64.img", "kernel")
                    .start(
                            "loader/entries/dunlin.conf",
                            "title " + NAMES.get(i) + "\nlinux /kernel-64.img\noptions root=PARTUUID=" + id
                                    + "-02 rootwait\n")
                    .root(
                            "etc/fstab",
                            "PARTUUID=" + id + "-02 / ext4 defaults 0 1\nPARTUUID=" + id
                                    + "-01 /boot vfat defaults 0 2\n")
                    .root("etc/name", NAMES.get(i))
                    .build(NAMES.get(i) + ".img");
        }
    }

    @AfterEach
    void close() {
        workbench.close();
    }

    private LayoutPlan plan(String profile) throws IOException {
        StringBuilder text = new StringBuilder(
                "profile: " + profile + "\ndrive: 420 MB\nstart: 40 MiB\nchoose: entries\nstandard: trial\nsystems:\n");
        for (String name : NAMES) {
            text.append("  - {name: ")
                    .append(name)
                    .append(", image: ")
                    .append(folder)
                    .append('/')
                    .append(name)
                    .append(".img, size: 24 MiB}\n");
        }
        return new ProfileReader()
                .user("layout", text.toString().getBytes(StandardCharsets.UTF_8), LayoutPlan.SCHEMA, LayoutPlan.class);
    }

    @Test
    void eachSystemStartsByItsEntry() throws IOException {
        Needs.here((Files.isReadable(Edk2.FIRMWARE) && Files.isExecutable(EmulatedBoard.PROGRAM)), "no EDK2 here");
        Path image = folder.resolve("drive.img");
        LayoutJob.Composed made = new LayoutJob(workbench).compose(plan("dunlin-u"), image, TransferWatch.NONE);
        assertThat(made.starts())
                .hasSize(3)
                .allSatisfy((name, trace) -> assertThat(trace.runs()).as(name).isTrue());
        assertThat(GeneralTools.run("sgdisk", "-v", image.toString())).contains("No problems found");
        assertThat(GeneralTools.run("sgdisk", "-p", image.toString()))
                .contains("EF00  everyday-start", "EF00  trial-start", "EF00  rescue-start");
        EfiVariables variables = made.entries().orElseThrow();
        assertThat(variables.entries().get(variables.order().get(0)).title()).isEqualTo("trial");
        for (String name : NAMES) {
            List<Integer> order = new ArrayList<>(variables.order());
            Collections.sort(order);
            Collections.rotate(order, -NAMES.indexOf(name));
            assertThat(started(image, new EfiVariables(order, variables.entries()), name))
                    .isEqualTo(name);
            int number = made.laid().system(name).number();
            String uuid = GeneralTools.run("sfdisk", "--part-uuid", image.toString(), String.valueOf(number))
                    .strip();
            String start = image + "@@" + made.laid().startOf(name).start();
            assertThat(GeneralTools.run("mtype", "-i", start, "::loader/entries/" + name + ".conf"))
                    .containsIgnoringCase("root=PARTUUID=" + uuid)
                    .contains("linux /kernel-64.img")
                    .doesNotContain("5eed002");
            Path root = folder.resolve("root");
            GeneralTools.run(
                    "dd",
                    "status=none",
                    "bs=1M",
                    "if=" + image,
                    "of=" + root,
                    "skip=" + (made.laid().system(name).start() >> 20),
                    "count=24");
            String own = GeneralTools.run(
                            "sfdisk",
                            "--part-uuid",
                            image.toString(),
                            String.valueOf(made.laid().startOf(name).number()))
                    .strip();
            assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/fstab", root.toString()))
                    .containsIgnoringCase("PARTUUID=" + own + " /boot")
                    .containsIgnoringCase("PARTUUID=" + uuid + " / ");
        }
    }

    private String started(Path image, EfiVariables variables, String name) throws IOException {
        Path flash = folder.resolve(name + ".fd");
        Files.write(flash, EfiStore.of(variables));
        EmulatedBoard machine = new EmulatedBoard("qemu-xhci");
        machine.way(StartSource.NVME);
        machine.drive(StartSource.NVME, image).flash(0, Edk2.FIRMWARE, true).flash(1, flash, false);
        Pattern over = Pattern.compile("EFIPAYLOAD (\\S+)");
        String said = Console.of(machine.command(), folder.resolve(name + ".log"), over, 240);
        return over.matcher(said)
                .results()
                .map(found -> found.group(1))
                .findFirst()
                .orElse(said);
    }

    @Test
    void whereThereIsNoListOfEntriesOneMenuIsAskedFor() throws IOException {
        assertThat(new LayoutJob(workbench).laid(plan("curlew-e")).findings())
                .filteredOn(Finding::stops)
                .extracting(Finding::code)
                .contains("layout-no-entries");
    }
}

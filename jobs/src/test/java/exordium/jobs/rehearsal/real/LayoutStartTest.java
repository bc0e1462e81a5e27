// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.board.StartSource;
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
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Drives with two and three systems: each starts by the menu in U-Boot up to its kernel, as rehearsed. */
class LayoutStartTest {
    private static final List<String> NAMES = List.of("everyday", "trial", "rescue");

    @TempDir
    Path folder;

    private Workbench workbench;

    @BeforeEach
    void open() throws IOException {
        workbench = Opening.at(Files.createDirectories(folder.resolve("space")), Clock.systemUTC(), ZoneOffset.UTC);
        for (int i = 0; i < NAMES.size(); i++) {
            String id = "5eed001" + i;
            new DiskBuilder(folder)
                    .id(id)
                    .without("config.txt")
                    .without("start.elf")
                    .start("kernel-32.img", new String(StandInFiles.kernel(NAMES.get(i)), StandardCharsets.ISO_8859_1))
                    .start("curlew-e-b.dtb", new String(StandInFiles.tree(), StandardCharsets.ISO_8859_1))
                    .start(
                            "extlinux/extlinux.conf",
                            "label main\n  kernel /kernel-32.img\n  fdt /curlew-e-b.dtb\n  append console=ttyAMA0 root=PARTUUID="
                                    + id + "-02 rootwait\n")
                    .root("sbin/init", "\u007fELF\u0001")
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

    private LayoutPlan plan(int systems, String more) throws IOException {
        StringBuilder text = new StringBuilder(
                "profile: curlew-e\ndrive: 320 MB\nstart: 40 MiB\ntimeout: 1\n" + more + "systems:\n");
        for (String name : NAMES.subList(0, systems)) {
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

    private String console(Path image, String name) throws IOException {
        Path flash = folder.resolve("flash-" + name);
        Files.write(flash, UBoot.environment(List.of("virtio0")));
        EmulatedBoard machine = new EmulatedBoard("usb-ehci")
                .with("-bios", UBoot.FIRMWARE.toString())
                .drive(StartSource.CARD, image)
                .flash(1, flash, false);
        return Console.of(
                machine.command(), folder.resolve(name + ".log"), Pattern.compile("PAYLOAD end|TRY none"), 240);
    }

    private void startsEach(int systems, String more) throws IOException {
        Needs.here((Files.isReadable(UBoot.FIRMWARE) && Files.isExecutable(EmulatedBoard.PROGRAM)), "no U-Boot here");
        LayoutPlan plan = plan(systems, more);
        for (String name : NAMES.subList(0, systems)) {
            Path image = folder.resolve("drive-" + systems + name);
            LayoutJob.Composed made =
                    new LayoutJob(workbench).compose(plan.startingWith(name), image, TransferWatch.NONE);
            assertThat(made.starts()).hasSize(systems).allSatisfy((system, trace) -> assertThat(trace.runs())
                    .as(system)
                    .isTrue());
            String said = console(image, systems + name);
            assertThat(said).contains("PAYLOAD " + name);
            Matcher line = Pattern.compile("PAYLOAD bootargs=.*root=PARTUUID=([0-9a-f-]+)")
                    .matcher(said);
            assertThat(line.find()).isTrue();
            // The root it names is that system's, by a general tool.
            int number = made.laid().system(name).number();
            String uuid = made.laid().gpt()
                    ? GeneralTools.run("sfdisk", "--part-uuid", image.toString(), String.valueOf(number))
                    : GeneralTools.run("sfdisk", "--disk-id", image.toString())
                                    .replace("0x", "")
                                    .strip() + "-0" + number;
            assertThat(uuid.strip()).isEqualToIgnoringCase(line.group(1));
            Path root = folder.resolve("root");
            GeneralTools.run(
                    "dd",
                    "status=none",
                    "bs=1M",
                    "if=" + image,
                    "of=" + root,
                    "skip=" + (made.laid().system(name).start() >> 20),
                    "count=" + (made.laid().system(name).size().bytes() >> 20));
            GeneralTools.run("e2fsck", "-fn", root.toString());
            assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/name", root.toString()))
                    .isEqualTo(name);
            assertThat(GeneralTools.run("debugfs", "-R", "cat /etc/fstab", root.toString()))
                    .contains("PARTUUID=" + line.group(1) + " / ext4")
                    .doesNotContain("5eed001");
            Files.delete(image);
        }
    }

    @Test
    void twoSystemsStartEachByTheMenu() throws IOException {
        startsEach(2, "data: 64 MB\n");
    }

    @Test
    void threeSystemsStartEachByTheMenu() throws IOException {
        startsEach(3, "table: gpt\n");
    }

    /** sfdisk, sgdisk and mke2fs see what was meant. */
    @Test
    void tablesAreThoseOfGeneralTools() throws IOException {
        Path mbr = folder.resolve("mbr.img");
        LayoutJob.Composed made = new LayoutJob(workbench).compose(plan(2, "data: 64 MB\n"), mbr, TransferWatch.NONE);
        assertThat(GeneralTools.run("sfdisk", "--verify", mbr.toString())).contains("No errors");
        Path data = folder.resolve("data");
        GeneralTools.run(
                "dd",
                "status=none",
                "bs=1M",
                "if=" + mbr,
                "of=" + data,
                "skip=" + (made.laid().dataPart().orElseThrow().start() >> 20),
                "count=64");
        GeneralTools.run("e2fsck", "-fn", data.toString());
        Path gpt = folder.resolve("gpt.img");
        new LayoutJob(workbench).compose(plan(3, "table: gpt\n"), gpt, TransferWatch.NONE);
        assertThat(GeneralTools.run("sgdisk", "-v", gpt.toString())).contains("No problems found");
        assertThat(GeneralTools.run("sgdisk", "-p", gpt.toString())).contains("everyday", "rescue", "EF00");
        Path start = folder.resolve("start");
        GeneralTools.run("dd", "status=none", "bs=1M", "if=" + gpt, "of=" + start, "skip=4", "count=40");
        GeneralTools.run("fsck.fat", "-n", start.toString());
    }
}

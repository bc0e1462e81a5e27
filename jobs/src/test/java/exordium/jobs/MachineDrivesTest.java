// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.Machine;
import exordium.core.block.MachineDrive;
import exordium.core.block.TransferWatch;
import exordium.core.block.linux.LinuxDrives;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.image.ImageFile;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import exordium.core.writing.Difference;
import exordium.core.writing.Verdict;
import exordium.core.writing.Verification;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.DriveTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.DriveWork;
import exordium.jobs.paper.ReportSheet;
import exordium.jobs.run.Opening;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Block devices of this machine, all of them loop devices made here from files of the test. */
class MachineDrivesTest {
    private static final long MIB = DiskBuilder.MIB;

    @TempDir
    Path folder;

    private boolean made;
    private Path loop;
    private Workbench bench;
    private Targets targets;

    @BeforeEach
    void loopDevice() throws IOException {
        Needs.here(System.getProperty("user.name").equals("root"), "loop devices need root");
        Path backing = folder.resolve("medium");
        DiskBuilder.blank(backing, 200 * MIB);
        loop = Path.of(GeneralTools.run("losetup", "-P", "-f", "--show", backing.toString())
                .strip());
        bench = Opening.of(exordium.store.Workspace.open(folder.resolve("house"), House.CLOCK), ZoneOffset.UTC);
        targets =
                new Targets(bench.reader(), new LinuxDrives(), bench.workspace().folder(), true);
    }

    @AfterEach
    void letGo() {
        if (loop != null) {
            GeneralTools.exitOf("umount", loop + "p2");
            GeneralTools.exitOf("losetup", "-d", loop.toString());
            if (made) {
                GeneralTools.exitOf("rm", loop + "p2");
            }
        }
    }

    /** Where nobody makes device nodes, as in a container, the test makes that of its own partition. */
    private void showPartition() throws IOException {
        String name = loop.getFileName() + "p2";
        Path numbers = Path.of("/sys/block", String.valueOf(loop.getFileName()), name, "dev");
        Needs.ofKernel(Files.exists(numbers), "this kernel reads no partitions of loop devices");
        if (!Files.exists(Path.of(loop + "p2"))) {
            String[] parts = Files.readString(numbers).strip().split(":");
            GeneralTools.run("mknod", loop + "p2", "b", parts[0], parts[1]);
            made = true;
        }
    }

    private MachineDrive drive() throws IOException {
        return new LinuxDrives().find(loop, bench.workspace().folder()).orElseThrow();
    }

    private WriteReport write() throws IOException {
        Path image = new DiskBuilder(folder).build("marsh.img");
        Targets.Target target = targets.at(loop, ByteSize.ZERO);
        WritePlan plan = WritePlan.of(
                ImageFile.open(image),
                ByteSize.of(Files.size(image)),
                target.description(),
                WritePlan.Options.USUAL,
                String.valueOf(loop.getFileName()));
        return WriteJob.run(bench, plan, target, Optional.empty(), TransferWatch.NONE);
    }

    @Test
    void afterWritingTheSystemSeesTheNewTableAndTheFileSystemIsGrownWithIt() throws IOException {
        assertThat(write().verdict()).isEqualTo(Verdict.VERIFIED);
        showPartition();
        assertThat(GeneralTools.run("blkid", "-p", "-s", "LABEL", "-o", "value", loop + "p2")
                        .strip())
                .isEqualTo("root");
        String words =
                new DriveWork(bench, () -> 7).grow(targets.at(loop, ByteSize.ZERO), String.valueOf(loop.getFileName()));
        assertThat(words).contains("Partition 2 grows").contains("resize2fs");
        String told = GeneralTools.run("dumpe2fs", "-h", loop + "p2");
        // 198 MiB less the 44 MiB before it, in blocks of 1 KiB or 4 KiB.
        assertThat(told).containsPattern("Block count:\\s+(157696|39424)\\b");
        assertThat(GeneralTools.exitOf("e2fsck", "-f", "-n", loop + "p2")).isZero();
    }

    @Test
    void aMountedDriveIsRefusedUnmountedAndThenAllowed() throws IOException {
        write();
        showPartition();
        Path place = Files.createDirectory(folder.resolve("mounted here"));
        Needs.here(GeneralTools.exitOf("mount", loop + "p2", place.toString()) == 0, "nothing may be mounted here");
        assertThat(drive().refusals()).extracting(Finding::code).contains("target-mounted");
        assertThatThrownBy(() -> write()).isInstanceOf(Refused.class).hasMessageContaining("is mounted at");
        new DriveTools(Machine.here()).unmount(drive());
        assertThat(drive().refusals()).isEmpty();
        assertThat(new DriveTools(Machine.here())
                        .eject(drive(), bench.workspace().folder()))
                .contains("unplugged");
    }

    @Test
    void aDriveThatHoldsTheSystemIsNeverUnmounted() throws IOException {
        Optional<MachineDrive> system = new LinuxDrives()
                .list(bench.workspace().folder()).stream()
                        .filter(each -> each.refusals().stream()
                                .anyMatch(refusal -> refusal.code().equals("target-holds-system")))
                        .findFirst();
        Needs.ofKernel(system.isPresent(), "this system's root is on no drive that is listed");
        assertThatThrownBy(() -> new DriveTools(Machine.here()).unmount(system.get()))
                .isInstanceOf(Refused.class);
    }

    /** Linux kernel: a name that ends in a digit puts a p before the partition's number. */
    @ParameterizedTest
    @CsvSource({"/dev/sdb, 2, /dev/sdb2", "/dev/mmcblk0, 1, /dev/mmcblk0p1", "/dev/nvme0n1, 3, /dev/nvme0n1p3"})
    void partitionsAreCalledAsTheKernelCallsThem(Path drive, int number, Path node) {
        assertThat(Machine.here().tools().partition(drive, number)).isEqualTo(node);
    }

    @Test
    void aReportIsKeptAsPdfAndJson() throws IOException {
        WriteReport report = new WriteReport(
                "marsh.img",
                "card.img",
                WriteMode.CHANGED,
                1_000_000,
                200_000,
                800_000,
                3,
                1,
                2,
                Optional.empty(),
                Optional.of(new Verification(1_000_000, true, List.of(new Difference(77, 3)))),
                Verdict.DIFFERENT,
                "card.img differs from the image at byte 77.");
        Path pdf = ReportSheet.save(bench, report);
        try (var document = Loader.loadPDF(pdf.toFile())) {
            assertThat(new PDFTextStripper().getText(document))
                    .contains("different", "card.img differs", "byte 77, 3 bytes", "past the page cache", "800 000 B");
        }
        assertThat(Files.readString(Path.of(pdf.toString().replace(".pdf", ".json"))))
                .contains("\"verdict\" : \"different\"");
        assertThat(bench.workspace().log().last().orElseThrow().kind()).isEqualTo("report-saved");
    }
}

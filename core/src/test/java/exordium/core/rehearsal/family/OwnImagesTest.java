// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.board.FamilyField;
import exordium.core.board.FieldSource;
import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.lint.SettingsCheck;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Four images laid out as systems for such boards are, made by general tools (sfdisk, mke2fs, mtools, xorriso): described, and rehearsed
 * without a word that is not so. What stands in them: common practice, no source; the boards are made up.
 */
class OwnImagesTest {
    private static final BoardProfiles KNOWN = BoardProfiles.shipped();
    private static final String STOCK =
            """
            # For more options see what the maker writes of them
            #dtparam=i2c_arm=on
            dtparam=audio=on
            camera_auto_detect=1
            auto_initramfs=1
            arm_64bit=1
            [h400]
            otg_mode=1
            [module-5]
            dtoverlay=dwc2,dr_mode=host
            [all]
            """;

    @TempDir
    Path folder;

    private interface Looking {
        void look(FileDevice device, FamilyFromImage.Described described) throws IOException;
    }

    private void described(Path image, String id, Optional<String> generation, Looking looking) throws IOException {
        try (FileDevice device = FileDevice.forReading(image)) {
            looking.look(device, FamilyFromImage.of(device, KNOWN, id, id, Optional.empty(), generation));
        }
    }

    private static Trace rehearsed(BoardProfile profile, FileDevice device) throws IOException {
        BoardProfile.Port port = profile.ports().stream()
                .filter(each -> each.id().equals("card"))
                .findFirst()
                .orElseThrow();
        String order = profile.order().usual();
        return Rehearsal.of(new Bench(
                profile,
                "",
                "",
                LocalDate.EPOCH,
                new FirmwareConfig(""),
                order,
                profile.power().supply(),
                List.of(new Bench.Attached(
                        port.id(),
                        "the image",
                        MediaCatalogue.shipped().kinds().stream()
                                .filter(kind -> port.buses().contains(kind.bus()))
                                .findFirst()
                                .orElseThrow(),
                        false,
                        true,
                        ContentsReader.read(device, profile.startFiles()))),
                Bench.Network.USUAL));
    }

    private static FieldSource.Kind source(BoardProfile profile, FamilyField field) {
        return profile.source(field, "").source();
    }

    private DiskBuilder severalGenerations() {
        return new DiskBuilder(folder)
                .without("plover-4-b.dtb")
                .without("plover-5-b.dtb")
                .start("config.txt", STOCK)
                .start("heron-4-b.dtb", "tree")
                .start("heron-5-b.dtb", "tree")
                .start("cmdline.txt", "console=tty1 root=PARTUUID=5eed0001-02 rootwait init=/usr/lib/heron/prepare\n")
                .root(
                        "usr/lib/heron/prepare",
                        "#!/bin/sh\nsfdisk -N2 /dev/mmcblk0\nresize2fs /dev/mmcblk0p2\nreboot -f\n")
                .root("usr/sbin/heron-loader", "#!/bin/sh\nexit 0\n")
                .root(
                        "usr/share/man/man8/heron-loader.8",
                        ".TH HERON-LOADER 8\n.SH NAME\nheron\\-loader \\- update the bootloader firmware of a board\n");
    }

    @Test
    void severalGenerationsOnOneCardWithAFirstProgram() throws IOException {
        Path image = severalGenerations().build("several.img");
        described(image, "heron-4", Optional.of("heron-4"), (device, described) -> {
            BoardProfile profile = described.profile();
            assertThat(profile.startFiles().deviceTrees()).containsExactly("heron-4-b.dtb");
            assertThat(profile.firmware().tool()).contains("/usr/sbin/heron-loader");
            assertThat(profile.firmware().recovery()).isEmpty();
            assertThat(profile.firmware().needs()).isEmpty();
            assertThat(profile.startFiles().filters().orElseThrow()).containsExactly("h400", "module-5", "all");
            assertThat(SettingsCheck.settings(STOCK.getBytes(StandardCharsets.UTF_8), profile))
                    .isEmpty();
            Trace trace = rehearsed(profile, device);
            assertThat(trace.runs()).isTrue();
            assertThat(trace.steps())
                    .anyMatch(step -> step.text().contains("/usr/lib/heron/prepare runs in the place of the system"));
            assertThat(trace.findings().stream().filter(Finding::stops)).isEmpty();
        });
    }

    /** Lines of one's own in a file that came in its stock form are looked at as ever. */
    @Test
    void whatIsAddedToAStockFileIsLookedAt() throws IOException {
        Path image = severalGenerations().build("several.img");
        described(image, "heron-4", Optional.of("heron-4"), (device, described) -> {
            byte[] more = (STOCK + "gpu_mem=16\ngpu_mem=32\n").getBytes(StandardCharsets.UTF_8);
            assertThat(SettingsCheck.settings(more, described.profile()))
                    .extracting(Finding::code)
                    .containsExactly("key-twice");
        });
    }

    @Test
    void aTextForTheLoader() throws IOException {
        Path image = new DiskBuilder(folder)
                .without("config.txt")
                .without("start.elf")
                .without("kernel-64.img")
                .without("plover-4-b.dtb")
                .without("plover-5-b.dtb")
                .start("cmdline.txt", "unused\n")
                .start("zImage", "\0".repeat(36) + "\u0018(o\u0001" + "\0".repeat(64))
                .start("dtbs/wren-e.dtb", "tree")
                .start(
                        "uEnv.txt",
                        "# for the loader\nkernel_file=zImage\nfdtfile=wren-e.dtb\nconsole=ttyS0,115200n8\n"
                                + "bootargs=console=${console} root=PARTUUID=5eed0001-02 rootwait rw\n")
                .root("sbin/init", "\u007fELF\u0001")
                .build("env.img");
        described(image, "wren-e", Optional.empty(), (device, described) -> {
            BoardProfile.StartFiles files = described.profile().startFiles();
            assertThat(files.kernelLineForm()).isEqualTo(BoardProfile.KernelLineForm.ENVIRONMENT);
            assertThat(files.kernels()).containsExactly(java.util.Map.entry("zImage", 32));
            assertThat(files.deviceTrees()).containsExactly("wren-e.dtb");
            assertThat(rehearsed(described.profile(), device).runs()).isTrue();
        });
    }

    /** In its place in the text, quotes and all; other names stay as they are. */
    @Test
    void aKernelLineGoesBackIntoATextForTheLoader() {
        String file = "a=1\nsetenv bootargs \"root=/dev/sda2 ro\"\nb=2\n";
        BoardProfile.KernelLineForm form = BoardProfile.KernelLineForm.ENVIRONMENT;
        KernelLine line = KernelLine.in(file, form).orElseThrow();
        assertThat(line.with("ip", "dhcp").putInto(file, form))
                .isEqualTo("a=1\nsetenv bootargs \"ip=dhcp root=/dev/sda2 ro\"\nb=2\n");
    }

    @Test
    void oneWholeExtSystem() throws IOException {
        Path tree = folder.resolve("tree");
        for (String each : List.of("boot/dtbs/6.1", "sbin", "etc")) {
            Files.createDirectories(tree.resolve(each));
        }
        Files.write(
                tree.resolve("boot/vmlinuz-6.1-wren"),
                ("\0".repeat(36) + "\u0018(o\u0001" + "\0".repeat(64)).getBytes(StandardCharsets.ISO_8859_1));
        Files.writeString(tree.resolve("boot/dtbs/6.1/wren-e.dtb"), "tree");
        Files.writeString(
                tree.resolve("boot/uEnv.txt"),
                "uname_r=6.1-wren\nkernel_file=vmlinuz-${uname_r}\ndtb=wren-e.dtb\n"
                        + "bootargs=root=PARTUUID=5eed0003-01 ro rootwait\n");
        Files.write(tree.resolve("sbin/init"), new byte[] {0x7f, 'E', 'L', 'F', 1});
        Files.writeString(tree.resolve("etc/fstab"), "PARTUUID=5eed0003-01 / ext4 defaults 0 1\n");
        Path image = folder.resolve("ext.img");
        DiskBuilder.blank(image, 40 * DiskBuilder.MIB);
        GeneralTools.feed(
                "label: dos\nlabel-id: 0x5eed0003\nstart=8192, size=65536, type=83, bootable\n",
                "sfdisk",
                "-q",
                image.toString());
        GeneralTools.run(
                "mke2fs", "-q", "-t", "ext4", "-d", tree.toString(), "-E", "offset=4194304", image.toString(), "32m");
        described(image, "wren-x", Optional.empty(), (device, described) -> {
            BoardProfile.StartFiles files = described.profile().startFiles();
            assertThat(files.onExt()).isTrue();
            assertThat(files.kernels()).containsExactly(java.util.Map.entry("boot/vmlinuz-6.1-wren", 32));
            Trace trace = rehearsed(described.profile(), device);
            assertThat(trace.runs()).as(trace.explanation()).isTrue();
        });
    }

    /** A disc that UEFI firmware starts by its start record, and one with a partition besides; both are installers' media. */
    @Test
    void discs() throws IOException {
        Path tree = Files.createDirectories(folder.resolve("iso/boot"));
        Path efi = tree.resolve("efi.img");
        DiskBuilder.blank(efi, 4 * DiskBuilder.MIB);
        GeneralTools.run("mkfs.vfat", "-n", "EFI", efi.toString());
        Path loader = Files.writeString(folder.resolve("BOOTAA64.EFI"), "MZ");
        GeneralTools.run("mmd", "-i", efi.toString(), "::/EFI", "::/EFI/BOOT");
        GeneralTools.run("mcopy", "-i", efi.toString(), loader.toString(), "::/EFI/BOOT/BOOTAA64.EFI");
        Path plain = folder.resolve("plain.iso");
        Path both = folder.resolve("both.iso");
        String iso = folder.resolve("iso").toString();
        GeneralTools.run(
                "xorriso",
                "-as",
                "mkisofs",
                "-quiet",
                "-V",
                "SETUP",
                "-e",
                "boot/efi.img",
                "-no-emul-boot",
                "-o",
                plain.toString(),
                iso);
        GeneralTools.run(
                "xorriso",
                "-as",
                "mkisofs",
                "-quiet",
                "-V",
                "SETUP",
                "-append_partition",
                "2",
                "0xef",
                efi.toString(),
                "-e",
                "--interval:appended_partition_2:all::",
                "-no-emul-boot",
                "-o",
                both.toString(),
                iso);
        for (Path each : List.of(plain, both)) {
            described(each, "pine-u", Optional.empty(), (device, described) -> {
                assertThat(described.profile().startFiles().loaders()).containsExactly("EFI/BOOT/BOOTAA64.EFI");
                Trace trace = rehearsed(described.profile(), device);
                assertThat(trace.outcome()).isEqualTo(Trace.Outcome.INSTALLING);
                assertThat(trace.startedFrom()).contains("card");
            });
        }
    }

    /** Read off the image, or as in another family; what rests on the latter is never a stop, and says so. */
    @Test
    void eachFieldSaysWhereItIsFrom() throws IOException {
        Path image = severalGenerations().build("several.img");
        described(image, "heron-4", Optional.of("heron-4"), (device, described) -> {
            BoardProfile profile = described.profile();
            assertThat(source(profile, FamilyField.KERNEL_LINE)).isEqualTo(FieldSource.Kind.IMAGE);
            assertThat(source(profile, FamilyField.FIRMWARE_TOOL)).isEqualTo(FieldSource.Kind.IMAGE);
            assertThat(source(profile, FamilyField.PORTS)).isEqualTo(FieldSource.Kind.INHERITED);
            assertThat(profile.from().unknownIn(profile))
                    .startsWith(FamilyField.ORDER_USUAL, FamilyField.PORTS)
                    .contains(FamilyField.FIRMWARE_RECOVERY, FamilyField.FIRMWARE_NEEDS, FamilyField.TIMING)
                    .doesNotContain(FamilyField.KERNELS, FamilyField.FIRMWARE_TOOL, FamilyField.FILTERS);
            Bench weak = new Bench(
                    profile,
                    "",
                    "",
                    LocalDate.EPOCH,
                    new FirmwareConfig(""),
                    "0xf41",
                    new exordium.core.storage.media.Supply(5, 0.5, "adapter"),
                    List.of(),
                    Bench.Network.USUAL);
            Trace trace = Rehearsal.of(weak);
            assertThat(trace.findings().stream().filter(Finding::stops)).isEmpty();
            assertThat(trace.findings())
                    .anyMatch(each -> each.code().equals("supply-too-weak")
                            && each.text().contains("as in plover-4, not looked at"));
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Families read off disks made by general tools; the magic numbers of kernels are those of the Linux kernel documentation. */
class FamilyFromImageTest {
    private static final ProfileReader READER = new ProfileReader();
    private static final BoardProfiles KNOWN = BoardProfiles.shipped();

    @TempDir
    Path folder;

    private FamilyFromImage.Described read(DiskBuilder disk) throws IOException {
        Path file = disk.build("own.img");
        try (FileDevice device = FileDevice.forReading(file)) {
            return FamilyFromImage.of(device, KNOWN, "own-1", "Own board", Optional.empty(), Optional.empty());
        } finally {
            Files.delete(file);
        }
    }

    /** A kernel that is not packed: zeroes up to its magic number. */
    private static String kernel(int at, String magic) {
        return "\0".repeat(at) + magic + "\0".repeat(64);
    }

    @Test
    void filesOfAUsualKindAreReadAndTheRestIsAsInTheNearestFamily() throws IOException {
        FamilyFromImage.Described described = read(new DiskBuilder(folder).without("plover-5-b.dtb"));
        BoardProfile.StartFiles files = described.profile().startFiles();
        assertThat(files.kernelLine()).isEqualTo("cmdline.txt");
        assertThat(files.settings()).contains("config.txt");
        assertThat(files.kernels()).containsExactly(java.util.Map.entry("kernel-64.img", 64));
        assertThat(files.deviceTrees()).containsExactly("plover-4-b.dtb");
        assertThat(described.nearest()).isEqualTo("plover-4");
        assertThat(described.taken()).anyMatch(line -> line.startsWith("order: hex-digits"));
    }

    @Test
    void namesNobodyKnowsAreReadByWhatTheFilesHold() throws IOException {
        FamilyFromImage.Described described = read(new DiskBuilder(folder)
                .without("config.txt")
                .without("start.elf")
                .without("kernel-64.img")
                .without("plover-4-b.dtb")
                .without("plover-5-b.dtb")
                .start("boot.txt", "console=ttyS0 root=/dev/mmcblk0p2 rw\n")
                .start("cmdline.txt", "nothing of the kind\n")
                .start("knobs.txt", "# mine\nspeed=3\n[all]\nled=off\n")
                .start("first.bin", "loader")
                .start("zImage", kernel(36, "\u0018(o\u0001"))
                .start("heron-a.dtb", "tree")
                .start("heron-b.dtb", "tree"));
        BoardProfile.StartFiles files = described.profile().startFiles();
        assertThat(files.kernelLine()).isEqualTo("boot.txt");
        assertThat(files.settings()).contains("knobs.txt");
        assertThat(files.kernels()).containsExactly(java.util.Map.entry("zImage", 32));
        assertThat(files.loaders()).containsExactly("first.bin");
        assertThat(files.deviceTrees()).containsExactly("heron-*.dtb");
        assertThat(described.profile().width()).isEqualTo(32);
        assertThat(described.nearest()).isEqualTo("plover-3");
    }

    @Test
    void aMenuNamesItsKernelAndItsTree() throws IOException {
        FamilyFromImage.Described described = read(
                new DiskBuilder(folder)
                        .without("config.txt")
                        .without("start.elf")
                        .without("kernel-64.img")
                        .start("Image", kernel(56, "ARMd"))
                        .start("other.dtb", "tree")
                        .start(
                                "extlinux/extlinux.conf",
                                "default own\nlabel own\n  kernel /Image\n  fdt /plover-5-b.dtb\n  append root=/dev/sda2 rw\n"));
        BoardProfile.StartFiles files = described.profile().startFiles();
        assertThat(files.kernelLineForm()).isEqualTo(BoardProfile.KernelLineForm.APPEND);
        assertThat(files.kernels()).containsExactly(java.util.Map.entry("Image", 64));
        assertThat(files.deviceTrees()).containsExactly("plover-5-b.dtb");
        assertThat(files.loaders()).containsExactly("extlinux/extlinux.conf");
        assertThat(described.nearest()).isEqualTo("curlew-e");
    }

    @Test
    void whatIsReadIsWrittenReadAgainAndRehearsedToRun() throws IOException {
        Path disk = new DiskBuilder(folder).build("own.img");
        try (FileDevice device = FileDevice.forReading(disk)) {
            BoardProfile described = FamilyFromImage.of(
                            device, KNOWN, "own-1", "Own", Optional.of("plover-4"), Optional.empty())
                    .profile();
            Path file = Files.writeString(
                    folder.resolve("own-1.yaml"),
                    READER.writeForPeople(new BoardProfiles.Listing(java.util.List.of(described))));
            assertThat(READER.user(file, BoardProfiles.SCHEMA, BoardProfiles.Listing.class)
                            .boards())
                    .containsExactly(described);
        }
    }

    /** Trees of two generations: which one it is is asked, and nothing of the other is taken. */
    @Test
    void anImageOfSeveralGenerationsAsksWhich() throws IOException {
        Path disk = new DiskBuilder(folder)
                .start("heron-4-a.dtb", "tree")
                .start("kernel-5.img", "kernel")
                .without("plover-4-b.dtb")
                .build("several.img");
        try (FileDevice device = FileDevice.forReading(disk)) {
            assertThatThrownBy(() -> described(device, Optional.empty(), Optional.empty()))
                    .isInstanceOfSatisfying(SeveralGenerations.class, several -> assertThat(several.names())
                            .containsExactly("heron-4", "plover-5"));
            assertThatThrownBy(() -> described(device, Optional.empty(), Optional.of("heron-5")))
                    .isInstanceOf(UnknownName.class)
                    .hasMessageContaining("heron-4");
            BoardProfile.StartFiles four = described(device, Optional.empty(), Optional.of("heron-4"));
            assertThat(four.deviceTrees()).containsExactly("heron-4-a.dtb");
            assertThat(four.kernels()).containsOnlyKeys("kernel-64.img");
            assertThat(described(device, Optional.of("plover-5"), Optional.empty())
                            .deviceTrees())
                    .containsExactly("plover-5-b.dtb");
        }
    }

    private static BoardProfile.StartFiles described(
            FileDevice device, Optional<String> like, Optional<String> generation) throws IOException {
        return FamilyFromImage.of(device, KNOWN, "own-1", "Own", like, generation)
                .profile()
                .startFiles();
    }

    @Test
    void whatNothingCanStartFromIsSaidSo() {
        assertThatThrownBy(() -> read(new DiskBuilder(folder).start("cmdline.txt", "quiet\n")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("No kernel line");
        assertThatThrownBy(() -> read(new DiskBuilder(folder).without("kernel-64.img")))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("No kernel was found");
    }

    @Test
    void everyShippedFamilyIsWrittenForPeopleAndReadAgain() throws IOException {
        Path file = Files.writeString(
                folder.resolve("all.yaml"), READER.writeForPeople(new BoardProfiles.Listing(KNOWN.all())));
        assertThat(READER.user(file, BoardProfiles.SCHEMA, BoardProfiles.Listing.class)
                        .boards())
                .isEqualTo(KNOWN.all());
    }
}

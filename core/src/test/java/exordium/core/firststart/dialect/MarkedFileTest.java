// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is shown of an edit, and what a medium says of its own growth. */
class MarkedFileTest {
    @TempDir
    private Path folder;

    private final BoardProfile board = board();

    private static BoardProfile board() {
        try {
            return BoardProfiles.shipped().require("plover-4");
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    private MarkedFile marked(String before, String after, MarkedFile.Side side) {
        FileEdit edit = new FileEdit("config.txt", Optional.of(FileBody.of(before)), Optional.of(FileBody.of(after)));
        return MarkedFile.of(edit, side, "cmdline.txt", board);
    }

    private static String said(MarkedFile file, MarkedFile.Mark... marks) {
        return file.lines().stream()
                .filter(line -> Set.of(marks).contains(line.mark()))
                .map(line -> line.text() + "\n")
                .collect(Collectors.joining());
    }

    /** Whatever is changed: what stays and what goes is the file before, what stays and what comes the file after; diff(1) agrees. */
    @Test
    void bothSidesCanBeReadOffTheMarks() throws IOException {
        Random random = new Random(3);
        for (int i = 0; i < 60; i++) {
            StringBuilder before = new StringBuilder();
            StringBuilder after = new StringBuilder();
            for (int line = 0; line < random.nextInt(30); line++) {
                String text = "key_" + random.nextInt(6) + "=" + random.nextInt(3) + "\n";
                int fate = random.nextInt(5);
                before.append(fate == 0 ? "" : text);
                after.append(fate == 1 ? "" : fate == 2 ? "other=1\n" + text : text);
            }
            MarkedFile file = marked(before.toString(), after.toString(), MarkedFile.Side.CHANGES);
            assertThat(said(file, MarkedFile.Mark.SAME, MarkedFile.Mark.REMOVED))
                    .isEqualTo(before.toString());
            assertThat(said(file, MarkedFile.Mark.SAME, MarkedFile.Mark.ADDED)).isEqualTo(after.toString());
            Path one = Files.writeString(folder.resolve("one"), before);
            Path two = Files.writeString(folder.resolve("two"), after);
            boolean same = GeneralTools.exitOf("diff", "-q", one.toString(), two.toString()) == 0;
            assertThat(said(file, MarkedFile.Mark.ADDED, MarkedFile.Mark.REMOVED)
                            .isEmpty())
                    .isEqualTo(same);
        }
    }

    @Test
    void whatIsFoundStandsAtItsLineOnItsSide() {
        String before = "enable_uart=1\n[all\n";
        String after = "enable_uart=1\n[all]\n";
        assertThat(marked(before, after, MarkedFile.Side.BEFORE).lines().get(1).found())
                .hasSize(1);
        assertThat(marked(before, after, MarkedFile.Side.AFTER).lines())
                .allMatch(line -> line.found().isEmpty());
        MarkedFile both = marked(before, after, MarkedFile.Side.CHANGES);
        assertThat(both.lines())
                .extracting(MarkedFile.Line::mark)
                .containsExactly(MarkedFile.Mark.SAME, MarkedFile.Mark.REMOVED, MarkedFile.Mark.ADDED);
        assertThat(both.lines().get(1).found().get(0).finding().code()).isEqualTo("section-open");
        assertThat(both.fate()).isEqualTo("changed");
    }

    @Test
    void whatBecomesOfAFileIsSaidInAWord() {
        Optional<FileBody> text = Optional.of(FileBody.of("x\n"));
        Map<FileEdit, String> fates = Map.of(
                new FileEdit("a", Optional.empty(), text), "new",
                new FileEdit("b", Optional.empty(), Optional.of(FileBody.of(""))), "new and empty",
                new FileEdit("c", text, Optional.empty()), "taken out",
                new FileEdit("d", text, text), "as it is",
                new FileEdit("e", text, Optional.of(FileBody.of(""))), "emptied",
                new FileEdit("/f", Optional.empty(), Optional.of(FileBody.linkTo("g"))), "a new link");
        fates.forEach((edit, fate) -> assertThat(MarkedFile.of(edit, MarkedFile.Side.CHANGES, "cmdline.txt", board)
                        .fate())
                .isEqualTo(fate));
    }

    /** Marks of systems that grow themselves: common practice, no source; systemd.mount(5), x-systemd.growfs. */
    @ParameterizedTest
    @CsvSource({
        "/etc/init.d/resize2fs_once, x, ITSELF",
        "/etc/systemd/system/growroot.service, x, ITSELF",
        "/etc/initramfs-tools/scripts/init-bottom/expand-rootfs, x, ITSELF",
        "/etc/fstab, PARTUUID=1-02 / ext4 defaults;x-systemd.growfs 0 1, FILE_SYSTEM",
        "cmdline.txt, console=tty1 init=/usr/lib/first/resize-root root=x, ITSELF",
        "/etc/cloud/cloud.cfg, cloud_init_modules: [growpart], ITSELF",
        "/etc/hostname, grow, NOT",
        "/usr/lib/systemd/systemd-growfs, x, NOT"
    })
    void whetherASystemFillsItsMediumIsReadOffIt(String file, String content, SelfGrowth.GrowthKind kind) {
        MediumFiles files = new MediumFiles(
                Map.of(file, FileBody.of(content.replace(';', ','))), Set.of(file), "cmdline.txt", Optional.empty());
        assertThat(SelfGrowth.of(files, Optional.of(FileSystemKind.EXT4)).kind())
                .isEqualTo(kind);
        assertThat(SelfGrowth.of(files, Optional.of(FileSystemKind.NTFS)).kind())
                .isEqualTo(SelfGrowth.GrowthKind.UNKNOWN);
        assertThat(SelfGrowth.of(files, Optional.of(FileSystemKind.NTFS))
                        .finding()
                        .text())
                .contains("ntfs", "not grown");
    }

    @Test
    void aMediumHasRoomOnlyWhereItsLastPartitionCouldBeLonger() {
        ByteSize medium = ByteSize.of(1000L << 20);
        assertThat(new FirstStartFiles.Last(FileSystemKind.EXT4, ByteSize.of(400L << 20), medium).hasRoom(5))
                .isTrue();
        assertThat(new FirstStartFiles.Last(FileSystemKind.EXT4, ByteSize.of(950L << 20), medium).hasRoom(5))
                .isFalse();
        assertThat(new FirstStartFiles.Last(FileSystemKind.EXT4, ByteSize.of(999L << 20), medium).hasRoom(0))
                .isFalse();
        assertThat(List.of(SelfGrowth.GrowthKind.values())).hasSize(4);
    }
}

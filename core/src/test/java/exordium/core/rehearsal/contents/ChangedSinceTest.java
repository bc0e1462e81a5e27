// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ChangedSinceTest {
    @TempDir
    Path folder;

    private MediumContents read(DiskBuilder disk, String name) throws IOException {
        try (FileDevice device = FileDevice.forReading(disk.build(name))) {
            return ContentsReader.read(device, Benches.profile("plover-4").startFiles());
        }
    }

    @Test
    void nothingIsSaidOfWhatIsAsItWas() throws IOException {
        MediumContents contents = read(new DiskBuilder(folder), "a.img");
        assertThat(ChangedSince.between(contents, contents)).isEmpty();
    }

    @Test
    void whatDiffersIsNamed() throws IOException {
        MediumContents before = read(new DiskBuilder(folder).start("old.txt", "x"), "a.img");
        MediumContents now = read(
                new DiskBuilder(folder)
                        .id("5eed0009")
                        .start("config.txt", "arm_64bit=0\n")
                        .start("ssh", "")
                        .root("etc/os-release", "NAME=\"marshlinux\"\nID=marshlinux\nVERSION_ID=\"2026.04\"\n"),
                "b.img");
        assertThat(ChangedSince.between(before, now))
                .contains(
                        "Its disk identifier was 5eed0001 and is 5eed0009.",
                        "Its system was marshlinux 2026.10 and is marshlinux 2026.04.",
                        "Its kernel line changed.",
                        "Its settings changed.",
                        "New in its start partition: ssh.",
                        "Gone from its start partition: old.txt.");
        assertThat(ChangedSince.between(now, before)).hasSameSizeAs(ChangedSince.between(before, now));
    }

    @Test
    void aMediumThatWasClearedHasLostWhatItHad() throws IOException {
        MediumContents before = read(new DiskBuilder(folder), "a.img");
        MediumContents now = MediumContents.unknown(before.inspection().size(), 512, "blank");
        assertThat(ChangedSince.between(before, now))
                .contains("It had 2 partitions and has 0.", "Its settings is gone.", "Its kernel line is gone.");
    }
}

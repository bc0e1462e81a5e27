// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Lists as three kinds of systems keep them, on roots made by general tools; their forms from memory. */
class PackageListTest {
    @TempDir
    private Path folder;

    private Map<String, String> of(DiskBuilder builder) throws IOException {
        try (BlockDevice disk = FileDevice.forReading(builder.build("disk.img"))) {
            PartitionContent root = Inspector.inspect(disk).partitions().get(1);
            return PackageList.of(FileSystems.open(root.partition().on(disk)).orElseThrow());
        }
    }

    @Test
    void whatIsInstalledIsListedAndWhatWasIsNot() throws IOException {
        assertThat(of(new DiskBuilder(folder)
                        .root(
                                "var/lib/dpkg/status",
                                "Package: bell\nStatus: install ok installed\nVersion: 1:2.0-3\nDescription: rings\n"
                                        + " Version: not this one\n\nPackage: horn\nStatus: deinstall ok config-files\n"
                                        + "Version: 3\n\nStatus: install ok installed\nVersion: nameless\n")))
                .containsExactly(Map.entry("bell", "1:2.0-3"));
    }

    @Test
    void apkAndPacmanAreReadAsWell() throws IOException {
        assertThat(of(new DiskBuilder(folder)
                        .root("lib/apk/db/installed", "C:Q1\nP:bell\nV:2.0-r1\n\nP:horn\nV:3-r0\n")))
                .containsExactlyInAnyOrderEntriesOf(Map.of("bell", "2.0-r1", "horn", "3-r0"));
        assertThat(of(new DiskBuilder(folder).root("var/lib/pacman/local/ship-bell-2.0-1/desc", "x")))
                .containsExactly(Map.entry("ship-bell", "2.0-1"));
    }

    @Test
    void aSystemWithoutAListHasNone() throws IOException {
        assertThat(of(new DiskBuilder(folder).root("etc/hostname", "x"))).isEmpty();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class UnpackingRoomTest {
    private static final Path MEMORY = Path.of("/dev/shm");

    @TempDir
    Path disk;

    private void assumeMemory() throws IOException {
        Needs.ofKernel(
                Files.isDirectory(MEMORY) && Files.getFileStore(MEMORY).type().equals("tmpfs"),
                "its disk is kept in memory");
        Needs.ofKernel(!Files.getFileStore(disk).type().equals("tmpfs"), "its disk is kept in memory");
    }

    @Test
    void aTemporaryFolderThatIsMemoryIsLeftAlone() throws IOException {
        assumeMemory();
        assertThat(UnpackingRoom.folder(MEMORY, disk)).isEqualTo(disk);
    }

    @Test
    void theUsualFolderServesWhereItIsADiskOrNothingElseIsThere() throws IOException {
        assertThat(UnpackingRoom.folder(disk, disk.resolve("none"))).isEqualTo(disk);
        assumeMemory();
        assertThat(UnpackingRoom.folder(disk, MEMORY)).isEqualTo(disk);
        assertThat(UnpackingRoom.folder(MEMORY, disk.resolve("none"))).isEqualTo(MEMORY);
    }
}

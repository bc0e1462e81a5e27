// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;

/**
 * Where an image is unpacked that can be read in no other way: the temporary folder, unless that is memory. Then /var/tmp, which
 * is kept over a restart and therefore a disk (Filesystem Hierarchy Standard 3.0, 5.15).
 */
public final class UnpackingRoom {
    private static final Path ON_DISK = Path.of("/var/tmp");
    private static final Set<String> MEMORY = Set.of("tmpfs", "ramfs");

    private UnpackingRoom() {}

    public static Path folder() throws IOException {
        return folder(Path.of(System.getProperty("java.io.tmpdir")), ON_DISK);
    }

    static Path folder(Path usual, Path other) throws IOException {
        boolean otherServes = Files.isDirectory(other) && Files.isWritable(other) && !isMemory(other);
        return otherServes && isMemory(usual) ? other : usual;
    }

    private static boolean isMemory(Path folder) throws IOException {
        return MEMORY.contains(Files.getFileStore(folder).type());
    }
}

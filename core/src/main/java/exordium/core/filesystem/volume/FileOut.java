// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.volume;

import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.NameTaken;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Optional;

/** One file out of a file system into a file of this machine, which is there whole or not at all. */
public final class FileOut {
    private FileOut() {}

    /**
     * Gives how many bytes it has; empty where there is no such file.
     *
     * @throws NameTaken when something stands there already
     * @throws UnreadableInput when there is no folder for it
     * @throws OverBound when it does not fit there
     */
    public static Optional<Long> copy(FileSystemReader reader, String path, Path to) throws IOException {
        if (Files.exists(to)) {
            throw new NameTaken("There is a file " + to + " already; it is not replaced.", to.toString());
        }
        Path folder = to.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            throw new UnreadableInput("There is no folder " + folder + " to put it in.");
        }
        requireRoom(reader, path, folder);
        Path part = to.resolveSibling(to.getFileName() + ".part");
        try {
            try (OutputStream out = Files.newOutputStream(part)) {
                if (!reader.copy(path, out)) {
                    return Optional.empty();
                }
            }
            long bytes = Files.size(part);
            Files.move(part, to, StandardCopyOption.ATOMIC_MOVE);
            return Optional.of(bytes);
        } finally {
            Files.deleteIfExists(part);
        }
    }

    private static void requireRoom(FileSystemReader reader, String path, Path folder) throws IOException {
        long room = Files.getFileStore(folder).getUsableSpace();
        int slash = path.lastIndexOf('/');
        long size = reader.entries(slash <= 0 ? "/" : path.substring(0, slash)).stream()
                .filter(each -> each.name().equals(path.substring(slash + 1)))
                .mapToLong(FileEntry::size)
                .findFirst()
                .orElse(0);
        if (size > room) {
            throw new OverBound(
                    path + " has " + ByteSize.of(size).said() + ", and "
                            + ByteSize.of(room).said() + " are free there; nothing was copied.",
                    room);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Reads files of one file system. Paths are absolute, separated by "/". */
public interface FileSystemReader {
    /** The largest file that {@link #read} hands out whole. */
    int LARGEST_FILE = 16 << 20;

    FileSystemSummary summary();

    /** Told of every stretch that is taken, by its bytes from the start of the file system. */
    interface Allocation {
        void taken(long from, long length);
    }

    /**
     * Tells every stretch that the file system's own maps count as taken, its structures among them.
     *
     * @throws FileSystemException when the maps are broken
     */
    void allocated(Allocation allocation) throws IOException;

    /**
     * Names in a folder, unordered.
     *
     * @throws FileSystemException when the structures on the medium are broken
     */
    List<String> list(String folder) throws IOException;

    /**
     * The whole content of a file, following symbolic links; empty when there is no such file.
     *
     * @throws FileSystemException when it is larger than {@link #LARGEST_FILE} or its structures are broken
     */
    Optional<byte[]> read(String path) throws IOException;

    /**
     * What is in a folder, with kinds and sizes, unordered; empty where there is no such folder.
     *
     * @throws FileSystemException when the structures on the medium are broken
     */
    List<FileEntry> entries(String folder) throws IOException;

    /**
     * Writes a file's content out, however large; false where there is no such file.
     *
     * @throws FileSystemException when its structures are broken
     */
    boolean copy(String path, OutputStream out) throws IOException;

    /**
     * A file with its permissions, or a symbolic link as it stands there; empty where there is neither.
     *
     * @throws FileSystemException as {@link #read}
     */
    default Optional<FileBody> body(String path) throws IOException {
        return read(path).map(FileBody::of);
    }

    /** When a file or folder was last changed, by its own account; empty where that is not told, or there is none. */
    default Optional<Instant> changed(String path) throws IOException {
        return Optional.empty();
    }

    /** How far it reaches in its partition by its own account; nothing where that is not told. */
    default ByteSize extent() {
        return ByteSize.ZERO;
    }

    default boolean has(String folder, String name) throws IOException {
        return list(folder).stream().anyMatch(entry -> entry.equalsIgnoreCase(name));
    }
}

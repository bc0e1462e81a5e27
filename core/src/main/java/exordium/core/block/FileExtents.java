// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** Where a file holds anything: a virtual drive of many gigabytes has few bytes on the disk, and all else reads as zeros. */
public final class FileExtents {
    private FileExtents() {}

    /** Bytes that lie together. */
    public record Extent(long at, long bytes) {}

    /** In order; the whole file where the system does not tell. */
    public static List<Extent> of(Path file) throws IOException {
        return Machine.here().extents(file);
    }
}

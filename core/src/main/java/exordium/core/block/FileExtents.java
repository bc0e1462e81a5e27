// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Where a file holds anything: a virtual drive of many gigabytes has few bytes on the disk, and all else reads as zeros. */
public final class FileExtents {
    private FileExtents() {}

    /** Bytes that lie together. */
    public record Extent(long at, long bytes) {}

    /** In order; the whole file where the system does not tell. */
    public static List<Extent> of(Path file) throws IOException {
        long size = Files.size(file);
        if (!SystemCalls.there()) {
            return size == 0 ? List.of() : List.of(new Extent(0, size));
        }
        List<Extent> stretches = new ArrayList<>();
        int descriptor = SystemCalls.open(file, false, false);
        try {
            long at = SystemCalls.next(descriptor, 0, true);
            while (at >= 0 && at < size) {
                long end = SystemCalls.next(descriptor, at, false);
                long to = end < 0 ? size : Math.min(end, size);
                stretches.add(new Extent(at, to - at));
                at = SystemCalls.next(descriptor, to, true);
            }
        } finally {
            SystemCalls.close(descriptor);
        }
        return stretches;
    }
}

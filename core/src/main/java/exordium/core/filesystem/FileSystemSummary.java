// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import exordium.core.quantity.ByteSize;
import java.util.Optional;

/**
 * What a file system says of itself.
 *
 * @param uuid as general tools print it: "1A2B-3C4D" for FAT, the usual form for others; empty where it has none
 * @param used bytes its own allocation records count as taken; empty where that is not read
 */
public record FileSystemSummary(FileSystemKind kind, String label, String uuid, Optional<ByteSize> used) {
    public static final FileSystemSummary UNKNOWN =
            new FileSystemSummary(FileSystemKind.UNKNOWN, "", "", Optional.empty());
}

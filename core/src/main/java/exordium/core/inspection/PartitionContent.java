// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.filesystem.FileSystemSummary;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;

/** A partition and the file system in it. */
public record PartitionContent(Partition partition, FileSystemSummary fileSystem) {

    /** Bytes that matter: what the file system counts as taken, or all where that is not known. */
    public ByteSize used() {
        return fileSystem.used().orElse(partition.size());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.finding.Finding;
import exordium.core.layout.PartitionTable;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/** What is on an image or a drive, read and not changed. */
public record DriveInspection(
        ByteSize size,
        PartitionTable table,
        List<PartitionContent> partitions,
        Optional<InstalledSystem> system,
        List<Finding> findings) {

    public ByteSize used() {
        return partitions.stream()
                .filter(content -> !content.partition().holdsOthers())
                .map(PartitionContent::used)
                .reduce(ByteSize.ZERO, ByteSize::plus);
    }

    /** Bytes in no partition. */
    public ByteSize unallocated() {
        ByteSize taken = partitions.stream()
                .filter(content -> !content.partition().holdsOthers())
                .map(content -> content.partition().size())
                .reduce(ByteSize.ZERO, ByteSize::plus);
        return size.minusOrZero(taken);
    }

    /** The smallest medium this goes on: its last partition's end, or all of it where there is no table. */
    public ByteSize leastMedium() {
        return table.kind() == PartitionTable.TableKind.NONE ? size : table.leastMedium();
    }
}

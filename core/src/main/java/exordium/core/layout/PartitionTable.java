// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * A drive's partition table as read.
 *
 * @param backupByte where a GPT says its second header stands
 */
public record PartitionTable(
        TableKind kind,
        int sectorSize,
        Optional<DiskIdentifier> diskId,
        List<Partition> partitions,
        Optional<Long> backupByte,
        List<Finding> findings) {
    /** The kinds told apart. */
    public enum TableKind {
        MBR("mbr"),
        GPT("gpt"),
        NONE("none");

        private final String code;

        TableKind(String code) {
            this.code = code;
        }

        public String code() {
            return code;
        }
    }

    public static PartitionTable none(int sectorSize) {
        return new PartitionTable(TableKind.NONE, sectorSize, Optional.empty(), List.of(), Optional.empty(), List.of());
    }

    /** The smallest medium that holds all of it: the last partition's end, and room for a GPT's second table. */
    public ByteSize leastMedium() {
        long end = partitions.stream()
                .max(Comparator.comparingLong(Partition::endByte))
                .map(Partition::endByte)
                .orElse(0L);
        // UEFI specification 5.3.1: the backup is 16 KiB of entries and a header sector after the last usable block.
        return ByteSize.of(kind == TableKind.GPT ? end + 16_384 + sectorSize : end);
    }

    public Optional<Partition> number(int number) {
        return partitions.stream()
                .filter(partition -> partition.number() == number)
                .findFirst();
    }
}

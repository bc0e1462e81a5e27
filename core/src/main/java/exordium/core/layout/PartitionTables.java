// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Reads whichever partition table a device carries. Bounded: at most 128 partitions, at most 4096 GPT entries. */
public final class PartitionTables {
    private static final Basis TABLE = Basis.computed("the partition table");

    private PartitionTables() {}

    /** Never fails on strange content, only where the medium itself cannot be read. */
    public static PartitionTable read(BlockDevice device) throws IOException {
        int sector = device.sectorSize();
        if (device.size().bytes() < 2L * sector) {
            return PartitionTable.none(sector);
        }
        byte[] first = device.bytes(0, 512);
        if (!MbrReader.hasSignature(first)) {
            return GptReader.read(device, sector)
                    .map(table -> checked(table, device))
                    .orElse(PartitionTable.none(sector));
        }
        if (MbrReader.isProtective(first)) {
            for (int size : new int[] {sector, sector == 512 ? 4096 : 512}) {
                var gpt = GptReader.read(device, size);
                if (gpt.isPresent()) {
                    return checked(hybrid(gpt.get(), first), device);
                }
            }
            return new PartitionTable(
                    PartitionTable.TableKind.NONE,
                    sector,
                    java.util.Optional.empty(),
                    List.of(),
                    java.util.Optional.empty(),
                    List.of(Finding.stop(
                            "gpt-broken", "A GPT is announced, but neither of its two headers is whole.", TABLE)));
        }
        if (MbrReader.isFileSystem(first)) {
            return PartitionTable.none(sector);
        }
        return checked(MbrReader.read(device, first, sector), device);
    }

    /** A GPT whose protective MBR names partitions of its own as well: two tables that can drift apart. */
    private static PartitionTable hybrid(PartitionTable table, byte[] first) {
        if (!MbrReader.namesOthers(first)) {
            return table;
        }
        List<Finding> findings = new ArrayList<>(table.findings());
        findings.add(Finding.note(
                "hybrid-table",
                "Beside its GPT it carries an MBR that names partitions of its own; boards that know no GPT see those.",
                Basis.practice()));
        return new PartitionTable(
                table.kind(), table.sectorSize(), table.diskId(), table.partitions(), table.backupByte(), findings);
    }

    private static PartitionTable checked(PartitionTable table, BlockDevice device) {
        List<Finding> findings = new ArrayList<>(table.findings());
        List<Partition> ordered = table.partitions().stream()
                .filter(partition -> !partition.holdsOthers())
                .sorted(Comparator.comparingLong(Partition::startByte))
                .toList();
        long end = 0;
        for (Partition partition : ordered) {
            if (partition.startByte() < end) {
                findings.add(Finding.stop(
                        "partitions-overlap",
                        "Partition " + partition.number() + " begins at byte " + partition.startByte()
                                + ", inside the one before it.",
                        TABLE));
            }
            end = Math.max(end, partition.endByte());
            if (partition.endByte() > device.size().bytes()) {
                findings.add(Finding.stop(
                        "partition-past-end",
                        "Partition " + partition.number() + " ends at byte " + partition.endByte()
                                + ", past the end at " + device.size().bytes() + ".",
                        TABLE));
            }
            if (partition.startByte() % (1 << 20) != 0 && partition.startByte() % (4 << 20) != 0) {
                findings.add(Finding.note(
                        "partition-misaligned",
                        "Partition " + partition.number() + " begins at byte " + partition.startByte()
                                + ", no whole MiB: flash writes more than it has to.",
                        Basis.practice()));
            }
        }
        return new PartitionTable(
                table.kind(),
                table.sectorSize(),
                table.diskId(),
                table.partitions(),
                table.backupByte(),
                List.copyOf(findings));
    }

    static long lba(byte[] bytes, int at, int sectorSize) {
        long value = LittleEndian.i64(bytes, at);
        return value < 0 || value > Long.MAX_VALUE / sectorSize ? -1 : value;
    }
}

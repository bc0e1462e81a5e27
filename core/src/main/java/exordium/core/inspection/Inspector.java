// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystemSummary;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.layout.Partition;
import exordium.core.layout.PartitionTable;
import exordium.core.layout.PartitionTables;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Reads table, file systems and the installed system of a device. Strange content becomes findings, not errors. */
public final class Inspector {
    private static final List<String> OS_RELEASE = List.of("/etc/os-release", "/usr/lib/os-release");

    private static final long ISO_HEAD = 18 * 2048;

    private Inspector() {}

    public static DriveInspection inspect(BlockDevice device) throws IOException {
        PartitionTable table = PartitionTables.read(device);
        List<Finding> findings = new ArrayList<>(table.findings());
        List<PartitionContent> contents = new ArrayList<>();
        Optional<InstalledSystem> system = Optional.empty();
        List<Partition> partitions = table.partitions();
        if (table.kind() == PartitionTable.TableKind.NONE) {
            partitions = wholeAsOne(device);
        }
        for (Partition partition : partitions) {
            if (partition.endByte() > device.size().bytes()) {
                contents.add(new PartitionContent(
                        partition, new FileSystemSummary(FileSystemKind.UNKNOWN, "", "", Optional.empty())));
                continue;
            }
            BlockDevice slice = partition.on(device);
            try {
                contents.add(new PartitionContent(partition, FileSystems.summarise(slice)));
                if (system.isEmpty()) {
                    system = systemOn(slice);
                }
            } catch (MediumException e) {
                // Worn in places: what else is on it still counts.
                contents.add(new PartitionContent(
                        partition, new FileSystemSummary(FileSystemKind.UNKNOWN, "", "", Optional.empty())));
                findings.add(Finding.caution(
                        "partition-unreadable",
                        "Partition " + partition.number() + " cannot be read everywhere: " + e.getMessage() + ".",
                        Basis.computed("reading it")));
            }
        }
        if (device.size().bytes() > ISO_HEAD && FileSystems.startsByRecord(device)) {
            findings.add(Finding.note(
                    "iso-starts-by-record",
                    "It is an ISO image that starts by its own record, as optical discs do; a board starts it only where its"
                            + " firmware knows UEFI, or where it carries a partition table besides.",
                    Basis.standard("El Torito specification 1.0, from memory")));
        }
        if (contents.isEmpty()) {
            findings.add(Finding.note(
                    "nothing-recognised",
                    "There is no partition table and no known file system on it.",
                    Basis.computed("its first and last sectors")));
        }
        return new DriveInspection(device.size(), table, List.copyOf(contents), system, List.copyOf(findings));
    }

    /** A file system without a table counts as one partition with the number zero. */
    private static List<Partition> wholeAsOne(BlockDevice device) throws IOException {
        if (device.size().bytes() < 1024 || FileSystems.summarise(device).kind() == FileSystemKind.UNKNOWN) {
            return List.of();
        }
        return List.of(new Partition(0, 0, ByteSize.of(device.size().bytes()), "", false, ""));
    }

    /**
     * The files of one partition; number 0 where there is no table.
     *
     * @throws UnreadableInput when there is no such partition, or its file system is none that is read
     */
    public static FileSystemReader filesOf(BlockDevice device, int number) throws IOException {
        DriveInspection inspection = inspect(device);
        PartitionContent content = inspection.partitions().stream()
                .filter(each -> each.partition().number() == number)
                .findFirst()
                .orElseThrow(() -> new UnreadableInput(device.name() + " has no partition " + number + "; there are "
                        + inspection.partitions().stream()
                                .map(each -> String.valueOf(each.partition().number()))
                                .collect(java.util.stream.Collectors.joining(", "))
                        + "."));
        return FileSystems.open(content.partition().on(device))
                .orElseThrow(() -> new UnreadableInput("Partition " + number + " holds "
                        + content.fileSystem().kind().code() + ", whose files are not read here; FAT and ext are."));
    }

    private static Optional<InstalledSystem> systemOn(BlockDevice slice) throws IOException {
        try {
            Optional<FileSystemReader> reader = FileSystems.open(slice);
            if (reader.isEmpty() || !reader.get().summary().kind().isExt()) {
                return Optional.empty();
            }
            for (String path : OS_RELEASE) {
                Optional<byte[]> content = reader.get().read(path);
                if (content.isPresent()) {
                    return content.map(InstalledSystem::parse);
                }
            }
        } catch (UnreadableInput e) {
            // A root that cannot be read has no known system; the rehearsal says so where it matters.
            return Optional.empty();
        }
        return Optional.empty();
    }
}

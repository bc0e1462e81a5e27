// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Comparator;
import java.util.Optional;

/**
 * Makes the last partition as large as the medium allows, with a tail left free: only the table is changed. A GPT's second
 * copy moves to the end (UEFI specification 5.3). The file system inside is left to the first start, or to its own tool.
 */
public final class Growth {
    private static final long WHOLE = 1 << 20;
    private static final long MOST_MBR_SECTORS = 0xFFFF_FFFFL;
    private static final int ENTRIES = 446;
    private static final int ENTRY = 16;
    private static final int PRIMARY = 4;

    private final BlockDevice device;
    private final PartitionTable table;
    private final Optional<Partition> last;
    private final long end;
    private final Finding finding;

    private Growth(BlockDevice device, PartitionTable table, Optional<Partition> last, long end, Finding finding) {
        this.device = device;
        this.table = table;
        this.last = last;
        this.end = end;
        this.finding = finding;
    }

    /** Where freeTail: percent of the medium that stay free behind the partition. */
    public static Growth plan(BlockDevice device, int freeTail) throws IOException {
        PartitionTable table = PartitionTables.read(device);
        Optional<Partition> last = table.partitions().stream()
                .filter(each -> !each.holdsOthers())
                .max(Comparator.comparingLong(Partition::endByte));
        Basis basis = Basis.houseRule(freeTail + " % left free");
        if (last.isEmpty()) {
            return new Growth(
                    device,
                    table,
                    last,
                    0,
                    Finding.stop("grow-no-partition", device.name() + " has no partition that could be grown.", basis));
        }
        Partition partition = last.get();
        boolean emptyBehind = table.partitions().stream()
                .anyMatch(each -> each.holdsOthers() && each.startByte() >= partition.endByte());
        if (emptyBehind) {
            return new Growth(
                    device,
                    table,
                    last,
                    0,
                    Finding.stop(
                            "grow-extended",
                            "An extended partition with nothing in it lies behind the last one of " + device.name()
                                    + "; take that off first.",
                            basis));
        }
        long room = device.size().bytes() / 100 * (100 - freeTail);
        if (table.kind() == PartitionTable.TableKind.GPT) {
            room = Math.min(room, device.size().bytes() - (WHOLE + table.sectorSize()));
        } else {
            long first = holder(table, partition).orElse(partition).startByte();
            room = Math.min(room, first + MOST_MBR_SECTORS * table.sectorSize());
        }
        long end = room / WHOLE * WHOLE;
        if (end <= partition.endByte()) {
            return new Growth(
                    device,
                    table,
                    last,
                    partition.endByte(),
                    Finding.note(
                            "grow-nothing",
                            "Partition " + partition.number()
                                    + " reaches to the end already, but for the tail left free.",
                            basis));
        }
        return new Growth(
                device,
                table,
                last,
                end,
                Finding.note(
                        "grow",
                        "Partition " + partition.number() + " grows from "
                                + partition.size().said() + " to "
                                + ByteSize.of(end - partition.startByte()).said() + "; "
                                + ByteSize.of(device.size().bytes() - end).said()
                                + " stay free behind it.",
                        basis));
    }

    /** The extended partition around a logical one. */
    private static Optional<Partition> holder(PartitionTable table, Partition partition) {
        return table.partitions().stream()
                .filter(each -> each.holdsOthers() && partition.number() > PRIMARY)
                .filter(each -> each.startByte() < partition.startByte())
                .findFirst();
    }

    /** What is to be said where nothing here grew the file system as well. */
    public static final String FILE_SYSTEM_STAYS =
            " Some systems grow their file system with it at their first start, others leave it as it is.";

    public Finding finding() {
        return finding;
    }

    public boolean changes() {
        return last.isPresent() && end > last.get().endByte();
    }

    public Optional<Partition> partition() {
        return last;
    }

    /**
     * Changes the table and reads it back.
     *
     * @throws Refused when there is nothing that could be grown
     */
    public void apply() throws IOException {
        if (finding.stops()) {
            throw new Refused(finding);
        }
        if (!changes()) {
            return;
        }
        if (table.kind() == PartitionTable.TableKind.MBR) {
            Optional<Partition> holder = holder(table, last.get());
            if (holder.isPresent()) {
                logical(holder.get(), last.get());
            } else {
                resize(0, last.get().number() - 1, end - last.get().startByte());
            }
        } else {
            gpt(last.get());
        }
        device.flush();
        PartitionTable now = PartitionTables.read(device);
        boolean kept = now.number(last.get().number())
                .filter(partition -> partition.endByte() == end
                        && partition.startByte() == last.get().startByte())
                .isPresent();
        if (!kept) {
            throw new UnreadableInput(device.name() + " does not read back the table that was written.");
        }
    }

    /**
     * The extended partition reaches to the end first, then the link that leads to the last logical one, then that itself:
     * cut off in between, every table still holds what it held.
     */
    private void logical(Partition holder, Partition partition) throws IOException {
        int sector = table.sectorSize();
        resize(0, holder.number() - 1, end - holder.startByte());
        long before = -1;
        long link = holder.startByte();
        while (link < partition.startByte()) {
            byte[] table = device.bytes(link, sector);
            if (link + LittleEndian.u32(table, ENTRIES + 8) * sector == partition.startByte()) {
                if (before >= 0) {
                    resize(before, 1, end - link);
                }
                resize(link, 0, end - partition.startByte());
                return;
            }
            before = link;
            link = holder.startByte() + LittleEndian.u32(table, ENTRIES + ENTRY + 8) * sector;
            if (link <= before) {
                break;
            }
        }
        throw new UnreadableInput("The logical partitions of " + device.name() + " do not stand in their order.");
    }

    /** Gives an entry of the table at a position another length; where it begins stays. */
    private void resize(long position, int entry, long bytes) throws IOException {
        byte[] sector = device.bytes(position, table.sectorSize());
        int at = ENTRIES + entry * ENTRY;
        LittleEndian.putU32(sector, at + 12, bytes / table.sectorSize());
        // Heads and cylinders say nothing past 8 GB; this is what stands there then.
        sector[at + 5] = (byte) 0xFE;
        sector[at + 6] = (byte) 0xFF;
        sector[at + 7] = (byte) 0xFF;
        write(position, sector);
    }

    /**
     * Both copies are made anew from the one that is whole, whatever stands where the other should be. The old second one is
     * wiped, since it would lie inside the grown partition.
     */
    private void gpt(Partition partition) throws IOException {
        GptWriter writer = new GptWriter(device, table.sectorSize());
        byte[] entries = writer.whole().entries().clone();
        int at = Math.multiplyExact(partition.number() - 1, writer.whole().entrySize());
        GptWriter.putI64(entries, at + 40, end / table.sectorSize() - 1);
        writer.write(entries, new byte[0]);
        writer.wipeOldSecond(partition.endByte());
    }

    private void write(long position, byte[] bytes) throws IOException {
        device.write(position, ByteBuffer.wrap(bytes));
    }
}

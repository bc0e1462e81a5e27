// SPDX-License-Identifier: Apache-2.0
package exordium.core.layout;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Master boot record and its chain of logical partitions (layout: UEFI specification 5.2.1). */
final class MbrReader {
    private static final int ENTRIES = 446;
    private static final int ENTRY = 16;
    private static final int MOST_LOGICAL = 124;

    private MbrReader() {}

    static boolean hasSignature(byte[] sector) {
        return LittleEndian.u16(sector, 510) == 0xAA55;
    }

    static boolean isProtective(byte[] sector) {
        for (int i = 0; i < 4; i++) {
            if (LittleEndian.u8(sector, ENTRIES + i * ENTRY + 4) == 0xEE) {
                return true;
            }
        }
        return false;
    }

    /** Whether a protective MBR names partitions besides the one that protects. */
    static boolean namesOthers(byte[] sector) {
        for (int i = 0; i < 4; i++) {
            int type = LittleEndian.u8(sector, ENTRIES + i * ENTRY + 4);
            if (type != 0 && type != 0xEE) {
                return true;
            }
        }
        return false;
    }

    /** A FAT volume without a table ends in the same signature; its four "entries" are code or text. */
    static boolean isFileSystem(byte[] sector) {
        int jump = LittleEndian.u8(sector, 0);
        boolean jumps = jump == 0xEB || jump == 0xE9;
        int bytesPerSector = LittleEndian.u16(sector, 11);
        boolean geometry = bytesPerSector >= 512 && bytesPerSector <= 4096 && Integer.bitCount(bytesPerSector) == 1;
        for (int i = 0; i < 4; i++) {
            int status = LittleEndian.u8(sector, ENTRIES + i * ENTRY);
            if (status != 0 && status != 0x80) {
                return true;
            }
        }
        boolean anyEntry = false;
        for (int i = 0; i < 4; i++) {
            anyEntry |= LittleEndian.u8(sector, ENTRIES + i * ENTRY + 4) != 0;
        }
        return jumps && (geometry || LittleEndian.matches(sector, 3, "EXFAT   ")) && !anyEntry;
    }

    static PartitionTable read(BlockDevice device, byte[] first, int sectorSize) throws IOException {
        List<Partition> partitions = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        DiskIdentifier id = DiskIdentifier.ofMbr(LittleEndian.u32(first, 440));
        long extended = -1;
        for (int i = 0; i < 4; i++) {
            int at = ENTRIES + i * ENTRY;
            int type = LittleEndian.u8(first, at + 4);
            long sectors = LittleEndian.u32(first, at + 12);
            if (type == 0 || sectors == 0) {
                continue;
            }
            long start = LittleEndian.u32(first, at + 8);
            partitions.add(entry(id, i + 1, first, at, start, sectorSize));
            if (isExtended(type)) {
                extended = start;
            }
        }
        if (extended > 0) {
            readLogical(device, id, extended, sectorSize, partitions, findings);
        }
        return new PartitionTable(
                PartitionTable.TableKind.MBR,
                sectorSize,
                Optional.of(id),
                List.copyOf(partitions),
                Optional.empty(),
                findings);
    }

    /** Each link of the chain holds one logical partition and the place of the next, counted from the first. */
    private static void readLogical(
            BlockDevice device,
            DiskIdentifier id,
            long base,
            int sectorSize,
            List<Partition> partitions,
            List<Finding> findings)
            throws IOException {
        long link = base;
        for (int number = 5; number < 5 + MOST_LOGICAL; number++) {
            long position = link * sectorSize;
            if (position + 512 > device.size().bytes()) {
                findings.add(chainBroken(position, "past the end of the drive"));
                return;
            }
            byte[] record = device.bytes(position, 512);
            if (!hasSignature(record)) {
                findings.add(chainBroken(position, "without its signature"));
                return;
            }
            if (LittleEndian.u8(record, ENTRIES + 4) != 0) {
                long start = link + LittleEndian.u32(record, ENTRIES + 8);
                partitions.add(entry(id, number, record, ENTRIES, start, sectorSize));
            }
            long next = LittleEndian.u32(record, ENTRIES + ENTRY + 8);
            if (LittleEndian.u8(record, ENTRIES + ENTRY + 4) == 0 || next == 0) {
                return;
            }
            if (base + next <= link) {
                findings.add(chainBroken(position, "pointing back at itself"));
                return;
            }
            link = base + next;
        }
    }

    private static Finding chainBroken(long position, String how) {
        return Finding.stop(
                "logical-chain-broken",
                "The chain of logical partitions is broken: a link at byte " + position + " is " + how + ".",
                Basis.computed("the partition table"));
    }

    private static Partition entry(
            DiskIdentifier id, int number, byte[] record, int at, long startSector, int sectorSize) {
        return new Partition(
                number,
                startSector * sectorSize,
                ByteSize.of(LittleEndian.u32(record, at + 12) * sectorSize),
                Integer.toHexString(LittleEndian.u8(record, at + 4)),
                LittleEndian.u8(record, at) == 0x80,
                id.partition(number));
    }

    private static boolean isExtended(int type) {
        return type == 0x05 || type == 0x0F || type == 0x85;
    }
}

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
import java.util.Locale;
import java.util.Optional;
import java.util.zip.CRC32;

/** GUID partition table with both its headers (UEFI specification 5.3). */
final class GptReader {
    private static final int HEADER = 92;
    private static final int MOST_ENTRIES = 4096;
    private static final int LARGEST_ENTRY = 4096;
    private static final int MOST_PARTITIONS = 128;
    private static final Basis UEFI = Basis.standard("UEFI specification 5.3");

    private GptReader() {}

    /**
     * One header with the entries it vouches for.
     *
     * @param header of 512 bytes
     */
    record Copy(byte[] header, byte[] entries, int entrySize) {
        long backupLba(int sectorSize) {
            return PartitionTables.lba(header, 32, sectorSize);
        }
    }

    /** The copies that are whole; second: where the first says it stands, else at the end. */
    record Copies(Optional<Copy> first, Optional<Copy> second, long secondLba) {
        /** The one that counts. */
        Optional<Copy> whole() {
            return first.or(() -> second);
        }
    }

    static Copies copies(BlockDevice device, int sectorSize) throws IOException {
        long last = device.size().bytes() / sectorSize - 1;
        Optional<Copy> first = copyAt(device, 1, sectorSize);
        long named = first.map(copy -> copy.backupLba(sectorSize)).orElse(last);
        return new Copies(first, copyAt(device, named, sectorSize), named);
    }

    /** Empty when neither header is whole. */
    static Optional<PartitionTable> read(BlockDevice device, int sectorSize) throws IOException {
        long last = device.size().bytes() / sectorSize - 1;
        Copies copies = copies(device, sectorSize);
        Optional<Copy> first = copies.first();
        Optional<Copy> second = copies.second();
        long named = copies.secondLba();
        if (first.isEmpty() && second.isEmpty()) {
            return Optional.empty();
        }
        List<Finding> findings = new ArrayList<>();
        if (first.isEmpty()) {
            findings.add(Finding.caution(
                    "gpt-first-broken", "The first of the two GPT headers is broken; read from the second.", UEFI));
        } else if (second.isEmpty()) {
            findings.add(Finding.caution(
                    "gpt-backup-broken", "The second GPT header at sector " + named + " is missing or broken.", UEFI));
        } else if (named != last) {
            findings.add(Finding.note(
                    "gpt-backup-not-at-end",
                    "The second GPT header is at sector " + named + ", not at the last, " + last
                            + ": this was copied from a smaller drive.",
                    UEFI));
        }
        Copy copy = first.or(() -> second).orElseThrow();
        return Optional.of(new PartitionTable(
                PartitionTable.TableKind.GPT,
                sectorSize,
                Optional.of(new DiskIdentifier(guid(copy.header(), 56).toLowerCase(Locale.ROOT))),
                partitions(copy, sectorSize),
                Optional.of(named * sectorSize),
                findings));
    }

    private static Optional<Copy> copyAt(BlockDevice device, long lba, int sectorSize) throws IOException {
        long sectors = device.size().bytes() / sectorSize;
        if (lba < 1 || lba >= sectors) {
            return Optional.empty();
        }
        byte[] header = device.bytes(lba * sectorSize, 512);
        if (!LittleEndian.matches(header, 0, "EFI PART")) {
            return Optional.empty();
        }
        long length = LittleEndian.u32(header, 12);
        if (length < HEADER || length > 512) {
            return Optional.empty();
        }
        byte[] blank = java.util.Arrays.copyOf(header, (int) length);
        LittleEndian.putU32(blank, 16, 0);
        if (crc(blank, blank.length) != LittleEndian.u32(header, 16)) {
            return Optional.empty();
        }
        long entriesLba = PartitionTables.lba(header, 72, sectorSize);
        long count = LittleEndian.u32(header, 80);
        long entrySize = LittleEndian.u32(header, 84);
        if (entrySize < 128 || entrySize > LARGEST_ENTRY || count > MOST_ENTRIES || entriesLba < 1) {
            return Optional.empty();
        }
        int bytes = (int) (count * entrySize);
        if (entriesLba * sectorSize > device.size().bytes() - bytes) {
            return Optional.empty();
        }
        byte[] entries = device.bytes(entriesLba * sectorSize, bytes);
        boolean whole = crc(entries, bytes) == LittleEndian.u32(header, 88);
        return whole ? Optional.of(new Copy(header, entries, (int) entrySize)) : Optional.empty();
    }

    private static List<Partition> partitions(Copy copy, int sectorSize) {
        List<Partition> partitions = new ArrayList<>();
        for (int i = 0; (i + 1) * copy.entrySize() <= copy.entries().length; i++) {
            int at = i * copy.entrySize();
            String type = guid(copy.entries(), at);
            long start = PartitionTables.lba(copy.entries(), at + 32, sectorSize);
            long end = PartitionTables.lba(copy.entries(), at + 40, sectorSize);
            boolean used = !type.equals("00000000-0000-0000-0000-000000000000");
            if (used && start > 0 && end >= start && partitions.size() < MOST_PARTITIONS) {
                partitions.add(new Partition(
                        i + 1,
                        start * sectorSize,
                        ByteSize.of((end - start + 1) * sectorSize),
                        type,
                        (LittleEndian.u8(copy.entries(), at + 48) & 4) != 0,
                        guid(copy.entries(), at + 16).toLowerCase(Locale.ROOT),
                        name(copy.entries(), at + 56)));
            }
        }
        return List.copyOf(partitions);
    }

    /** 36 characters of 16 bits (UEFI specification 5.3.3), up to the first that is zero. */
    private static String name(byte[] entries, int at) {
        String name = new String(entries, at, 72, java.nio.charset.StandardCharsets.UTF_16LE);
        int end = name.indexOf('\0');
        return end < 0 ? name : name.substring(0, end);
    }

    private static long crc(byte[] bytes, int length) {
        CRC32 crc = new CRC32();
        crc.update(bytes, 0, length);
        return crc.getValue();
    }

    /** The first three groups are stored little-endian, the rest as written (UEFI specification, appendix A). */
    private static String guid(byte[] b, int at) {
        StringBuilder rest = new StringBuilder();
        for (int i = 8; i < 16; i++) {
            rest.append(String.format(Locale.ROOT, i == 9 ? "%02X-" : "%02X", LittleEndian.u8(b, at + i)));
        }
        return String.format(
                Locale.ROOT,
                "%08X-%04X-%04X-%s",
                LittleEndian.u32(b, at),
                LittleEndian.u16(b, at + 4),
                LittleEndian.u16(b, at + 6),
                rest);
    }
}

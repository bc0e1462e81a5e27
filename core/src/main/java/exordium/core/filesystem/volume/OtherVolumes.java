// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.volume;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.FileSystemSummary;
import exordium.core.filesystem.Uuids;
import exordium.core.filesystem.fat.FatGeometry;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;

/** Labels and identifiers of file systems that are only recognised; offsets from their published layouts. */
final class OtherVolumes {
    private static final int MOST_ATTRIBUTES = 64;
    private static final int MOST_ENTRIES = 1024;

    private OtherVolumes() {}

    static FileSystemSummary of(FileSystemKind kind, byte[] head, BlockDevice slice) throws IOException {
        return switch (kind) {
            case SWAP -> summary(kind, LittleEndian.text(head, 1052, 16), Uuids.plain(head, 1036));
            case BTRFS -> summary(kind, LittleEndian.text(head, 0x1012B, 256), Uuids.plain(head, 0x10020));
            case F2FS -> summary(kind, wideText(head, 1024 + 124, 512), Uuids.plain(head, 1024 + 108));
            case NTFS ->
                summary(
                        kind,
                        ntfsLabel(head, slice),
                        String.format(Locale.ROOT, "%016X", LittleEndian.i64(head, 0x48)));
            case EXFAT -> summary(kind, exfatLabel(head, slice), FatGeometry.serial(LittleEndian.u32(head, 100)));
            case ISO9660 -> summary(kind, LittleEndian.text(head, 32_768 + 40, 32), isoIdentifier(head));
            case SQUASHFS -> summary(kind, "", "");
            default -> FileSystemSummary.UNKNOWN;
        };
    }

    private static FileSystemSummary summary(FileSystemKind kind, String label, String uuid) {
        return new FileSystemSummary(kind, label, uuid, Optional.empty());
    }

    /** UTF-16, little-endian, to the first zero. */
    private static String wideText(byte[] bytes, int at, int most) {
        int length = 0;
        while (length < most && at + 2 * length + 1 < bytes.length && LittleEndian.u16(bytes, at + 2 * length) != 0) {
            length++;
        }
        return new String(bytes, at, 2 * length, StandardCharsets.UTF_16LE);
    }

    /** ECMA-119 8.4.26: the date of modification, or of creation where none is set, as digits. */
    private static String isoIdentifier(byte[] head) {
        String date = LittleEndian.text(head, 32_768 + 830, 16);
        if (!date.matches("\\d{16}") || date.startsWith("0000")) {
            date = LittleEndian.text(head, 32_768 + 813, 16);
        }
        return date.matches("\\d{16}")
                ? date.replaceFirst("(\\d{4})(\\d\\d)(\\d\\d)(\\d\\d)(\\d\\d)(\\d\\d)(\\d\\d)", "$1-$2-$3-$4-$5-$6-$7")
                : "";
    }

    /** Whether an ISO 9660 volume carries a start record (El Torito specification 1.0, boot record volume descriptor). */
    static boolean startsByRecord(byte[] head) {
        return LittleEndian.matches(head, 17 * 2048 + 1, "CD001")
                && head[17 * 2048] == 0
                && LittleEndian.matches(head, 17 * 2048 + 7, "EL TORITO SPECIFICATION");
    }

    /** exFAT specification 7.3: the entry of type 0x83 in the root folder. */
    private static String exfatLabel(byte[] head, BlockDevice slice) throws IOException {
        int sectorShift = LittleEndian.u8(head, 108);
        int clusterShift = LittleEndian.u8(head, 109);
        if (sectorShift < 9 || sectorShift > 12 || clusterShift > 25 - sectorShift) {
            return "";
        }
        long heap = LittleEndian.u32(head, 88) << sectorShift;
        long root = heap + ((LittleEndian.u32(head, 96) - 2) << (sectorShift + clusterShift));
        int length = (int) Math.min(MOST_ENTRIES * 32L, 1L << (sectorShift + clusterShift));
        if (root < 0 || root > slice.size().bytes() - length) {
            return "";
        }
        byte[] folder = slice.bytes(root, length);
        for (int at = 0; at + 32 <= folder.length && folder[at] != 0; at += 32) {
            if (LittleEndian.u8(folder, at) == 0x83) {
                return wideText(folder, at + 2, Math.min(11, LittleEndian.u8(folder, at + 1)));
            }
        }
        return "";
    }

    /** The attribute $VOLUME_NAME (0x60) of record 3 of the master file table. */
    private static String ntfsLabel(byte[] head, BlockDevice slice) throws IOException {
        int bytesPerSector = LittleEndian.u16(head, 11);
        int perCluster = LittleEndian.u8(head, 13);
        int sizeCode = head[64];
        if (bytesPerSector < 256 || bytesPerSector > 4096 || perCluster == 0) {
            return "";
        }
        long cluster = (long) bytesPerSector * perCluster;
        long recordSize = sizeCode < 0 ? 1L << Math.min(16, -sizeCode) : Math.min(1 << 16, sizeCode * cluster);
        long table = LittleEndian.i64(head, 48);
        if (recordSize < 256 || table <= 0 || table > slice.size().bytes() / cluster) {
            return "";
        }
        long place = table * cluster + 3 * recordSize;
        if (place > slice.size().bytes() - recordSize) {
            return "";
        }
        byte[] record = slice.bytes(place, (int) recordSize);
        int at = LittleEndian.u16(record, 20);
        for (int i = 0; i < MOST_ATTRIBUTES && at + 24 <= record.length; i++) {
            long type = LittleEndian.u32(record, at);
            long length = LittleEndian.u32(record, at + 4);
            if (type == 0xFFFFFFFFL || length < 24 || at + length > record.length) {
                return "";
            }
            if (type == 0x60) {
                int valueLength = (int) LittleEndian.u32(record, at + 16);
                int value = at + LittleEndian.u16(record, at + 20);
                return valueLength < 0 || value + valueLength > record.length
                        ? ""
                        : wideText(record, value, valueLength / 2);
            }
            at += (int) length;
        }
        return "";
    }
}

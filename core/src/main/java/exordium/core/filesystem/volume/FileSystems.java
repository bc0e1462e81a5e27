// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.volume;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystemSummary;
import exordium.core.filesystem.ext.ExtReader;
import exordium.core.filesystem.ext.ExtSuperblock;
import exordium.core.filesystem.fat.FatGeometry;
import exordium.core.filesystem.fat.FatReader;
import java.io.IOException;
import java.util.Optional;

/** Tells a file system by its signature and opens a reader where there is one. */
public final class FileSystems {
    private static final int PROBE = 0x11000;

    private FileSystems() {}

    /** A reader for FAT and ext2/3/4; empty for everything else. */
    public static Optional<FileSystemReader> open(BlockDevice slice) throws IOException {
        FileSystemKind kind = kindOf(head(slice));
        if (kind.isFat()) {
            return Optional.of(new FatReader(slice));
        }
        return kind.isExt() ? Optional.of(new ExtReader(slice)) : Optional.empty();
    }

    /** What is there, whether or not it can be read further; broken structures count as unknown. */
    public static FileSystemSummary summarise(BlockDevice slice) throws IOException {
        byte[] head = head(slice);
        FileSystemKind kind = kindOf(head);
        try {
            Optional<FileSystemReader> reader = open(slice);
            if (reader.isPresent()) {
                return reader.get().summary();
            }
        } catch (FileSystemException e) {
            return new FileSystemSummary(kind, "", "", Optional.empty());
        }
        return OtherVolumes.of(kind, head, slice);
    }

    private static byte[] head(BlockDevice slice) throws IOException {
        byte[] head = new byte[PROBE];
        int length = (int) Math.min(PROBE, slice.size().bytes());
        slice.read(0, java.nio.ByteBuffer.wrap(head, 0, length));
        return head;
    }

    private static FileSystemKind kindOf(byte[] head) {
        if (LittleEndian.matches(head, 3, "EXFAT   ")) {
            return FileSystemKind.EXFAT;
        }
        if (LittleEndian.matches(head, 3, "NTFS    ")) {
            return FileSystemKind.NTFS;
        }
        if (LittleEndian.u16(head, ExtSuperblock.OFFSET + 56) == ExtSuperblock.MAGIC) {
            return ExtSuperblock.kindOf(head, ExtSuperblock.OFFSET);
        }
        if (LittleEndian.matches(head, 0, "hsqs")) {
            return FileSystemKind.SQUASHFS;
        }
        if (LittleEndian.matches(head, 0x10040, "_BHRfS_M")) {
            return FileSystemKind.BTRFS;
        }
        if (LittleEndian.u32(head, 1024) == 0xF2F52010L) {
            return FileSystemKind.F2FS;
        }
        if (LittleEndian.matches(head, 4086, "SWAPSPACE2")) {
            return FileSystemKind.SWAP;
        }
        if (LittleEndian.matches(head, 32_769, "CD001")) {
            return FileSystemKind.ISO9660;
        }
        return FatGeometry.parse(head).map(FatGeometry::kind).orElse(FileSystemKind.UNKNOWN);
    }

    /** Whether an ISO 9660 volume carries a start record of its own. */
    public static boolean startsByRecord(BlockDevice slice) throws IOException {
        return OtherVolumes.startsByRecord(head(slice));
    }
}

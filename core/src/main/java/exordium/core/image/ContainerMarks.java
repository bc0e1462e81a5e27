// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.MediumAt;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What a file is by the bytes it begins with, and whether it is what it is called. */
final class ContainerMarks {
    private static final int LONGEST_MAGIC = 16;
    private static final int HEAD = 1 << 16;
    private static final List<String> PACKED = List.of(".xz", ".gz", ".zst", ".bz2", ".zip", ".7z", ".rar", ".copy");

    private ContainerMarks() {}

    /**
     * A file that is called as a container and does not begin as one is a damaged container, unless it looks like a disk: else its packed
     * bytes would go onto a medium as they are, and be found there.
     */
    static void requireNoLostContainer(Path path) throws IOException {
        String name = String.valueOf(path.getFileName()).toLowerCase(Locale.ROOT);
        Optional<String> suffix =
                PACKED.stream().filter(each -> name.endsWith(each)).findFirst();
        if (suffix.isEmpty() || looksLikeDisk(path)) {
            return;
        }
        throw new UnreadableInput(
                path.getFileName() + " is called " + suffix.get()
                        + " and does not begin as such a file does, nor as a disk: it"
                        + " is damaged, or something else.",
                0);
    }

    /** By the marks of MBR and FAT at byte 510, of GPT at 512, of ext at 1080 and of ISO 9660 at 32769. */
    private static boolean looksLikeDisk(Path path) throws IOException {
        try (InputStream stream = MediumAt.stream(path)) {
            byte[] head = stream.readNBytes(HEAD);
            return has(head, 510, 0x55, 0xAA)
                    || has(head, 512, 'E', 'F', 'I', ' ')
                    || has(head, 1080, 0x53, 0xEF)
                    || has(head, 32769, 'C', 'D', '0', '0', '1');
        }
    }

    private static boolean has(byte[] bytes, int at, int... expected) {
        return bytes.length >= at && startsWith(Arrays.copyOfRange(bytes, at, bytes.length), expected);
    }

    static byte[] magic(Path path) throws IOException {
        try (InputStream stream = MediumAt.stream(path)) {
            return stream.readNBytes(LONGEST_MAGIC);
        }
    }

    static ContainerKind kindOf(byte[] magic) {
        if (startsWith(magic, 0xFD, '7', 'z', 'X', 'Z', 0)) {
            return ContainerKind.XZ;
        }
        if (startsWith(magic, 0x1F, 0x8B, 8)) {
            return ContainerKind.GZIP;
        }
        if (startsWith(magic, 0x28, 0xB5, 0x2F, 0xFD)) {
            return ContainerKind.ZSTD;
        }
        if (startsWith(magic, 'B', 'Z', 'h') && magic.length > 3 && magic[3] >= '1' && magic[3] <= '9') {
            return ContainerKind.BZIP2;
        }
        if (startsWith(magic, 'P', 'K', 3, 4)) {
            return ContainerKind.ZIP;
        }
        if (startsWith(magic, CopyManifest.FORMAT.chars().toArray())) {
            return ContainerKind.COPY;
        }
        return startsWith(magic, '7', 'z', 0xBC, 0xAF, 0x27, 0x1C) ? ContainerKind.SEVEN_Z : ContainerKind.RAW;
    }

    static boolean startsWith(byte[] bytes, int... expected) {
        if (bytes.length < expected.length) {
            return false;
        }
        for (int i = 0; i < expected.length; i++) {
            if ((bytes[i] & 0xFF) != expected[i]) {
                return false;
            }
        }
        return true;
    }
}

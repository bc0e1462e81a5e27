// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.CopyReport;
import exordium.core.copies.vault.VaultRun;
import exordium.core.image.Chunk;
import exordium.core.image.CopyManifest;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A drive that is full: every chunk of it is another one and all of it counts, since it has no table. In the suite it is small; at 64
 * GB, in a process with 400 MB, it shows that memory holds ({@code benchmarks/vault-large}).
 */
class VaultLargeTest {
    private static final long MEGABYTES = Long.getLong("exordium.fullDrive", 96);

    @TempDir
    private Path folder;

    /** Its bytes are worked out from where they stand. */
    private record Full(ByteSize size, long different) implements BlockDevice {
        @Override
        public String name() {
            return "full";
        }

        @Override
        public int sectorSize() {
            return 512;
        }

        @Override
        public boolean readOnly() {
            return true;
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            for (long at = position; target.hasRemaining(); at++) {
                if (at % 4096 == 0 && target.remaining() >= 4096) {
                    // One number in each page: no two chunks are the same, and they pack well.
                    target.putLong(at / 4096 + (at / Chunk.BYTES == different ? 1L << 40 : 1));
                    target.position(target.position() + 4096 - 8);
                    at += 4095;
                } else {
                    target.put((byte) 0);
                }
            }
        }

        @Override
        public void write(long position, ByteBuffer source) {
            throw new UnsupportedOperationException("it is read-only");
        }

        @Override
        public void flush() {}

        @Override
        public boolean readsPastCache() {
            return true;
        }

        @Override
        public void close() {}
    }

    @Test
    void aFullDriveIsCopiedTwice() throws IOException {
        ByteSize size = ByteSize.of(MEGABYTES << 20);
        Path vault = folder.resolve("vault");
        Path first = vault.resolve("board").resolve("board-2026-11-01T080000Z.copy");
        Path second = vault.resolve("board").resolve("board-2026-11-02T080000Z.copy");
        try (BlockDevice drive = new Full(size, -1)) {
            CopyReport report = VaultRun.execute(drive, vault, first, Map.of("board", "board"), TransferWatch.NONE);
            assertThat(report.usedBytes()).isEqualTo(size.bytes());
        }
        try (BlockDevice drive = new Full(size, 3)) {
            VaultRun.execute(drive, vault, second, Map.of("board", "board"), TransferWatch.NONE);
        }
        long chunks = size.bytes() / Chunk.BYTES;
        CopyManifest before = CopyManifest.load(first);
        CopyManifest after = CopyManifest.load(second);
        assertThat(before.places()).hasSize((int) chunks);
        assertThat(after.places()).hasSize((int) chunks);
        long same = 0;
        for (int i = 0; i < chunks; i++) {
            same += before.places().get(i).equals(after.places().get(i)) ? 1 : 0;
        }
        assertThat(same).isEqualTo(chunks - 1);
    }
}

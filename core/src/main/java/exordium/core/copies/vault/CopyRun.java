// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumStream;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.Inspector;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.zip.CRC32C;

/**
 * Copies a drive, to the end of its last partition, into a compressed image of the vault. The file keeps a working name
 * until it has been read back and unpacked again with every chunk agreeing; only then does it get its own, with a line
 * of checksum beside it.
 */
public final class CopyRun {
    private static final int CHUNK = 4 << 20;
    private static final int LEVEL = 1;

    private CopyRun() {}

    /** How much of the drive a copy holds. */
    public static ByteSize extent(BlockDevice drive) throws IOException {
        ByteSize end = Inspector.inspect(drive).leastMedium();
        return end.compareTo(drive.size()) > 0 ? drive.size() : end;
    }

    /**
     * @param file where the proven copy goes; must not exist
     * @throws UnreadableInput when the copy does not read back as what was read from the drive, or somebody wrote to the drive
     * @throws CancellationException when the watch says stop; nothing is left behind
     */
    public static CopyReport execute(BlockDevice drive, Path file, TransferWatch watch) throws IOException {
        long begin = System.nanoTime();
        ByteSize extent = extent(drive);
        if (extent.bytes() == 0) {
            throw new UnreadableInput(drive.name() + " holds nothing to copy.");
        }
        Files.createDirectories(file.toAbsolutePath().getParent());
        Path working = file.resolveSibling(file.getFileName() + ".part");
        try {
            String before = drive.changeMark();
            List<Integer> checksums = pack(drive, extent, working, watch);
            if (!drive.changeMark().equals(before)) {
                throw new UnreadableInput(
                        drive.name() + " was written to while it was being copied: the copy would be neither"
                                + " what it held before nor what it holds now, and was not kept. Stop what writes, and copy again.");
            }
            Proven proven = prove(working, checksums, extent, watch);
            Files.move(working, file, StandardCopyOption.ATOMIC_MOVE);
            Files.writeString(
                    file.resolveSibling(file.getFileName() + ".sha256"),
                    proven.sha256() + "  " + file.getFileName() + "\n");
            return new CopyReport(
                    file,
                    extent.bytes(),
                    Files.size(file),
                    proven.sha256(),
                    (System.nanoTime() - begin) / 1e9,
                    drive.readsPastCache() && proven.pastCache(),
                    extent.bytes());
        } finally {
            Files.deleteIfExists(working);
        }
    }

    /** What reading the copy back from its own disk came to. */
    private record Proven(String sha256, boolean pastCache) {}

    private static List<Integer> pack(BlockDevice drive, ByteSize extent, Path working, TransferWatch watch)
            throws IOException {
        List<Integer> checksums = new ArrayList<>();
        ByteBuffer buffer = AlignedBuffers.allocate(CHUNK);
        byte[] heap = new byte[CHUNK];
        try (FileChannel channel = FileChannel.open(
                        working,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.TRUNCATE_EXISTING,
                        StandardOpenOption.WRITE);
                OutputStream packed = new ZstdOutputStream(Channels.newOutputStream(channel), LEVEL)
                        .setChecksum(true)
                        .setCloseFrameOnFlush(false)) {
            for (long position = 0; position < extent.bytes(); position += CHUNK) {
                watch.goOnOrStop();
                long started = System.nanoTime();
                int length = (int) Math.min(CHUNK, extent.bytes() - position);
                buffer.clear().limit(length);
                drive.readBack(position, buffer);
                buffer.flip().get(heap, 0, length);
                checksums.add(crc(heap, length));
                packed.write(heap, 0, length);
                watch.moved(TransferWatch.Phase.COPYING, position, length, System.nanoTime() - started, extent.bytes());
            }
            packed.flush();
            channel.force(true);
        }
        try (FileChannel channel = FileChannel.open(working, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
        return checksums;
    }

    private static Proven prove(Path working, List<Integer> checksums, ByteSize extent, TransferWatch watch)
            throws IOException {
        byte[] heap = new byte[CHUNK];
        long position = 0;
        MessageDigest sha = PublishedChecksum.newSha256();
        try (FileDevice file = FileDevice.forReading(working);
                DigestInputStream packed = new DigestInputStream(new MediumStream(file), sha);
                InputStream stream = new ZstdInputStream(packed)) {
            for (int expected : checksums) {
                watch.goOnOrStop();
                long started = System.nanoTime();
                int length = stream.readNBytes(heap, 0, CHUNK);
                if (crc(heap, length) != expected) {
                    throw new UnreadableInput("The copy does not read back as what was read from the drive.", position);
                }
                watch.moved(
                        TransferWatch.Phase.READING_BACK,
                        position,
                        length,
                        System.nanoTime() - started,
                        extent.bytes());
                position += length;
            }
            if (position != extent.bytes() || stream.read() >= 0) {
                throw new UnreadableInput("The copy is not as long as the drive's contents.", position);
            }
            packed.transferTo(OutputStream.nullOutputStream());
            return new Proven(HexFormat.of().formatHex(sha.digest()), file.readsPastCache());
        }
    }

    private static int crc(byte[] bytes, int length) {
        CRC32C crc = new CRC32C();
        crc.update(bytes, 0, length);
        return (int) crc.getValue();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumStream;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.CRC32C;

/**
 * One new pack of a vault. It has a working name until it was read back from its disk and every chunk unpacked to what it was
 * made from; then it gets its own, and its index after it. Closed before that, nothing of it stays.
 */
final class PackWriter implements Closeable {
    private static final int BUFFER = 4 << 20;

    private final Path pack;
    private final Path index;
    private final Path working;
    private final FileChannel channel;
    private final ByteBuffer buffer = ByteBuffer.allocateDirect(BUFFER);
    private final Map<Chunk, Written> written = new LinkedHashMap<>();
    private long at;
    private boolean done;

    private record Written(long at, int bytes, int unpacked, int crc) {}

    /** Where name: of the pack, without its ending. */
    PackWriter(Path packs, String name) throws IOException {
        Files.createDirectories(packs);
        this.pack = packs.resolve(name + ChunkPacks.PACK);
        this.index = packs.resolve(name + ChunkPacks.INDEX);
        this.working = packs.resolve(name + ".part");
        this.channel = FileChannel.open(working, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    }

    boolean has(Chunk chunk) {
        return written.containsKey(chunk);
    }

    boolean isEmpty() {
        return written.isEmpty();
    }

    /** Where crc: of what is in it, and packed: its frame. */
    void add(Chunk chunk, byte[] packed, int unpacked, int crc) throws IOException {
        if (written.putIfAbsent(chunk, new Written(at, packed.length, unpacked, crc)) != null) {
            return;
        }
        if (buffer.remaining() < packed.length) {
            drain();
        }
        buffer.put(packed);
        at += packed.length;
    }

    private void drain() throws IOException {
        buffer.flip();
        while (buffer.hasRemaining()) {
            channel.write(buffer);
        }
        buffer.clear();
    }

    /**
     * Through to the disk, read back, and known under its name. Gives the bytes of pack and index.
     *
     * @throws UnreadableInput when it does not read back as what was written
     */
    long commit(TransferWatch watch) throws IOException {
        drain();
        channel.force(true);
        channel.close();
        prove(watch);
        Path workingIndex = index.resolveSibling(index.getFileName() + ".part");
        StringBuilder lines = new StringBuilder();
        written.forEach((chunk, frame) -> lines.append(chunk.hex())
                .append(' ')
                .append(frame.at())
                .append(' ')
                .append(frame.bytes())
                .append(' ')
                .append(frame.unpacked())
                .append('\n'));
        Durable.write(workingIndex, lines.toString());
        Files.move(working, pack, StandardCopyOption.ATOMIC_MOVE);
        Files.move(workingIndex, index, StandardCopyOption.ATOMIC_MOVE);
        Durable.folder(pack.getParent());
        done = true;
        return at + lines.length();
    }

    Path index() {
        return index;
    }

    private void prove(TransferWatch watch) throws IOException {
        long total = written.values().stream().mapToLong(Written::unpacked).sum();
        byte[] plain = new byte[Chunk.BYTES];
        long position = 0;
        try (FileDevice file = FileDevice.forReading(working);
                InputStream stream = new MediumStream(file)) {
            for (Written frame : written.values()) {
                watch.goOnOrStop();
                long started = System.nanoTime();
                byte[] packed = stream.readNBytes(frame.bytes());
                if (packed.length != frame.bytes() || !isSame(packed, plain, frame)) {
                    throw new UnreadableInput(
                            "The copy does not read back as what was read from the drive; it was not kept.",
                            frame.at());
                }
                watch.moved(
                        TransferWatch.Phase.READING_BACK,
                        position,
                        frame.unpacked(),
                        System.nanoTime() - started,
                        total);
                position += frame.unpacked();
            }
        }
    }

    private static boolean isSame(byte[] packed, byte[] plain, Written frame) {
        try {
            long got = Zstd.decompressByteArray(plain, 0, plain.length, packed, 0, packed.length);
            return got == frame.unpacked() && crc(plain, (int) got) == frame.crc();
        } catch (ZstdException e) {
            return false;
        }
    }

    static int crc(byte[] bytes, int length) {
        CRC32C crc = new CRC32C();
        crc.update(bytes, 0, length);
        return (int) crc.getValue();
    }

    @Override
    public void close() throws IOException {
        try (FileChannel held = channel) {
            if (!done && held != null) {
                Files.deleteIfExists(working);
                Files.deleteIfExists(index.resolveSibling(index.getFileName() + ".part"));
            }
        }
    }
}

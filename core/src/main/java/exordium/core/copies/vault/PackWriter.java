// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.AlignedBuffers;
import exordium.core.block.Durable;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.zip.CRC32C;

/**
 * One new pack of a vault. Every part of it is put through to the disk, then read back from there and unpacked to what it was made
 * from, each by a thread of its own while further parts are being filled; it has a working name until all of it was, then it gets its
 * own, and its index after it. Closed before that, nothing of it stays. Memory: four parts of 16 MiB.
 */
final class PackWriter implements Closeable {
    private static final int PART = 16 << 20;
    private static final int LONGEST_FRAME = 2 * Chunk.BYTES;
    /** Parts that wait for the disk, are on their way to it, or are read back. */
    private static final int UNDER_WAY = 4;

    private static final int BUFFERS = 3;

    private final Path pack;
    private final Path index;
    private final Path working;
    private final FileChannel channel;
    private final Map<Chunk, Written> written = new LinkedHashMap<>();
    private final ExecutorService disk = Executors.newSingleThreadExecutor();
    private final ExecutorService proof = Executors.newSingleThreadExecutor();
    private final Deque<Future<?>> underWay = new ArrayDeque<>();
    private final ByteBuffer back = AlignedBuffers.allocate(PART + LONGEST_FRAME + AlignedBuffers.ALIGNMENT);
    private final byte[] plain = new byte[Chunk.BYTES];
    private final BlockingQueue<ByteBuffer> free = new ArrayBlockingQueue<>(BUFFERS);
    private ByteBuffer filling = ByteBuffer.allocate(PART);
    private List<Written> part = new ArrayList<>();
    private long at;
    private long partAt;
    private boolean done;

    private record Written(long at, int bytes, int unpacked, int crc) {}

    /** Where name: of the pack, without its ending. */
    PackWriter(Path packs, String name) throws IOException {
        Files.createDirectories(packs);
        this.pack = packs.resolve(name + ChunkPacks.PACK);
        this.index = packs.resolve(name + ChunkPacks.INDEX);
        this.working = packs.resolve(name + ".part");
        this.channel = FileChannel.open(working, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        for (int i = 1; i < BUFFERS; i++) {
            free.add(ByteBuffer.allocate(PART));
        }
    }

    boolean isEmpty() {
        return written.isEmpty();
    }

    /**
     * Where crc: of what is in it, and packed: its frame.
     *
     * @throws UnreadableInput when a part before it did not read back as what was written
     */
    void add(Chunk chunk, byte[] packed, int unpacked, int crc) throws IOException {
        Written frame = new Written(at, packed.length, unpacked, crc);
        if (written.putIfAbsent(chunk, frame) != null) {
            return;
        }
        if (filling.remaining() < packed.length) {
            handOver();
        }
        filling.put(packed);
        part.add(frame);
        at += packed.length;
    }

    /** The part goes to the disk's own thread, and from there to the one that proves it; the oldest must be through before too many wait. */
    private void handOver() throws IOException {
        while (underWay.size() >= UNDER_WAY) {
            await(underWay.remove());
        }
        ByteBuffer full = filling;
        List<Written> frames = part;
        long from = partAt;
        full.flip();
        Future<?> onDisk = disk.submit(() -> {
            through(full);
            return null;
        });
        underWay.add(onDisk);
        underWay.add(proof.submit(() -> {
            await(onDisk);
            prove(frames, from);
            return null;
        }));
        part = new ArrayList<>();
        partAt = at;
        try {
            filling = free.take().clear();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CancellationException();
        }
    }

    private static void await(Future<?> work) throws IOException {
        try {
            work.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CancellationException();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof IOException failure) {
                throw failure;
            }
            throw new IOException("The pack could not be written.", e.getCause());
        }
    }

    /** However it ends, the buffer is free for another part. */
    private void through(ByteBuffer bytes) throws IOException {
        try {
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
            channel.force(false);
        } finally {
            free.add(bytes);
        }
    }

    private void prove(List<Written> frames, long from) throws IOException {
        if (frames.isEmpty()) {
            return;
        }
        Written last = frames.get(frames.size() - 1);
        long end = last.at() + last.bytes();
        long aligned = from - from % AlignedBuffers.ALIGNMENT;
        back.clear().limit((int) (end - aligned));
        try (FileDevice file = FileDevice.forReading(working)) {
            file.readBack(aligned, back);
        }
        byte[] packed = new byte[LONGEST_FRAME];
        for (Written frame : frames) {
            back.position((int) (frame.at() - aligned));
            back.get(packed, 0, frame.bytes());
            if (!isSame(packed, frame)) {
                throw new UnreadableInput(
                        "The copy does not read back as what was read from the drive; it was not kept.", frame.at());
            }
        }
    }

    private boolean isSame(byte[] packed, Written frame) {
        try {
            long got = Zstd.decompressByteArray(plain, 0, plain.length, packed, 0, frame.bytes());
            return got == frame.unpacked() && crc(plain, 0, (int) got) == frame.crc();
        } catch (ZstdException e) {
            return false;
        }
    }

    /**
     * Through to the disk, read back, and known under its name. Gives the bytes of pack and index.
     *
     * @throws UnreadableInput when it does not read back as what was written
     */
    long commit(TransferWatch watch) throws IOException {
        long started = System.nanoTime();
        handOver();
        watch.goOnOrStop();
        while (!underWay.isEmpty()) {
            await(underWay.remove());
        }
        channel.force(true);
        channel.close();
        watch.moved(TransferWatch.Phase.READING_BACK, 0, (int) Math.min(at, PART), System.nanoTime() - started, at);
        watch.goOnOrStop();
        Path workingIndex = index.resolveSibling(index.getFileName() + ".part");
        Map<Chunk, ChunkPacks.Frame> frames = new LinkedHashMap<>();
        written.forEach((chunk, frame) ->
                frames.put(chunk, new ChunkPacks.Frame(0, frame.at(), frame.bytes(), frame.unpacked())));
        String lines = ChunkPacks.index(frames);
        Durable.write(workingIndex, lines);
        Files.move(working, pack, StandardCopyOption.ATOMIC_MOVE);
        Files.move(workingIndex, index, StandardCopyOption.ATOMIC_MOVE);
        Durable.folder(pack.getParent());
        done = true;
        return at + lines.length();
    }

    static int crc(byte[] bytes, int from, int length) {
        CRC32C crc = new CRC32C();
        crc.update(bytes, from, length);
        return (int) crc.getValue();
    }

    @Override
    public void close() throws IOException {
        disk.shutdownNow();
        proof.shutdownNow();
        try (FileChannel held = channel) {
            if (!done && held != null) {
                Files.deleteIfExists(working);
                Files.deleteIfExists(index.resolveSibling(index.getFileName() + ".part"));
            }
        }
    }
}

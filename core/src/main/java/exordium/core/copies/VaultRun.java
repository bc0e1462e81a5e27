// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import com.github.luben.zstd.ZstdCompressCtx;
import exordium.core.block.AlignedBuffers;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileStretches;
import exordium.core.block.TransferWatch;
import exordium.core.block.Waiting;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.UsedMap;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Copies a drive into a vault: what its tables and file systems count as taken, in chunks, each kept once. The copy has a name
 * only after everything it needs was read back from the vault's disk. Memory: {@link #AHEAD} batches of 2 MiB, twice, and 150
 * bytes for every chunk the vault has.
 */
public final class VaultRun {
    public static final String SUFFIX = ".copy";
    private static final Pattern STAMPED = Pattern.compile("(.+)-(\\d{4}-\\d{2}-\\d{2}T\\d{6}Z)");
    private static final int BATCH = 16 * Chunk.BYTES;
    private static final int AHEAD = 12;
    private static final int READS = 2;
    private static final int BUFFERS = READS + 4;
    private static final int LOOK_MILLIS = 50;
    private static final byte[] ZEROS = new byte[BATCH];
    /** The quickest: a card is read slower than this packs, and more of it buys little (measured). */
    private static final int LEVEL = 1;

    private final BlockDevice drive;
    private final Path vault;
    private final TransferWatch watch;
    private final UsedMap used;
    private final Optional<List<FileStretches.Stretch>> stretches;
    private final long extent;
    private final List<CopyManifest.Place> places = new ArrayList<>();
    /** Of the copy before, by their place: what is still the same needs no digest to be known again. */
    private final List<CopyManifest.Place> before;

    private final AtomicBoolean abandoned = new AtomicBoolean();
    private long lastRead = System.nanoTime();

    private VaultRun(BlockDevice drive, Path vault, Path copy, TransferWatch watch) throws IOException {
        this.drive = drive;
        this.vault = vault;
        this.watch = watch;
        this.extent = CopyRun.extent(drive).bytes();
        if (extent == 0) {
            throw new UnreadableInput(drive.name() + " holds nothing to copy.");
        }
        this.used = UsedMap.of(drive);
        this.stretches = drive.stretches();
        this.before = before(copy);
    }

    /** The newest copy in the same folder; none where there is none that can be read. */
    private static List<CopyManifest.Place> before(Path copy) throws IOException {
        Path folder = copy.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(folder)) {
            Optional<Path> newest = files.filter(
                            file -> file.toString().endsWith(SUFFIX) && !file.endsWith(copy.getFileName()))
                    .max(Comparator.naturalOrder());
            return newest.isPresent() ? CopyManifest.load(newest.get()).places() : List.of();
        } catch (UnreadableInput e) {
            return List.of();
        }
    }

    private Optional<Chunk> before(long at, int length) {
        int low = 0;
        int high = before.size() - 1;
        while (low <= high) {
            int middle = (low + high) >>> 1;
            CopyManifest.Place place = before.get(middle);
            if (place.at() == at) {
                return place.bytes() == length ? Optional.of(place.chunk()) : Optional.empty();
            }
            if (place.at() < at) {
                low = middle + 1;
            } else {
                high = middle - 1;
            }
        }
        return Optional.empty();
    }

    /**
     * @param vault its folder
     * @param copy where the copy's list goes, in a folder of the vault; must not exist
     * @param facts what the list says beside
     * @throws UnreadableInput when it does not read back as what was read from the drive, or somebody wrote to the drive
     * @throws CancellationException when the watch says stop; nothing is left behind
     */
    public static CopyReport execute(
            BlockDevice drive, Path vault, Path copy, Map<String, String> facts, TransferWatch watch)
            throws IOException {
        long begin = System.nanoTime();
        return VaultLock.sharing(vault, () -> {
            VaultRun run = new VaultRun(drive, vault, copy, watch);
            long packed = run.packs(packName(copy));
            run.list(copy, facts);
            VaultScript.put(vault);
            return new CopyReport(
                    copy,
                    run.extent,
                    packed + Files.size(copy),
                    PublishedChecksum.sha256(copy),
                    (System.nanoTime() - begin) / 1e9,
                    drive.readsPastCache(),
                    Math.min(run.extent, run.used.bytes().bytes()));
        });
    }

    /** With its list under its name, the copy is there. */
    private void list(Path copy, Map<String, String> facts) throws IOException {
        Files.createDirectories(copy.toAbsolutePath().getParent());
        Path working = copy.resolveSibling(copy.getFileName() + ".part");
        Files.deleteIfExists(working);
        try {
            CopyManifest manifest =
                    new CopyManifest(ByteSize.of(extent), drive.sectorSize(), new LinkedHashMap<>(facts), places);
            String written = manifest.save(working);
            if (!CopyManifest.verify(working).equals(written)) {
                throw new UnreadableInput("The copy's list does not read back as it was written.");
            }
            Files.move(working, copy, StandardCopyOption.ATOMIC_MOVE);
            Durable.folder(copy.toAbsolutePath().getParent());
        } finally {
            Files.deleteIfExists(working);
        }
    }

    /** Packs are read in the order of their names, the later one counts: the time stands first. */
    private static String packName(Path copy) {
        String name = String.valueOf(copy.getFileName()).replaceFirst("\\" + SUFFIX + "$", "");
        Matcher stamped = STAMPED.matcher(name);
        return stamped.matches() ? stamped.group(2) + "-" + stamped.group(1) : name;
    }

    /** Puts what the vault has not yet into a pack of its own; gives the bytes that took. */
    private long packs(String name) throws IOException {
        Path folder = vault.resolve(ChunkPacks.FOLDER);
        ExecutorService workers =
                Executors.newFixedThreadPool(Math.max(1, Runtime.getRuntime().availableProcessors()));
        try (ChunkPacks known = ChunkPacks.in(folder);
                PackWriter pack = new PackWriter(folder, name)) {
            String before = drive.changeMark();
            read(known, pack, workers);
            if (!drive.changeMark().equals(before)) {
                throw new UnreadableInput(
                        drive.name() + " was written to while it was being copied: the copy would be neither"
                                + " what it held before nor what it holds now, and was not kept. Stop what writes, and copy again.");
            }
            return pack.isEmpty() ? 0 : pack.commit(watch);
        } finally {
            workers.shutdownNow();
        }
    }

    /** Two reads are under way at any time, so that the drive never waits for what is done with its bytes. */
    private void read(ChunkPacks known, PackWriter pack, ExecutorService workers) throws IOException {
        ExecutorService readers = Executors.newFixedThreadPool(READS);
        BlockingQueue<ByteBuffer> free = new ArrayBlockingQueue<>(BUFFERS);
        for (int i = 0; i < BUFFERS; i++) {
            free.add(AlignedBuffers.allocate(BATCH));
        }
        Deque<Future<List<Piece>>> ahead = new ArrayDeque<>();
        try {
            for (long at = 0; at < extent; at += BATCH) {
                watch.goOnOrStop();
                int length = (int) Math.min(BATCH, extent - at);
                if (used.holds(at, length) && mayHold(at, length)) {
                    long position = at;
                    ahead.add(batch(position, length, free, readers)
                            .thenApplyAsync(buffer -> pieces(position, taken(buffer, length, free), known), workers));
                }
                while (ahead.size() > AHEAD) {
                    put(pack, ahead.remove());
                }
            }
            while (!ahead.isEmpty()) {
                watch.goOnOrStop();
                put(pack, ahead.remove());
            }
        } finally {
            // What has not begun does not begin; what is being read is waited for, since the drive is closed next.
            abandoned.set(true);
            ahead.forEach(each -> each.cancel(true));
            Waiting.forEnd(readers);
        }
    }

    private CompletableFuture<ByteBuffer> batch(
            long at, int length, BlockingQueue<ByteBuffer> free, ExecutorService readers) {
        CompletableFuture<ByteBuffer> read = new CompletableFuture<>();
        readers.execute(() -> {
            try {
                ByteBuffer buffer = awaited(free);
                long started = System.nanoTime();
                moved(at, fill(at, length, buffer), started);
                read.complete(buffer);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                read.completeExceptionally(e);
            } catch (IOException | RuntimeException | Error e) {
                read.completeExceptionally(e);
            }
        });
        return read;
    }

    /** Waits for a buffer; of an abandoned run nobody gives one back. */
    private ByteBuffer awaited(BlockingQueue<ByteBuffer> free) throws InterruptedException {
        ByteBuffer buffer = null;
        while (buffer == null) {
            if (abandoned.get()) {
                throw new CancellationException();
            }
            buffer = free.poll(LOOK_MILLIS, TimeUnit.MILLISECONDS);
        }
        return buffer;
    }

    private static byte[] taken(ByteBuffer buffer, int length, BlockingQueue<ByteBuffer> free) {
        try {
            byte[] bytes = new byte[length];
            buffer.rewind().get(bytes);
            return bytes;
        } finally {
            free.add(buffer);
        }
    }

    /** A drive does one after the other: the time of a read begins where the one before ended. */
    private synchronized void moved(long at, int bytes, long started) {
        long now = System.nanoTime();
        long begun = Math.max(started, lastRead);
        lastRead = now;
        watch.moved(
                TransferWatch.Phase.COPYING,
                at,
                bytes,
                now - begun,
                Math.min(extent, used.bytes().bytes()));
    }

    /** False where it is known without reading that there are only zeros. */
    private boolean mayHold(long at, long length) {
        return stretches.isEmpty()
                || stretches.get().stream().anyMatch(each -> each.at() < at + length && at < each.at() + each.bytes());
    }

    /** Reads what counts in one batch; the rest of it is zeros. Runs that belong together come in one go. */
    private int fill(long at, int length, ByteBuffer buffer) throws IOException {
        int moved = 0;
        for (int from = 0; from < length; ) {
            boolean counts = used.holds(at + from, Math.min(UsedMap.PIECE, length - from));
            int until = from;
            while (until < length && used.holds(at + until, Math.min(UsedMap.PIECE, length - until)) == counts) {
                until = Math.min(length, until + UsedMap.PIECE);
            }
            buffer.limit(until).position(from);
            if (counts) {
                drive.readBack(at + from, buffer);
                moved += until - from;
            } else {
                buffer.put(ZEROS, 0, until - from);
            }
            from = until;
        }
        buffer.limit(length);
        return moved;
    }

    /** One chunk: empty where it is all zeros, packed where the vault has it not. */
    private record Piece(long at, int bytes, Chunk chunk, byte[] packed, int crc) {}

    private List<Piece> pieces(long at, byte[] bytes, ChunkPacks known) {
        List<Piece> pieces = new ArrayList<>();
        byte[] zeros = new byte[Chunk.BYTES];
        try (ZstdCompressCtx packer = new ZstdCompressCtx()) {
            packer.setLevel(LEVEL).setChecksum(true);
            for (int from = 0; from < bytes.length; from += Chunk.BYTES) {
                int length = Math.min(Chunk.BYTES, bytes.length - from);
                if (Arrays.equals(bytes, from, from + length, zeros, 0, length)) {
                    continue;
                }
                byte[] content = Arrays.copyOfRange(bytes, from, from + length);
                Optional<Chunk> same = before(at + from, length).filter(each -> holds(known, each, content));
                Chunk chunk = same.orElseGet(() -> Chunk.of(content, 0, content.length));
                boolean there = same.isPresent() || holds(known, chunk, content);
                pieces.add(new Piece(
                        at + from,
                        length,
                        chunk,
                        there ? null : packer.compress(content),
                        there ? 0 : PackWriter.crc(content, length)));
            }
        }
        return pieces;
    }

    /** Read back as well: a chunk that went bad since is put down once more, and the later one counts. */
    private static boolean holds(ChunkPacks known, Chunk chunk, byte[] content) {
        try {
            Optional<ChunkPacks.Frame> frame = known.find(chunk);
            return frame.isPresent() && Arrays.equals(known.unpack(frame.get()), content);
        } catch (IOException e) {
            return false;
        }
    }

    private void put(PackWriter pack, Future<List<Piece>> next) throws IOException {
        try {
            for (Piece piece : next.get()) {
                if (piece.packed() != null) {
                    pack.add(piece.chunk(), piece.packed(), piece.bytes(), piece.crc());
                }
                places.add(new CopyManifest.Place(piece.at(), piece.bytes(), piece.chunk()));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CancellationException();
        } catch (ExecutionException e) {
            throw Waiting.failure(e);
        }
    }
}

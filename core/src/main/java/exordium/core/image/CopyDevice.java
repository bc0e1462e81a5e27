// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.MediumException;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;

/** A copy of a vault, read anywhere: chunks are unpacked as they are asked for, and the last few are kept (8 MiB). */
public final class CopyDevice extends ReadOnlyDevice {
    private static final int KEPT = 64;

    private final ChunkPacks packs;
    private final List<CopyManifest.Place> places;
    private final long[] starts;
    private final Map<Integer, byte[]> kept = new LinkedHashMap<>(KEPT, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Integer, byte[]> eldest) {
            return size() > KEPT;
        }
    };

    private CopyDevice(String name, CopyManifest manifest, ChunkPacks packs) {
        super(name, manifest.size(), manifest.sectorSize());
        this.packs = packs;
        this.places = manifest.places();
        this.starts = places.stream().mapToLong(CopyManifest.Place::at).toArray();
    }

    /** Where the packs of a copy lie: in the vault's own folder, one above the board's. */
    public static Path packsOf(Path copy) {
        Path folder = copy.toAbsolutePath().getParent();
        Path above = folder.getParent() == null ? folder : folder.getParent();
        return above.resolve(ChunkPacks.FOLDER);
    }

    /** @throws UnreadableInput when its list is broken, or chunks of it are in no pack */
    public static CopyDevice open(Path copy) throws IOException {
        CopyManifest manifest = CopyManifest.load(copy);
        ChunkPacks packs = ChunkPacks.in(packsOf(copy));
        if (missing(manifest, packs) > 0) {
            packs.lookThrough(TransferWatch.NONE);
        }
        long missing = missing(manifest, packs);
        if (missing > 0) {
            packs.close();
            throw new UnreadableInput(copy.getFileName() + " is not whole: " + missing + " of its "
                    + manifest.places().size() + " chunks are in no pack of the vault.");
        }
        return new CopyDevice(String.valueOf(copy.getFileName()), manifest, packs);
    }

    private static long missing(CopyManifest manifest, ChunkPacks packs) {
        return manifest.places().stream()
                .filter(place -> packs.find(place.chunk()).isEmpty())
                .count();
    }

    @Override
    public synchronized void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        ahead(position, target.remaining());
        long at = position;
        while (target.hasRemaining()) {
            int found = Arrays.binarySearch(starts, at);
            int index = found >= 0 ? found : -found - 2;
            boolean inside =
                    index >= 0 && at < starts[index] + places.get(index).bytes();
            long until = inside
                    ? starts[index] + places.get(index).bytes()
                    : index + 1 < starts.length ? starts[index + 1] : size().bytes();
            int piece = (int) Math.min(target.remaining(), until - at);
            if (inside) {
                target.put(unpacked(index), (int) (at - starts[index]), piece);
            } else {
                zeros(target, piece);
            }
            at += piece;
        }
    }

    /** What is asked for in one go is unpacked and digested on all processors. */
    private void ahead(long position, int length) throws IOException {
        int found = Arrays.binarySearch(starts, position);
        int first = found >= 0 ? found : Math.max(0, -found - 2);
        int end = first;
        while (end < starts.length && starts[end] < position + length && end - first < KEPT) {
            end++;
        }
        List<Integer> wanted = IntStream.range(first, end)
                .filter(index -> !kept.containsKey(index))
                .boxed()
                .toList();
        if (wanted.size() < 2) {
            return;
        }
        Map<Integer, byte[]> chunks = new ConcurrentHashMap<>();
        try {
            wanted.parallelStream().forEach(index -> {
                try {
                    chunks.put(index, chunk(index));
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        kept.putAll(chunks);
    }

    private static void zeros(ByteBuffer target, int count) {
        byte[] none = new byte[Math.min(count, Chunk.BYTES)];
        for (int left = count; left > 0; left -= none.length) {
            target.put(none, 0, Math.min(left, none.length));
        }
    }

    private byte[] unpacked(int index) throws IOException {
        byte[] bytes = kept.get(index);
        if (bytes == null) {
            bytes = chunk(index);
            kept.put(index, bytes);
        }
        return bytes;
    }

    private byte[] chunk(int index) throws IOException {
        byte[] bytes = packs.unpack(places.get(index).chunk());
        if (bytes.length != places.get(index).bytes()) {
            throw new MediumException(name(), starts[index], "its chunk there has another length");
        }
        return bytes;
    }

    @Override
    public void close() throws IOException {
        packs.close();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.TransferWatch;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;

/**
 * Reads chunks of a vault and holds them to their SHA-256.
 *
 * @param chunks that were read, of so many that copies need
 * @param damages one for each copy that something is wrong with
 */
public record VaultCheck(long chunks, long of, long bytes, List<Damage> damages) {
    /**
     * A copy that is not whole.
     *
     * @param at the first place on the drive that is lost
     * @param chunks how many are; 0 where its list cannot be read at all, or an index misleads and nothing is lost
     */
    public record Damage(Path copy, long at, long chunks, String text) {}

    public boolean whole() {
        return damages.isEmpty();
    }

    /**
     * @param sample so many chunks, drawn by chance; all where it is empty
     * @param seed of the draw
     */
    public static VaultCheck of(Path vault, OptionalInt sample, long seed, TransferWatch watch) throws IOException {
        return VaultLock.reading(vault, () -> checked(vault, sample, seed, watch));
    }

    /** The chunks that these copies need, all of them. */
    public static VaultCheck of(Path vault, List<Path> copies, TransferWatch watch) throws IOException {
        return VaultLock.reading(vault, () -> checked(vault, Generations.of(copies), OptionalInt.empty(), 0, watch));
    }

    private static VaultCheck checked(Path vault, OptionalInt sample, long seed, TransferWatch watch)
            throws IOException {
        return checked(vault, Generations.in(vault), sample, seed, watch);
    }

    private static VaultCheck checked(Path vault, Generations all, OptionalInt sample, long seed, TransferWatch watch)
            throws IOException {
        try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER))) {
            Generations.Needed copies = all.needed(file -> true);
            Set<Chunk> bad = new HashSet<>();
            // What is not there at all is found without reading.
            List<Chunk> drawn = new ArrayList<>();
            copies.chunks().forEach(chunk -> (packs.find(chunk).isEmpty() ? bad : drawn).add(chunk));
            if (sample.isPresent()) {
                draw(drawn, sample.getAsInt(), seed);
            }
            sortAsTheyLie(drawn, packs);
            long bytes = read(drawn, packs, bad, watch);
            Set<Chunk> misled = elsewhere(bad, packs, watch);
            bad.removeAll(misled);
            boolean whole =
                    bad.isEmpty() && misled.isEmpty() && copies.unreadable().isEmpty();
            return new VaultCheck(
                    drawn.size(), copies.chunks().size(), bytes, whole ? List.of() : all.hurtBy(bad, misled));
        }
    }

    /** Sorts them first, so that a seed draws the same. */
    private static void draw(List<Chunk> chunks, int sample, long seed) {
        chunks.sort(Comparator.comparingLong(Chunk::a).thenComparingLong(Chunk::b));
        Collections.shuffle(chunks, new Random(seed));
        chunks.subList(Math.min(chunks.size(), sample), chunks.size()).clear();
    }

    private static void sortAsTheyLie(List<Chunk> chunks, ChunkPacks packs) {
        chunks.sort((one, other) -> {
            ChunkPacks.Frame first = packs.find(one).orElseThrow();
            ChunkPacks.Frame second = packs.find(other).orElseThrow();
            return first.pack() != second.pack()
                    ? Integer.compare(first.pack(), second.pack())
                    : Long.compare(first.at(), second.at());
        });
    }

    /** Those that are not where they are said to be become bad; gives the bytes that were read. */
    private static long read(List<Chunk> chunks, ChunkPacks packs, Set<Chunk> bad, TransferWatch watch)
            throws IOException {
        long bytes = 0;
        for (Chunk chunk : chunks) {
            watch.goOnOrStop();
            long started = System.nanoTime();
            ChunkPacks.Frame frame = packs.find(chunk).orElseThrow();
            if (packs.whole(chunk, frame).isEmpty()) {
                bad.add(chunk);
            }
            watch.moved(
                    TransferWatch.Phase.COMPARING,
                    bytes,
                    frame.unpacked(),
                    System.nanoTime() - started,
                    (long) chunks.size() * Chunk.BYTES);
            bytes += frame.unpacked();
        }
        return bytes;
    }

    /** Those of the bad that lie whole somewhere else. */
    private static Set<Chunk> elsewhere(Set<Chunk> bad, ChunkPacks packs, TransferWatch watch) throws IOException {
        Set<Chunk> there = new HashSet<>();
        if (!bad.isEmpty()) {
            packs.lookThrough(watch);
        }
        for (Chunk chunk : bad) {
            if (packs.whole(chunk).isPresent()) {
                there.add(chunk);
            }
        }
        return there;
    }
}

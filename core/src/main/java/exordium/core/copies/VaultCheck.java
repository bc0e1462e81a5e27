// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
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
     * @param chunks how many are; 0 where its list cannot be read at all
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
            Set<Chunk> needed = copies.chunks();
            Set<Chunk> bad = new HashSet<>();
            // What is not there at all is found without reading.
            needed.stream().filter(chunk -> packs.find(chunk).isEmpty()).forEach(bad::add);
            List<Chunk> drawn = new ArrayList<>(needed);
            drawn.removeAll(bad);
            if (sample.isPresent()) {
                // In an order of their own first, so that a seed draws the same.
                drawn.sort(Comparator.comparingLong(Chunk::a).thenComparingLong(Chunk::b));
                Collections.shuffle(drawn, new Random(seed));
                drawn = drawn.subList(0, Math.min(drawn.size(), sample.getAsInt()));
            }
            // In the order they lie on the disk.
            List<Chunk> order = new ArrayList<>(drawn);
            order.sort((one, other) -> {
                ChunkPacks.Frame first = packs.find(one).orElseThrow();
                ChunkPacks.Frame second = packs.find(other).orElseThrow();
                return first.pack() != second.pack()
                        ? Integer.compare(first.pack(), second.pack())
                        : Long.compare(first.at(), second.at());
            });
            long bytes = 0;
            for (Chunk chunk : order) {
                watch.goOnOrStop();
                long started = System.nanoTime();
                int length = packs.find(chunk).orElseThrow().unpacked();
                if (!isWhole(packs, chunk)) {
                    bad.add(chunk);
                }
                watch.moved(
                        TransferWatch.Phase.COMPARING,
                        bytes,
                        length,
                        System.nanoTime() - started,
                        (long) order.size() * Chunk.BYTES);
                bytes += length;
            }
            return new VaultCheck(
                    order.size(),
                    needed.size(),
                    bytes,
                    bad.isEmpty() && copies.unreadable().isEmpty() ? List.of() : all.hurtBy(bad));
        }
    }

    /** Whether a chunk is what its name says. */
    static boolean isWhole(ChunkPacks packs, Chunk chunk) throws IOException {
        try {
            byte[] bytes = packs.unpack(chunk);
            return Chunk.of(bytes, 0, bytes.length).equals(chunk);
        } catch (UnreadableInput | MediumException e) {
            return false;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Takes copies out of a vault, and then the chunks that no copy needs any more: packs of which nothing is needed go, packs of which
 * less than half is needed are packed anew, proven before the old ones go. Killed at any point it leaves too much and never too
 * little.
 *
 * @param freed bytes that came free, or would
 * @param packs that went or were packed anew
 */
public record VaultPrune(List<Path> gone, ByteSize freed, int packs) {

    /** What would come free, with nothing changed. */
    public static VaultPrune preview(Path vault, List<Path> going) throws IOException {
        return VaultLock.reading(vault, () -> pruned(vault, going, "", TransferWatch.NONE));
    }

    /**
     * @param going the lists of the copies that go; others of the vault stay, whoever made them
     * @param stamp what new packs are called by
     * @throws UnreadableInput when a list that stays cannot be read: what it needs is not known, and nothing is taken
     */
    public static VaultPrune run(Path vault, List<Path> going, String stamp, TransferWatch watch) throws IOException {
        return VaultLock.beingAlone(vault, () -> pruned(vault, going, stamp, watch));
    }

    /** Half-made files that a kill left, unless somebody is at the vault at this moment, from whatever workspace. */
    public static void sweepParts(Path vault) throws IOException {
        List<Path> parts = VaultFiles.parts(vault);
        if (parts.isEmpty()) {
            return;
        }
        Optional<VaultLock> alone = VaultLock.tryAlone(vault);
        if (alone.isPresent()) {
            try (VaultLock held = alone.get()) {
                held.requireValid();
                for (Path part : parts) {
                    Files.deleteIfExists(part);
                }
            }
        }
    }

    private static VaultPrune pruned(Path vault, List<Path> going, String stamp, TransferWatch watch)
            throws IOException {
        try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER))) {
            return new Pruning(vault, packs).run(going, stamp, watch);
        }
    }

    private static final class Pruning {
        private final Path vault;
        private final ChunkPacks packs;
        private final Map<Integer, List<Chunk>> live = new HashMap<>();
        private long freed;
        private int touched;

        Pruning(Path vault, ChunkPacks packs) {
            this.vault = vault;
            this.packs = packs;
        }

        /** Where stamp: empty for a look ahead. */
        VaultPrune run(List<Path> going, String stamp, TransferWatch watch) throws IOException {
            Set<Path> leaving = new HashSet<>();
            for (Path each : going) {
                leaving.add(each.toAbsolutePath().normalize());
            }
            Generations.Needed needed = Generations.in(vault)
                    .needed(file -> !leaving.contains(file.toAbsolutePath().normalize()));
            for (String broken : needed.unreadable().values()) {
                throw new UnreadableInput(
                        broken
                                + " What it needs is not known, so nothing is taken out of the vault: repair it or take it out first.");
            }
            for (Path each : going) {
                freed += Files.exists(each) ? Files.size(each) : 0;
                if (!stamp.isEmpty()) {
                    Files.deleteIfExists(each);
                }
            }
            if (!stamp.isEmpty() && !going.isEmpty()) {
                Durable.folder(going.get(0).toAbsolutePath().getParent());
            }
            packs.all().forEach((chunk, frame) -> {
                if (needed.chunks().contains(chunk)) {
                    live.computeIfAbsent(frame.pack(), number -> new ArrayList<>())
                            .add(chunk);
                }
            });
            takePacks(stamp, watch);
            if (!stamp.isEmpty()) {
                sweep();
            }
            return new VaultPrune(List.copyOf(going), ByteSize.of(freed), touched);
        }

        private void takePacks(String stamp, TransferWatch watch) throws IOException {
            List<Integer> thin = new ArrayList<>();
            for (int pack = 0; pack < packs.files().size(); pack++) {
                Path file = packs.files().get(pack);
                List<Chunk> kept = live.getOrDefault(pack, List.of());
                long bytes = kept.stream()
                        .mapToLong(chunk -> packs.find(chunk).orElseThrow().bytes())
                        .sum();
                if (kept.isEmpty()) {
                    freed += Files.size(file) + Files.size(index(file));
                    touched++;
                    delete(file, stamp);
                } else if (bytes < Files.size(file) / 2) {
                    freed += Files.size(file) - bytes;
                    touched++;
                    thin.add(pack);
                }
            }
            if (!stamp.isEmpty() && !thin.isEmpty()) {
                packAnew(thin, stamp, watch);
            }
        }

        private void packAnew(List<Integer> thin, String stamp, TransferWatch watch) throws IOException {
            List<Integer> done = new ArrayList<>();
            try (PackWriter writer = new PackWriter(vault.resolve(ChunkPacks.FOLDER), stamp + "-kept")) {
                for (int pack : thin) {
                    if (move(pack, writer, watch)) {
                        done.add(pack);
                    }
                }
                if (!writer.isEmpty()) {
                    writer.commit(watch);
                }
            }
            for (int pack : done) {
                delete(packs.files().get(pack), stamp);
            }
        }

        /** False where something in it is broken: it stays as it is, for whoever repairs it. */
        private boolean move(int pack, PackWriter writer, TransferWatch watch) throws IOException {
            for (Chunk chunk : live.get(pack)) {
                watch.goOnOrStop();
                ChunkPacks.Frame frame = packs.find(chunk).orElseThrow();
                try {
                    byte[] plain = packs.unpack(frame);
                    writer.add(chunk, packs.packed(frame), plain.length, PackWriter.crc(plain, 0, plain.length));
                } catch (MediumException e) {
                    return false;
                }
            }
            return true;
        }

        private static Path index(Path pack) {
            String name = String.valueOf(pack.getFileName());
            return pack.resolveSibling(name.substring(0, name.length() - ChunkPacks.PACK.length()) + ChunkPacks.INDEX);
        }

        /** The index first: without it, the pack is nobody's. */
        private static void delete(Path pack, String stamp) throws IOException {
            if (!stamp.isEmpty()) {
                Files.deleteIfExists(index(pack));
                Files.deleteIfExists(pack);
            }
        }

        /** What a kill left: packs without an index, and half-made files. Nobody else is at the vault. */
        private void sweep() throws IOException {
            Path folder = vault.resolve(ChunkPacks.FOLDER);
            if (!Files.isDirectory(folder)) {
                return;
            }
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder)) {
                for (Path file : files) {
                    String name = String.valueOf(file.getFileName());
                    boolean orphan = name.endsWith(ChunkPacks.PACK) && !Files.exists(index(file));
                    if (orphan || name.endsWith(".part")) {
                        freed += Files.size(file);
                        Files.deleteIfExists(file);
                    }
                }
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Durable;
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
            return new Pruning(vault, packs, stamp, watch).run(going);
        }
    }

    private static final class Pruning {
        private final Path vault;
        private final ChunkPacks packs;
        private final String stamp;
        private final TransferWatch watch;
        private Set<Chunk> needed = Set.of();
        /** Which of them are said to be in which pack. */
        private final Map<Integer, List<Chunk>> said = new HashMap<>();

        private long freed;
        private int touched;

        /** Where stamp: empty for a look ahead. */
        Pruning(Path vault, ChunkPacks packs, String stamp, TransferWatch watch) {
            this.vault = vault;
            this.packs = packs;
            this.stamp = stamp;
            this.watch = watch;
        }

        private boolean forReal() {
            return !stamp.isEmpty();
        }

        VaultPrune run(List<Path> going) throws IOException {
            needed = needed(going);
            requireAllKnown();
            for (Path each : going) {
                freed += Files.exists(each) ? Files.size(each) : 0;
                if (forReal()) {
                    Files.deleteIfExists(each);
                }
            }
            if (forReal() && !going.isEmpty()) {
                Durable.folder(going.get(0).toAbsolutePath().getParent());
            }
            takePacks();
            if (forReal()) {
                sweep();
            }
            return new VaultPrune(List.copyOf(going), ByteSize.of(freed), touched);
        }

        /** What the copies that stay need. */
        private Set<Chunk> needed(List<Path> going) throws IOException {
            Set<Path> leaving = new HashSet<>();
            for (Path each : going) {
                leaving.add(each.toAbsolutePath().normalize());
            }
            Generations.Needed all = Generations.in(vault)
                    .needed(file -> !leaving.contains(file.toAbsolutePath().normalize()));
            for (String broken : all.unreadable().values()) {
                throw new UnreadableInput(
                        broken
                                + " What it needs is not known, so nothing is taken out of the vault: repair it or take it out first.");
            }
            return all.chunks();
        }

        /** A chunk in no index may lie in any pack: then none goes. Indexes that are not whole are made again first. */
        private void requireAllKnown() throws IOException {
            if (needed.stream().anyMatch(chunk -> packs.find(chunk).isEmpty())) {
                packs.lookThrough(watch);
            }
            long lost =
                    needed.stream().filter(chunk -> packs.find(chunk).isEmpty()).count();
            if (lost > 0) {
                throw new UnreadableInput(lost + (lost == 1 ? " chunk" : " chunks")
                        + " that copies need are in no index, so it is not known which packs they need; nothing is taken"
                        + " out of the vault: check it and mend it first.");
            }
            if (forReal()) {
                PackIndexes.mend(packs, packs.withoutWholeIndex(), watch);
            }
        }

        private void takePacks() throws IOException {
            for (Chunk chunk : needed) {
                said.computeIfAbsent(packs.find(chunk).orElseThrow().pack(), pack -> new ArrayList<>())
                        .add(chunk);
            }
            List<Integer> thin = new ArrayList<>();
            for (int pack = 0; pack < packs.files().size(); pack++) {
                Path file = packs.files().get(pack);
                long kept = said.getOrDefault(pack, List.of()).stream()
                        .mapToLong(chunk -> packs.find(chunk).orElseThrow().bytes())
                        .sum();
                if (kept < Files.size(file) / 2 || kept == 0) {
                    Path index = ChunkPacks.indexOf(file);
                    freed += Files.size(file) - kept + (kept == 0 && Files.exists(index) ? Files.size(index) : 0);
                    touched++;
                    thin.add(pack);
                }
            }
            if (forReal() && !thin.isEmpty()) {
                packAnew(thin);
            }
        }

        /** What is needed of packs that go is found by reading them, not by what their indexes say. */
        private void packAnew(List<Integer> thin) throws IOException {
            List<Integer> done = new ArrayList<>();
            try (PackWriter writer = new PackWriter(vault.resolve(ChunkPacks.FOLDER), stamp + "-kept")) {
                Set<Chunk> moved = new HashSet<>();
                for (int pack : thin) {
                    if (move(pack, thin, moved, writer)) {
                        done.add(pack);
                    }
                }
                if (!writer.isEmpty()) {
                    writer.commit(watch);
                }
            }
            for (int pack : done) {
                delete(packs.files().get(pack));
            }
        }

        /** False where something in it that is needed is broken: it stays as it is, for whoever repairs it. */
        private boolean move(int pack, List<Integer> thin, Set<Chunk> moved, PackWriter writer) throws IOException {
            Map<Chunk, ChunkPacks.Frame> there = packs.scan(pack, watch);
            for (Chunk chunk : said.getOrDefault(pack, List.of())) {
                if (!there.containsKey(chunk) && !moved.contains(chunk) && isNowhereElse(chunk, thin)) {
                    return false;
                }
            }
            for (Map.Entry<Chunk, ChunkPacks.Frame> each : there.entrySet()) {
                Chunk chunk = each.getKey();
                watch.goOnOrStop();
                if (needed.contains(chunk) && !moved.contains(chunk) && isNowhereElse(chunk, thin)) {
                    ChunkPacks.Frame frame = each.getValue();
                    byte[] plain = packs.whole(chunk, frame)
                            .orElseThrow(() -> new MediumException(
                                    String.valueOf(packs.files().get(pack)),
                                    frame.at(),
                                    "it changed while it was read"))
                            .plain();
                    writer.add(chunk, packs.packed(frame), plain.length, PackWriter.crc(plain, 0, plain.length));
                    moved.add(chunk);
                }
            }
            return true;
        }

        /** Whether no pack that stays really has it. */
        private boolean isNowhereElse(Chunk chunk, List<Integer> thin) throws IOException {
            for (ChunkPacks.Frame frame : packs.every(chunk)) {
                if (!thin.contains(frame.pack()) && packs.whole(chunk, frame).isPresent()) {
                    return false;
                }
            }
            return true;
        }

        /** The index first: without it, the pack is nobody's. */
        private static void delete(Path pack) throws IOException {
            Files.deleteIfExists(ChunkPacks.indexOf(pack));
            Files.deleteIfExists(pack);
        }

        /** Half-made files that a kill left. Nobody else is at the vault. */
        private void sweep() throws IOException {
            Path folder = vault.resolve(ChunkPacks.FOLDER);
            if (!Files.isDirectory(folder)) {
                return;
            }
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, Files::isRegularFile)) {
                for (Path file : files) {
                    if (String.valueOf(file.getFileName()).endsWith(VaultFiles.PART)) {
                        freed += Files.size(file);
                        Files.deleteIfExists(file);
                    }
                }
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Durable;
import exordium.core.block.TransferWatch;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.image.PublishedChecksum;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Mends a vault: indexes from its own packs; and from another vault, where there is one, chunks by their SHA-256 and copies' files by what
 * is on record of them. Each is held to its digest before it is taken; what is whole is left as it is.
 *
 * @param indexes that were made again
 * @param chunks that were mended
 * @param lists of copies, and plain copies, that were mended
 * @param left what is still damaged
 */
public record VaultRepair(int indexes, int chunks, int lists, List<VaultCheck.Damage> left) {

    /**
     * @param other another vault with some of the same, where there is one
     * @param onRecord the SHA-256 of the files of copies, by their place in the vault
     */
    public static VaultRepair run(
            Path vault, Optional<Path> other, Map<Path, String> onRecord, String stamp, TransferWatch watch)
            throws IOException {
        VaultLock.Work<VaultRepair> work = () -> new Mending(vault, other, onRecord, stamp, watch).run();
        return VaultLock.beingAlone(vault, () -> other.isPresent() ? VaultLock.reading(other.get(), work) : work.run());
    }

    private static final class Mending {
        private final Path vault;
        private final Optional<Path> other;
        private final Map<Path, String> onRecord;
        private final String stamp;
        private final TransferWatch watch;

        Mending(Path vault, Optional<Path> other, Map<Path, String> onRecord, String stamp, TransferWatch watch) {
            this.vault = vault;
            this.other = other;
            this.onRecord = onRecord;
            this.stamp = stamp;
            this.watch = watch;
        }

        VaultRepair run() throws IOException {
            int lists = other.isPresent() ? files(other.get()) : 0;
            Generations all = Generations.in(vault);
            Set<Chunk> bad = broken(all);
            int indexes = bad.isEmpty() ? 0 : indexes();
            if (indexes > 0) {
                bad = broken(all);
            }
            List<Chunk> mended = bad.isEmpty() || other.isEmpty() ? List.of() : fetched(bad);
            mended.forEach(bad::remove);
            return new VaultRepair(indexes, mended.size(), lists, all.hurtBy(bad, Set.of()));
        }

        private static ChunkPacks packs(Path vault) throws IOException {
            return ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER));
        }

        /** Chunks that are not where the index that counts says. */
        private Set<Chunk> broken(Generations all) throws IOException {
            Set<Chunk> broken = new HashSet<>();
            try (ChunkPacks packs = packs(vault)) {
                for (Chunk chunk : all.needed(file -> true).chunks()) {
                    watch.goOnOrStop();
                    Optional<ChunkPacks.Frame> frame = packs.find(chunk);
                    if (frame.isEmpty() || packs.whole(chunk, frame.get()).isEmpty()) {
                        broken.add(chunk);
                    }
                }
            }
            return broken;
        }

        /** Reads all packs through. */
        private int indexes() throws IOException {
            try (ChunkPacks packs = packs(vault)) {
                List<Integer> every =
                        IntStream.range(0, packs.files().size()).boxed().toList();
                return PackIndexes.mend(packs, every, watch);
            }
        }

        private List<Chunk> fetched(Set<Chunk> bad) throws IOException {
            List<Chunk> fetched = new ArrayList<>();
            try (ChunkPacks source = packs(other.orElseThrow());
                    PackWriter writer = new PackWriter(vault.resolve(ChunkPacks.FOLDER), stamp + "-mended")) {
                for (Chunk chunk : bad) {
                    watch.goOnOrStop();
                    Optional<ChunkPacks.Whole> whole = source.whole(chunk);
                    if (whole.isPresent()) {
                        byte[] plain = whole.get().plain();
                        writer.add(
                                chunk,
                                source.packed(whole.get().frame()),
                                plain.length,
                                PackWriter.crc(plain, 0, plain.length));
                        fetched.add(chunk);
                    }
                }
                if (!writer.isEmpty()) {
                    writer.commit(watch);
                }
            }
            return fetched;
        }

        private int files(Path source) throws IOException {
            Set<Path> wanted = new HashSet<>(onRecord.keySet());
            Generations.in(vault).unreadable().keySet().forEach(file -> wanted.add(vault.relativize(file)));
            int mended = 0;
            for (Path file : wanted) {
                Path ours = vault.resolve(file);
                Path twin = source.resolve(file);
                if (!isGood(file, ours) && isGood(file, twin)) {
                    Files.createDirectories(ours.getParent());
                    fetch(twin, ours);
                    Path sum = twin.resolveSibling(twin.getFileName() + VaultFiles.CHECKSUM);
                    if (Files.isRegularFile(sum, LinkOption.NOFOLLOW_LINKS)) {
                        fetch(sum, ours.resolveSibling(ours.getFileName() + VaultFiles.CHECKSUM));
                    }
                    mended++;
                }
            }
            return mended;
        }

        private static void fetch(Path from, Path to) throws IOException {
            Path working = to.resolveSibling(to.getFileName() + VaultFiles.PART);
            Files.copy(from, working, StandardCopyOption.REPLACE_EXISTING);
            Files.move(working, to, StandardCopyOption.ATOMIC_MOVE);
            Durable.folder(to.toAbsolutePath().getParent());
        }

        /** What is on record; of a copy that is not, a list that can be read. */
        private boolean isGood(Path name, Path file) throws IOException {
            if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                return false;
            }
            String digest = onRecord.get(name);
            return digest == null
                    ? CopyManifest.isSound(file)
                    : PublishedChecksum.sha256(file).equals(digest);
        }
    }
}

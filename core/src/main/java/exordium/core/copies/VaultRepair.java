// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import exordium.core.block.TransferWatch;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Fetches from another vault what is broken in this one: chunks by their SHA-256, lists by their name. Each is held to its digest
 * before it is taken.
 *
 * @param chunks that were mended
 * @param lists of copies that were mended
 * @param left what is still damaged
 */
public record VaultRepair(int chunks, int lists, List<VaultCheck.Damage> left) {

    public static VaultRepair run(Path vault, Path other, String stamp, TransferWatch watch) throws IOException {
        return VaultLock.beingAlone(vault, () -> VaultLock.reading(other, () -> mended(vault, other, stamp, watch)));
    }

    private static VaultRepair mended(Path vault, Path other, String stamp, TransferWatch watch) throws IOException {
        try (ChunkPacks source = ChunkPacks.in(other.resolve(ChunkPacks.FOLDER))) {
            int lists = lists(vault, other);
            Generations all = Generations.in(vault);
            Set<Chunk> bad = new HashSet<>();
            List<Chunk> mended = new ArrayList<>();
            try (ChunkPacks packs = ChunkPacks.in(vault.resolve(ChunkPacks.FOLDER));
                    PackWriter writer = new PackWriter(vault.resolve(ChunkPacks.FOLDER), stamp + "-mended")) {
                for (Chunk chunk : all.needed(file -> true).chunks()) {
                    watch.goOnOrStop();
                    if (VaultCheck.isWhole(packs, chunk)) {
                        continue;
                    }
                    if (source.find(chunk).isPresent() && VaultCheck.isWhole(source, chunk)) {
                        ChunkPacks.Frame frame = source.find(chunk).orElseThrow();
                        byte[] plain = source.unpack(frame);
                        writer.add(chunk, source.packed(frame), plain.length, PackWriter.crc(plain, 0, plain.length));
                        mended.add(chunk);
                    } else {
                        bad.add(chunk);
                    }
                }
                if (!writer.isEmpty()) {
                    writer.commit(watch);
                }
            }
            return new VaultRepair(mended.size(), lists, all.hurtBy(bad));
        }
    }

    private static int lists(Path vault, Path other) throws IOException {
        int mended = 0;
        for (Map.Entry<Path, String> broken : Generations.in(vault).unreadable().entrySet()) {
            Path twin = other.resolve(vault.relativize(broken.getKey()));
            if (Files.isRegularFile(twin) && isList(twin)) {
                Path working = broken.getKey().resolveSibling(broken.getKey().getFileName() + ".part");
                Files.copy(twin, working, StandardCopyOption.REPLACE_EXISTING);
                CopyManifest.load(working);
                Files.move(working, broken.getKey(), StandardCopyOption.ATOMIC_MOVE);
                mended++;
            }
        }
        return mended;
    }

    private static boolean isList(Path file) throws IOException {
        try {
            return CopyManifest.load(file).size().bytes() > 0;
        } catch (exordium.core.finding.UnreadableInput e) {
            return false;
        }
    }
}

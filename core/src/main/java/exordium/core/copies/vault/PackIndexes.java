// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Durable;
import exordium.core.block.TransferWatch;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Indexes of a vault's packs, made again from the packs themselves: a pack says what is in it, an index only where. */
final class PackIndexes {
    private PackIndexes() {}

    /** Makes those of some packs again, where they are not what the pack says; gives how many there were. Somebody is alone at the vault. */
    static int mend(ChunkPacks packs, List<Integer> some, TransferWatch watch) throws IOException {
        int mended = 0;
        for (int pack : some) {
            Map<Chunk, ChunkPacks.Frame> there = withBroken(packs, pack, packs.scan(pack, watch));
            Path index = ChunkPacks.indexOf(packs.files().get(pack));
            byte[] text = ChunkPacks.index(there).getBytes(StandardCharsets.US_ASCII);
            if ((!there.isEmpty() || Files.exists(index)) && !isThere(index, text)) {
                Path working = index.resolveSibling(index.getFileName() + VaultFiles.PART);
                Files.deleteIfExists(working);
                Durable.write(working, new String(text, StandardCharsets.US_ASCII));
                Files.move(working, index, StandardCopyOption.ATOMIC_MOVE);
                mended++;
            }
        }
        if (mended > 0) {
            Durable.folder(packs.files().get(0).toAbsolutePath().getParent());
        }
        return mended;
    }

    /** A chunk that is whole nowhere stays where it is said to be: it is broken, not lost, and found to be so by a check. */
    private static Map<Chunk, ChunkPacks.Frame> withBroken(
            ChunkPacks packs, int pack, Map<Chunk, ChunkPacks.Frame> whole) throws IOException {
        TreeMap<Long, Long> taken = new TreeMap<>();
        whole.values().forEach(frame -> taken.put(frame.at(), frame.at() + frame.bytes()));
        Map<Chunk, ChunkPacks.Frame> all = new LinkedHashMap<>(whole);
        for (Map.Entry<Chunk, ChunkPacks.Frame> said : packs.all().entrySet()) {
            ChunkPacks.Frame frame = said.getValue();
            Map.Entry<Long, Long> before = taken.lowerEntry(frame.at() + frame.bytes());
            boolean free = before == null || before.getValue() <= frame.at();
            if (frame.pack() == pack && free && packs.whole(said.getKey()).isEmpty()) {
                all.putIfAbsent(said.getKey(), frame);
            }
        }
        return all;
    }

    private static boolean isThere(Path index, byte[] text) throws IOException {
        return Files.isRegularFile(index)
                && Files.size(index) == text.length
                && Arrays.equals(Files.readAllBytes(index), text);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * All copies of a vault that are lists of chunks, whoever made them.
 *
 * @param copies by their file
 * @param unreadable those whose list cannot be read, with the sentence that says why
 */
public record Generations(Map<Path, CopyManifest> copies, Map<Path, String> unreadable) {

    public static Generations in(Path vault) throws IOException {
        return of(files(vault));
    }

    /** These alone. */
    static Generations of(List<Path> files) throws IOException {
        Map<Path, CopyManifest> copies = new TreeMap<>();
        Map<Path, String> unreadable = new TreeMap<>();
        Map<Chunk, Chunk> known = new HashMap<>();
        for (Path file : files) {
            try {
                copies.put(file, CopyManifest.load(file, chunk -> {
                    Chunk same = known.putIfAbsent(chunk, chunk);
                    return same == null ? chunk : same;
                }));
            } catch (UnreadableInput e) {
                unreadable.put(file, e.getMessage());
            }
        }
        return new Generations(copies, unreadable);
    }

    private static List<Path> files(Path vault) throws IOException {
        if (!Files.isDirectory(vault)) {
            return List.of();
        }
        try (Stream<Path> all = Files.walk(vault, 2)) {
            return all.filter(file -> file.toString().endsWith(VaultRun.SUFFIX) && Files.isRegularFile(file))
                    .toList();
        }
    }

    /** The chunks that any of them needs. */
    Set<Chunk> needed() {
        Set<Chunk> needed = new HashSet<>();
        copies.values().forEach(each -> each.places().forEach(place -> needed.add(place.chunk())));
        return needed;
    }

    /**
     * The bytes a copy takes in the vault: those of chunks that it alone has, and those it shares with others.
     *
     * @param own would come free if it went
     */
    public record Space(ByteSize own, ByteSize shared) {}

    /** Of each copy. */
    public Map<Path, Space> space(ChunkPacks packs) {
        Map<Chunk, Integer> users = new HashMap<>();
        copies.values().forEach(copy -> chunks(copy).forEach(chunk -> users.merge(chunk, 1, Integer::sum)));
        Map<Path, Space> spaces = new TreeMap<>();
        copies.forEach((file, copy) -> {
            long own = 0;
            long shared = 0;
            for (Chunk chunk : chunks(copy)) {
                long bytes = packs.find(chunk).map(ChunkPacks.Frame::bytes).orElse(0);
                if (users.get(chunk) == 1) {
                    own += bytes;
                } else {
                    shared += bytes;
                }
            }
            spaces.put(file, new Space(ByteSize.of(own), ByteSize.of(shared)));
        });
        return spaces;
    }

    static Set<Chunk> chunks(CopyManifest copy) {
        Set<Chunk> chunks = new HashSet<>();
        copy.places().forEach(place -> chunks.add(place.chunk()));
        return chunks;
    }

    /** The copies that need any of these, with where on the drive the first of them belongs and how many they are. */
    List<VaultCheck.Damage> hurtBy(Set<Chunk> bad) {
        List<VaultCheck.Damage> damages = new ArrayList<>();
        copies.forEach((file, copy) -> {
            List<CopyManifest.Place> lost = copy.places().stream()
                    .filter(place -> bad.contains(place.chunk()))
                    .toList();
            if (!lost.isEmpty()) {
                damages.add(new VaultCheck.Damage(
                        file,
                        lost.get(0).at(),
                        lost.size(),
                        file.getFileName() + " is damaged: " + lost.size() + " of its "
                                + copy.places().size() + " chunks cannot be read, the first at byte "
                                + lost.get(0).at() + " of the drive; do not restore from it."));
            }
        });
        unreadable.forEach((file, why) -> damages.add(new VaultCheck.Damage(file, 0, 0, why)));
        return damages;
    }
}

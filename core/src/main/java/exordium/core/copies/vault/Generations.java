// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.finding.UnreadableInput;
import exordium.core.image.Chunk;
import exordium.core.image.ChunkPacks;
import exordium.core.image.CopyManifest;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.function.Predicate;

/**
 * The copies of a vault that are lists of chunks, whoever made them. Lists are read one after the other and never kept: memory holds
 * about 100 bytes for each chunk there is, however many copies have it.
 */
public final class Generations {
    private static final int SEVERAL = -1;

    private final List<Path> files;

    private Generations(List<Path> files) {
        this.files = List.copyOf(files);
    }

    /** All there are. */
    public static Generations in(Path vault) throws IOException {
        return new Generations(VaultFiles.lists(vault));
    }

    /** These alone. */
    static Generations of(List<Path> files) {
        return new Generations(files);
    }

    /**
     * The chunks that copies need.
     *
     * @param unreadable those whose list cannot be read, by their file, with the sentence that says why
     */
    record Needed(Set<Chunk> chunks, Map<Path, String> unreadable) {}

    /** Of those that are asked for. */
    Needed needed(Predicate<Path> which) throws IOException {
        Set<Chunk> chunks = new HashSet<>();
        Map<Path, String> unreadable = new TreeMap<>();
        for (Path file : files) {
            if (which.test(file)) {
                chunks.addAll(chunks(file, unreadable));
            }
        }
        return new Needed(chunks, unreadable);
    }

    /** None of a list that cannot be read. */
    private static Set<Chunk> chunks(Path file, Map<Path, String> unreadable) throws IOException {
        Set<Chunk> chunks = new HashSet<>();
        read(file, place -> chunks.add(place.chunk()), unreadable);
        return unreadable.containsKey(file) ? Set.of() : chunks;
    }

    private static void read(Path file, Consumer<CopyManifest.Place> sink, Map<Path, String> unreadable)
            throws IOException {
        try {
            CopyManifest.scan(file, sink);
        } catch (UnreadableInput e) {
            unreadable.put(file, e.getMessage());
        } catch (NoSuchFileException e) {
            // Somebody took it out since the folder was looked through.
            unreadable.put(file, file.getFileName() + " is gone.");
        }
    }

    /** Those whose list cannot be read, with the sentence that says why. */
    Map<Path, String> unreadable() throws IOException {
        Map<Path, String> unreadable = new TreeMap<>();
        for (Path file : files) {
            read(file, place -> {}, unreadable);
        }
        return unreadable;
    }

    /**
     * The bytes that copies take in the vault: those of chunks that they alone have, and those they share with others.
     *
     * @param own would come free if they went
     */
    public record Space(ByteSize own, ByteSize shared) {
        /** What they take, others there or not. */
        public ByteSize all() {
            return own.plus(shared);
        }

        /** Both together, when neither has anything of the other. */
        public Space plus(Space other) {
            return new Space(own.plus(other.own), shared.plus(other.shared));
        }
    }

    /**
     * The room of a vault.
     *
     * @param copies of each copy whose list can be read, by its file
     * @param boards of all of them in a folder together, by the folder's name: a board's
     */
    public record Room(Map<Path, Space> copies, Map<String, Space> boards) {}

    /** Of all copies that can be read. */
    public Room room(ChunkPacks packs) throws IOException {
        Sharing<Path> copies = new Sharing<>(packs);
        Sharing<String> boards = new Sharing<>(packs);
        Map<Path, String> unreadable = new TreeMap<>();
        for (Map.Entry<String, List<Path>> board : byFolder().entrySet()) {
            Set<Chunk> together = new HashSet<>();
            for (Path file : board.getValue()) {
                Set<Chunk> chunks = chunks(file, unreadable);
                if (!unreadable.containsKey(file)) {
                    copies.add(file, chunks);
                    together.addAll(chunks);
                }
            }
            boards.add(board.getKey(), together);
        }
        return new Room(copies.spaces(), boards.spaces());
    }

    private Map<String, List<Path>> byFolder() {
        Map<String, List<Path>> folders = new TreeMap<>();
        for (Path file : files) {
            String folder = String.valueOf(file.toAbsolutePath().getParent().getFileName());
            folders.computeIfAbsent(folder, name -> new ArrayList<>()).add(file);
        }
        return folders;
    }

    /** Who needs which chunks, told one after the other. */
    private static final class Sharing<K> {
        private final ChunkPacks packs;
        private final List<K> names = new ArrayList<>();
        private final List<Long> whole = new ArrayList<>();
        private final Map<Chunk, Integer> users = new HashMap<>();

        Sharing(ChunkPacks packs) {
            this.packs = packs;
        }

        void add(K name, Set<Chunk> chunks) {
            int number = names.size();
            long bytes = 0;
            for (Chunk chunk : chunks) {
                bytes += bytes(packs, chunk);
                users.merge(chunk, number, (one, other) -> SEVERAL);
            }
            names.add(name);
            whole.add(bytes);
        }

        Map<K, Space> spaces() {
            long[] own = new long[names.size()];
            users.forEach((chunk, user) -> {
                if (user != SEVERAL) {
                    own[user] += bytes(packs, chunk);
                }
            });
            Map<K, Space> spaces = new TreeMap<>();
            for (int i = 0; i < own.length; i++) {
                spaces.put(names.get(i), new Space(ByteSize.of(own[i]), ByteSize.of(whole.get(i) - own[i])));
            }
            return spaces;
        }
    }

    private static int bytes(ChunkPacks packs, Chunk chunk) {
        return packs.find(chunk).map(ChunkPacks.Frame::bytes).orElse(0);
    }

    /**
     * The copies that need any of these, with where on the drive the first of them belongs and how many they are.
     *
     * @param bad are lost
     * @param misled are there, and not where the index that counts says
     */
    List<VaultCheck.Damage> hurtBy(Set<Chunk> bad, Set<Chunk> misled) throws IOException {
        List<VaultCheck.Damage> damages = new ArrayList<>();
        Map<Path, String> unreadable = new TreeMap<>();
        for (Path file : files) {
            Hurt lost = new Hurt(bad);
            Hurt strayed = new Hurt(misled);
            read(
                    file,
                    place -> {
                        lost.add(place);
                        strayed.add(place);
                    },
                    unreadable);
            if (lost.count > 0 && !unreadable.containsKey(file)) {
                damages.add(lost.of(file));
            } else if (strayed.count > 0 && !unreadable.containsKey(file)) {
                damages.add(new VaultCheck.Damage(
                        file,
                        strayed.first,
                        0,
                        strayed.count + " of the " + strayed.places + " chunks of " + file.getFileName()
                                + " are not where the vault's index says, and lie whole elsewhere in it; vault repair makes"
                                + " the index again."));
            }
        }
        unreadable.forEach((file, why) -> damages.add(new VaultCheck.Damage(file, 0, 0, why)));
        return damages;
    }

    /** What one copy has lost. */
    private static final class Hurt {
        private final Set<Chunk> these;
        private long places;
        private long count;
        private long first;

        Hurt(Set<Chunk> these) {
            this.these = these;
        }

        void add(CopyManifest.Place place) {
            places++;
            if (these.contains(place.chunk())) {
                first = count == 0 ? place.at() : first;
                count++;
            }
        }

        VaultCheck.Damage of(Path file) {
            return new VaultCheck.Damage(
                    file,
                    first,
                    count,
                    file.getFileName() + " is damaged: " + count + " of its " + places
                            + " chunks cannot be read, the first at byte " + first
                            + " of the drive; do not restore from it.");
        }
    }
}

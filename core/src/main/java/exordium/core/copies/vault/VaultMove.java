// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.block.Durable;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumStream;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ChunkPacks;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.zip.CRC32C;

/**
 * Takes a vault to another folder, where there may be one already. Everything is read back there before anybody is told to look for it
 * there, and only then it goes here: cut off anywhere, the vault is whole in one place at least. Where others keep copies in it,
 * all of it stays here as well, since their copies may need the same chunks.
 */
public final class VaultMove {
    private static final int STEP = 4 << 20;

    private final Path from;
    private final Path to;
    private final TransferWatch watch;
    private final Deque<Path> made = new ArrayDeque<>();
    private final byte[] bytes = new byte[STEP];
    private final long total;
    private long done;

    private VaultMove(Path from, Path to, TransferWatch watch) throws IOException {
        this.from = from;
        this.to = to;
        this.watch = watch;
        this.total = 2 * VaultFiles.room(from).bytes();
    }

    /** Tells whoever has to know that the vault is there from now on. */
    public interface Told {
        void moved() throws IOException;
    }

    /**
     * Gives whether it stays here as well, for others.
     *
     * @param ours the copies that go along, by their place in the vault; others' stay
     * @param told after it is whole there, and before anything goes here
     * @throws UnreadableInput when a file there has the name of one here and is another; nothing has changed
     */
    public static boolean run(Path from, Path to, Set<Path> ours, Told told, TransferWatch watch) throws IOException {
        return VaultLock.beingAlone(
                from,
                // There it only adds.
                () -> VaultLock.sharing(to, () -> {
                    VaultMove move = new VaultMove(from, to, watch);
                    List<Path> all = move.files();
                    List<Path> going =
                            all.stream().filter(file -> isOurs(file, ours)).toList();
                    move.over(going);
                    told.moved();
                    boolean others = going.size() < all.size();
                    if (!others) {
                        move.away(all);
                    }
                    return others;
                }));
    }

    /** Packs are everybody's, and so is the script; a checksum is its image's. */
    private static boolean isOurs(Path file, Set<Path> ours) {
        String name = file.toString();
        return !VaultFiles.isOfCopy(file)
                || ours.contains(file)
                || (name.endsWith(VaultFiles.CHECKSUM)
                        && ours.contains(Path.of(name.substring(0, name.length() - VaultFiles.CHECKSUM.length()))));
    }

    /** What others need comes first: packs, then their indexes, then lists and images. */
    private List<Path> files() throws IOException {
        List<Path> files = new ArrayList<>();
        for (Path file : VaultFiles.whole(from)) {
            files.add(from.relativize(file));
        }
        files.sort((one, other) -> {
            int byRank = Integer.compare(rank(one), rank(other));
            return byRank != 0 ? byRank : one.compareTo(other);
        });
        return files;
    }

    private static int rank(Path file) {
        String name = file.toString();
        if (name.endsWith(ChunkPacks.PACK)) {
            return 0;
        }
        return name.endsWith(ChunkPacks.INDEX) ? 1 : 2;
    }

    private void over(List<Path> files) throws IOException {
        boolean whole = false;
        try {
            Files.createDirectories(to.resolve(ChunkPacks.FOLDER));
            for (Path file : files) {
                Path target = to.resolve(file);
                if (Files.exists(target)) {
                    requireSame(file, target);
                    done += 2 * Files.size(target);
                } else {
                    copy(from.resolve(file), target);
                }
            }
            whole = true;
        } finally {
            if (!whole) {
                while (!made.isEmpty()) {
                    Files.deleteIfExists(made.removeLast());
                }
            }
        }
    }

    private void requireSame(Path file, Path target) throws IOException {
        boolean script = String.valueOf(file.getFileName()).equals(VaultScript.NAME);
        if (!script && Files.mismatch(from.resolve(file), target) >= 0) {
            throw new UnreadableInput("There is another " + file + " in " + to + "; nothing was moved.");
        }
    }

    private void copy(Path source, Path target) throws IOException {
        Files.createDirectories(target.getParent());
        Path working = target.resolveSibling(target.getFileName() + VaultFiles.PART);
        made.add(working);
        long crc = write(source, working);
        CRC32C back = new CRC32C();
        try (FileDevice device = FileDevice.forReading(working);
                InputStream stream = new MediumStream(device)) {
            long started = System.nanoTime();
            for (int got = stream.read(bytes); got > 0; got = stream.read(bytes)) {
                watch.goOnOrStop();
                back.update(bytes, 0, got);
                started = moved(got, started);
            }
        }
        if (back.getValue() != crc || Files.size(working) != Files.size(source)) {
            throw new UnreadableInput(
                    target.getFileName() + " does not read back in " + to + " as what it is; nothing was moved.");
        }
        Files.move(working, target, StandardCopyOption.ATOMIC_MOVE);
        made.add(target);
        Durable.folder(target.getParent());
    }

    private long write(Path source, Path working) throws IOException {
        CRC32C crc = new CRC32C();
        try (InputStream in = Files.newInputStream(source);
                FileChannel out = FileChannel.open(
                        working,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.TRUNCATE_EXISTING,
                        StandardOpenOption.WRITE)) {
            long started = System.nanoTime();
            for (int got = in.readNBytes(bytes, 0, STEP); got > 0; got = in.readNBytes(bytes, 0, STEP)) {
                watch.goOnOrStop();
                crc.update(bytes, 0, got);
                ByteBuffer buffer = ByteBuffer.wrap(bytes, 0, got);
                while (buffer.hasRemaining()) {
                    out.write(buffer);
                }
                started = moved(got, started);
            }
            out.force(true);
        }
        return crc.getValue();
    }

    /** Every byte moves twice, over and back: so the time left is true. */
    private long moved(int bytes, long started) {
        long now = System.nanoTime();
        watch.moved(TransferWatch.Phase.COPYING, done, bytes, now - started, total);
        done += bytes;
        return now;
    }

    /** What needs others goes first; of the folders those in which nothing else lies. */
    private void away(List<Path> files) throws IOException {
        Set<Path> folders = new LinkedHashSet<>(List.of(from.resolve(ChunkPacks.FOLDER)));
        for (int i = files.size() - 1; i >= 0; i--) {
            Path file = from.resolve(files.get(i));
            Files.deleteIfExists(file);
            folders.add(file.getParent());
        }
        folders.remove(from);
        for (Path folder : folders) {
            emptyAway(folder);
        }
    }

    private static void emptyAway(Path folder) throws IOException {
        try {
            Files.deleteIfExists(folder);
        } catch (DirectoryNotEmptyException e) {
            // Somebody else's things are in it.
            return;
        }
    }
}

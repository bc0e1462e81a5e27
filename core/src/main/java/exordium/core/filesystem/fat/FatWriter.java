// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Writes small files into a FAT volume, long names kept, and takes them out. All of a change is worked out in memory first: where there is no
 * room, or the volume is damaged, nothing was touched. Cut off half-way it may be written in part, which a {@code StagedDevice} under it
 * prevents.
 */
public final class FatWriter {
    private final BlockDevice slice;
    private final FatGeometry geometry;
    private final FatSpace space;
    /** Folders that change, those farther down first. */
    private final List<FatFolder> folders = new ArrayList<>();

    private FatWriter(BlockDevice slice) throws IOException {
        FatCheck.Whole whole = FatCheck.requireWhole(slice);
        this.slice = slice;
        this.geometry = whole.geometry();
        this.space = new FatSpace(slice, geometry, whole.table());
    }

    /**
     * Creates the file, with the folders above it, or replaces its content, and returns when it is on the medium.
     *
     * @throws FileSystemException when the volume is damaged or has no room for it; nothing is changed then
     */
    public static void write(BlockDevice slice, String path, byte[] content) throws IOException {
        new FatWriter(slice).put(names(path), path, content);
    }

    /**
     * Takes a file out.
     *
     * @throws FileSystemException when the volume is damaged or there is no such file; nothing is changed then
     */
    public static void remove(BlockDevice slice, String path) throws IOException {
        new FatWriter(slice).take(names(path), path);
    }

    private static List<String> names(String path) throws FileSystemException {
        List<String> names = new ArrayList<>(List.of(path.split("/")));
        names.removeIf(String::isEmpty);
        if (names.isEmpty()) {
            throw new FileSystemException("\"" + path + "\" names no file", -1);
        }
        return names;
    }

    private void put(List<String> names, String path, byte[] content) throws IOException {
        FatFolder folder = above(names, path, true);
        String name = names.get(names.size() - 1);
        Optional<FatEntry.Found> there = folder.find(name);
        if (there.filter(FatEntry.Found::folder).isPresent()) {
            throw new FileSystemException(path + " is a folder", -1);
        }
        long[] had = there.map(FatEntry.Found::cluster).map(space::chain).orElse(new long[0]);
        int at = there.isPresent() ? there.get().at() : folder.makeFile(name);
        int needed = (int) ((content.length + geometry.clusterBytes() - 1) / geometry.clusterBytes());
        long[] clusters = space.resized(had, needed, path);
        folder.set(at, needed == 0 ? 0 : clusters[0], content.length);
        fill(clusters, content);
        finish();
    }

    private void take(List<String> names, String path) throws IOException {
        FatFolder folder = above(names, path, false);
        Optional<FatEntry.Found> there = folder.find(names.get(names.size() - 1));
        if (there.isEmpty() || there.get().folder()) {
            throw missing(path);
        }
        space.resized(space.chain(there.get().cluster()), 0, path);
        folder.strikeOut(there.get());
        finish();
    }

    private static FileSystemException missing(String path) {
        return new FileSystemException("There is no file " + path + " to take out", -1);
    }

    /** The folder a path ends in, made where it is not there and that is wanted. */
    private FatFolder above(List<String> names, String path, boolean make) throws IOException {
        FatFolder folder = FatFolder.top(slice, geometry, space);
        folders.add(0, folder);
        for (int i = 0; i + 1 < names.size(); i++) {
            Optional<FatEntry.Found> next = folder.find(names.get(i));
            if (next.isEmpty() && !make) {
                throw missing(path);
            }
            if (next.isPresent() && !next.get().folder()) {
                throw new FileSystemException(names.get(i) + " of " + path + " is no folder", -1);
            }
            folder = next.isPresent()
                    ? FatFolder.at(slice, geometry, space, next.get().cluster())
                    : folder.makeFolder(names.get(i));
            folders.add(0, folder);
        }
        return folder;
    }

    /** Behind the content, its last cluster is zeros. */
    private void fill(long[] clusters, byte[] content) throws IOException {
        int piece = (int) geometry.clusterBytes();
        for (int i = 0; i < clusters.length; i++) {
            ByteBuffer all = ByteBuffer.allocate(piece);
            all.put(content, i * piece, Math.min(piece, content.length - i * piece))
                    .rewind()
                    .limit(piece);
            slice.write(geometry.place(clusters[i]), all);
        }
    }

    /** Contents are there; what leads to them comes last. */
    private void finish() throws IOException {
        space.put();
        for (FatFolder each : folders) {
            each.put();
        }
        slice.flush();
    }
}

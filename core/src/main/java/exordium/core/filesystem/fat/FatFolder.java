// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;

/** A folder as it is to be: read whole, changed in memory, grown by clusters where it may grow, and put down where it changed. */
final class FatFolder {
    private static final int LONGEST = 65_536 * FatEntry.BYTES;
    /** The first day there is: 1980-01-01. Nothing here knows the time; what is new is as new as the newest beside it. */
    private static final long FIRST_DAY = 0x0021_0000L;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private final FatSpace space;
    /** Empty for the top folder of FAT12 and FAT16, which has a place of its own and cannot grow. */
    private long[] clusters;

    private byte[] before;
    private byte[] content;

    private FatFolder(BlockDevice slice, FatGeometry geometry, FatSpace space, long[] clusters) {
        this.slice = slice;
        this.geometry = geometry;
        this.space = space;
        this.clusters = clusters;
    }

    static FatFolder top(BlockDevice slice, FatGeometry geometry, FatSpace space) throws IOException {
        if (geometry.isWide()) {
            return at(slice, geometry, space, geometry.topCluster(slice));
        }
        FatFolder folder = new FatFolder(slice, geometry, space, new long[0]);
        folder.content = slice.bytes(geometry.topStart(), (int) (geometry.dataStart() - geometry.topStart()));
        folder.before = folder.content.clone();
        return folder;
    }

    static FatFolder at(BlockDevice slice, FatGeometry geometry, FatSpace space, long first) throws IOException {
        FatFolder folder = new FatFolder(slice, geometry, space, space.chain(first));
        ByteBuffer all = ByteBuffer.allocate(Math.toIntExact(folder.clusters.length * geometry.clusterBytes()));
        for (long cluster : folder.clusters) {
            all.put(slice.bytes(geometry.place(cluster), (int) geometry.clusterBytes()));
        }
        folder.content = all.array();
        folder.before = folder.content.clone();
        return folder;
    }

    Optional<FatEntry.Found> find(String name) {
        return FatEntry.all(content, geometry.isWide()).stream()
                .filter(each -> each.isCalled(name))
                .findFirst();
    }

    /** A folder in this one that was not there. */
    FatFolder makeFolder(String name) throws IOException {
        int at = makeEntry(name, true);
        long[] own = space.resized(new long[0], 1, "the folder " + name);
        FatEntry.set(content, at, geometry.isWide(), own[0], 0);
        FatFolder made = new FatFolder(slice, geometry, space, own);
        made.content = new byte[(int) geometry.clusterBytes()];
        made.before = new byte[0];
        FatEntry.putDots(made.content, geometry.isWide(), own[0], isTop() ? 0 : clusters[0], newest());
        return made;
    }

    private boolean isTop() {
        return clusters.length == 0 || content[0] != '.';
    }

    /** An entry for a file that was not there, of no content; gives its place. */
    int makeFile(String name) throws IOException {
        return makeEntry(name, false);
    }

    private int makeEntry(String name, boolean isFolder) throws IOException {
        FatNames.requireAllowed(name);
        Set<String> taken = new HashSet<>();
        for (FatEntry.Found each : FatEntry.all(content, geometry.isWide())) {
            taken.add(FatNames.key(new FatEntry(content, each.at()).shortName()));
        }
        byte[] shortName = FatNames.shortName(name, taken);
        int needed = FatEntry.needed(name, shortName);
        long newest = newest();
        int from = room(needed, name);
        FatEntry.put(content, from, name, shortName, isFolder);
        int at = from + (needed - 1) * FatEntry.BYTES;
        FatEntry.times(content, at, newest);
        return at;
    }

    /** Where so many entries have room, one behind the other. */
    private int room(int needed, String name) throws IOException {
        int from = 0;
        int run = 0;
        boolean behind = false;
        for (int at = 0; at < content.length; at += FatEntry.BYTES) {
            FatEntry entry = new FatEntry(content, at);
            behind |= entry.isEnd();
            if (behind || entry.isDeleted()) {
                from = run == 0 ? at : from;
                run++;
                if (run == needed) {
                    if (behind) {
                        // What lay behind the end was nobody's: nothing of it may come to light.
                        Arrays.fill(content, at + FatEntry.BYTES, content.length, (byte) 0);
                    }
                    return from;
                }
            } else {
                run = 0;
            }
        }
        if (clusters.length == 0 || content.length + geometry.clusterBytes() > LONGEST) {
            throw new FileSystemException(slice.name() + " has no room for " + name + " in its folder", -1);
        }
        if (behind) {
            Arrays.fill(content, from, content.length, (byte) 0);
        }
        clusters = space.resized(clusters, clusters.length + 1, "the folder of " + name);
        content = Arrays.copyOf(content, content.length + (int) geometry.clusterBytes());
        return room(needed, name);
    }

    private long newest() {
        long newest = FIRST_DAY;
        for (int at = 0; at < content.length && !new FatEntry(content, at).isEnd(); at += FatEntry.BYTES) {
            FatEntry entry = new FatEntry(content, at);
            newest = entry.isDeleted() || entry.isLongPiece() ? newest : Math.max(newest, entry.changed());
        }
        return newest;
    }

    /** What stands at a place has this content now. */
    void set(int at, long cluster, long bytes) {
        FatEntry.set(content, at, geometry.isWide(), cluster, bytes);
        FatEntry.times(content, at, newest());
    }

    void strikeOut(FatEntry.Found found) {
        FatEntry.strikeOut(content, found);
    }

    /** Puts down the blocks that changed. */
    void put() throws IOException {
        int piece = clusters.length == 0 ? content.length : (int) geometry.clusterBytes();
        for (int from = 0; from < content.length; from += piece) {
            boolean same = from + piece <= before.length
                    && Arrays.equals(content, from, from + piece, before, from, from + piece);
            if (!same) {
                long place = clusters.length == 0 ? geometry.topStart() : geometry.place(clusters[from / piece]);
                slice.write(place, ByteBuffer.wrap(content, from, piece));
            }
        }
    }
}

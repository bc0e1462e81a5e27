// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.filesystem.FileSystemException;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;

/**
 * Folders and chains of a FAT volume (FAT specification, "FAT directory structure" and "Name structure"), read as they are asked for:
 * a table of some megabytes is never needed whole. Everything in a volume may be wrong: chains are followed no further than they can be true.
 */
final class FatFolders {
    /** As long as a folder may be at most (FAT specification: 65 536 entries). */
    private static final int LONGEST = 65_536 * FatEntry.BYTES;

    private final BlockDevice slice;
    private final FatGeometry geometry;

    FatFolders(BlockDevice slice, FatGeometry geometry) {
        this.slice = slice;
        this.geometry = geometry;
    }

    /** A stretch of the volume. */
    record Extent(long position, long length) {
        long end() {
            return position + length;
        }
    }

    /** What is in a folder, but for itself and the one above; nothing where there is no such folder. */
    List<FatEntry.Found> in(String folder) throws IOException {
        return entries(content(extents(folder)));
    }

    /** What stands at a path that is not the top folder. */
    Optional<FatEntry.Found> find(String path) throws IOException {
        List<Extent> folder = root();
        Optional<FatEntry.Found> found = Optional.empty();
        for (String part : path.split("/")) {
            if (!part.isEmpty()) {
                found = entries(content(folder)).stream()
                        .filter(each -> each.isCalled(part))
                        .findFirst();
                folder = found.isPresent() && found.get().folder()
                        ? folder(found.get().cluster())
                        : List.of();
            }
        }
        return found;
    }

    /** Told where the next stretch of a file's content lies. */
    interface Sink {
        void extent(Extent extent) throws IOException;
    }

    /** Tells where a file's content lies, in its order. @throws FileSystemException where its chain does not hold so much */
    void content(FatEntry.Found file, Sink sink) throws IOException {
        if (file.bytes() == 0) {
            return;
        }
        long cluster = geometry.clusterBytes();
        long clusters = (file.bytes() + cluster - 1) / cluster;
        Chain chain = new Chain(file.cluster());
        long told = 0;
        while (chain.clusters < clusters) {
            if (!chain.goesOn()) {
                throw broken("a file is longer than its chain");
            }
            told += chain.tellFinished(sink);
        }
        sink.extent(new Extent(chain.from, file.bytes() - told));
    }

    private List<Extent> root() throws IOException {
        if (geometry.isWide()) {
            return folder(geometry.topCluster(slice));
        }
        long length = Math.min(LONGEST, geometry.rootSectors() * geometry.bytesPerSector());
        return List.of(new Extent(geometry.topStart(), length));
    }

    private List<Extent> folder(long first) throws IOException {
        List<Extent> all = new ArrayList<>();
        Chain chain = new Chain(first);
        while (chain.goesOn()) {
            if (chain.clusters > LONGEST / geometry.clusterBytes()) {
                throw broken("a folder is longer than any may be");
            }
            chain.tellFinished(all::add);
        }
        all.add(new Extent(chain.from, chain.until - chain.from));
        return all;
    }

    /** Clusters that follow each other; those that are neighbours as well make one stretch. */
    private final class Chain {
        private final FatTable table = new FatTable(slice, geometry);
        private final BitSet seen = new BitSet();
        private long cluster;
        private long clusters;
        /** The stretch it is in: from its first byte until where the last cluster ends. */
        private long from;

        private long until;
        private Optional<Extent> finished = Optional.empty();

        Chain(long first) throws FileSystemException {
            take(first);
            from = geometry.place(first);
        }

        private void take(long next) throws FileSystemException {
            if (!geometry.holds(next)) {
                throw broken("a chain runs into no cluster there is");
            }
            if (seen.get((int) next)) {
                throw broken("a chain runs round in itself");
            }
            seen.set((int) next);
            cluster = next;
            clusters++;
            until = geometry.place(next) + geometry.clusterBytes();
        }

        /** Goes to the next one; false at the end. */
        boolean goesOn() throws IOException {
            long next = table.next(cluster);
            if (geometry.isEnd(next)) {
                return false;
            }
            Extent behind = new Extent(from, until - from);
            take(next);
            if (geometry.place(next) != behind.end()) {
                finished = Optional.of(behind);
                from = geometry.place(next);
            }
            return true;
        }

        /** Gives the bytes of the stretch that ended with the last step, 0 where none did. */
        long tellFinished(Sink sink) throws IOException {
            Optional<Extent> ended = finished;
            finished = Optional.empty();
            if (ended.isPresent()) {
                sink.extent(ended.get());
            }
            return ended.map(Extent::length).orElse(0L);
        }
    }

    private FileSystemException broken(String what) {
        return new FileSystemException(slice.name() + " is a broken FAT volume: " + what, -1);
    }

    private byte[] content(List<Extent> extents) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (Extent each : extents) {
            all.write(slice.bytes(each.position(), (int) each.length()));
        }
        return all.toByteArray();
    }

    /** Where a folder lies; nowhere when there is none of that name. */
    private List<Extent> extents(String folder) throws IOException {
        if (folder.replace("/", "").isEmpty()) {
            return root();
        }
        Optional<FatEntry.Found> found = find(folder).filter(FatEntry.Found::folder);
        return found.isPresent() ? folder(found.get().cluster()) : List.of();
    }

    private List<FatEntry.Found> entries(byte[] folder) {
        return FatEntry.all(folder, geometry.isWide());
    }

    /** Something that reads a volume. */
    interface Step<T> {
        T run() throws IOException;
    }

    /** Whatever a broken volume makes it throw becomes one typed error. */
    <T> T typed(Step<T> step) throws IOException {
        try {
            return step.run();
        } catch (FileSystemException | MediumException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new FileSystemException(slice.name() + " is a broken FAT volume: " + e.getMessage(), e);
        }
    }
}

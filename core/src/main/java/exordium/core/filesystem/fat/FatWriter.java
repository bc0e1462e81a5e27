// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import de.waldheinz.fs.FsDirectoryEntry;
import de.waldheinz.fs.fat.FatFile;
import de.waldheinz.fs.fat.FatFileSystem;
import de.waldheinz.fs.fat.FatLfnDirectory;
import de.waldheinz.fs.fat.FatLfnDirectoryEntry;
import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemKind;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Writes small files into a FAT volume, long names kept, and takes them out. */
public final class FatWriter {
    private static final String FILLER = "room-4-label";

    private FatWriter() {}

    /**
     * Creates the file, with the folders above it, or replaces its content, and returns when it is on the medium.
     *
     * @throws FileSystemException when the volume is damaged or has no room for it; nothing is changed then
     */
    public static void write(BlockDevice slice, String path, byte[] content) throws IOException {
        FatCheck.requireWhole(slice);
        changing(slice, path, (volume, geometry) -> {
            FatLfnDirectoryEntry there = FatLibrary.find(volume, path);
            long had = there == null || !there.isFile() ? 0 : there.getFile().getLength();
            requireRoom(slice, path, had, content.length);
            FatLfnDirectory folder = folderOf(volume, geometry, path);
            String name = path.substring(path.lastIndexOf('/') + 1);
            FatLfnDirectoryEntry entry = folder.getEntry(name);
            if (entry == null) {
                FatLibrary.knowShortNames(folder);
                entry = folder.addFile(name);
            }
            FatFile file = entry.getFile();
            file.setLength(content.length);
            if (content.length > 0) {
                file.write(0, ByteBuffer.wrap(content));
            }
            file.flush();
        });
    }

    private interface Change {
        void in(FatFileSystem volume, FatGeometry geometry) throws IOException;
    }

    /** Where path: of the file that is changed, whose folders are tidied from the top. */
    private static void changing(BlockDevice slice, String path, Change change) throws IOException {
        FatGeometry geometry = FatGeometry.parse(slice.bytes(0, 512)).orElseThrow();
        boolean filled = FatLibrary.changing(slice, volume -> {
            if (volume.getRoot().getEntry(FILLER) != null) {
                volume.getRoot().remove(FILLER);
            }
            change.in(volume, geometry);
            makeRoomForLabel(volume, geometry, 0);
            return volume.getRoot().getEntry(FILLER) != null;
        });
        FatFolders folders = new FatFolders(slice, geometry);
        if (filled) {
            folders.strikeOut(FILLER);
        }
        for (int slash = 0; slash >= 0; slash = path.indexOf('/', slash + 1)) {
            folders.clearBehindEnd(path.substring(0, slash));
        }
        slice.flush();
    }

    /**
     * The library gives the top folder of a FAT32 volume as many clusters as its entries need, and forgets that the volume's label is
     * one more: where they fill the last cluster, the label has no place. An empty file, struck out afterwards, makes it one.
     *
     * @param more entries that come to those there are
     */
    private static void makeRoomForLabel(FatFileSystem volume, FatGeometry geometry, long more) throws IOException {
        FatLfnDirectory top = volume.getRoot();
        if (geometry.kind() != FileSystemKind.FAT32
                || volume.getVolumeLabel() == null
                || top.getEntry(FILLER) != null) {
            return;
        }
        long entries = more;
        for (FsDirectoryEntry entry : top) {
            entries += FatLibrary.entries(entry.getName());
        }
        if (entries > 0 && entries * FatFolders.ENTRY % geometry.clusterBytes() == 0) {
            FatLibrary.knowShortNames(top);
            top.addFile(FILLER);
        }
    }

    /** A cluster more than the content needs: the folder may have to grow. */
    private static void requireRoom(BlockDevice slice, String path, long had, long wanted) throws IOException {
        FatGeometry geometry = FatGeometry.parse(slice.bytes(0, 512)).orElseThrow();
        long cluster = geometry.clusterBytes();
        long more = (wanted + cluster - 1) / cluster - (had + cluster - 1) / cluster;
        long free = geometry.clusters() - geometry.used(slice).bytes() / cluster;
        if (more > 0 && more + 1 > free) {
            throw new FileSystemException(
                    slice.name() + " has " + free * cluster + " bytes left, and " + path + " needs "
                            + (more + 1) * cluster,
                    -1);
        }
    }

    private static FatLfnDirectory folderOf(FatFileSystem volume, FatGeometry geometry, String path)
            throws IOException {
        FatLfnDirectory folder = volume.getRoot();
        String[] names = path.split("/");
        for (int i = 0; i < names.length - 1; i++) {
            if (!names[i].isEmpty()) {
                FatLfnDirectoryEntry entry = folder.getEntry(names[i]);
                if (entry == null) {
                    if (folder == volume.getRoot()) {
                        // The library writes the folder above at once.
                        makeRoomForLabel(volume, geometry, FatLibrary.entries(names[i]));
                    }
                    FatLibrary.knowShortNames(folder);
                    entry = folder.addDirectory(names[i]);
                }
                folder = entry.getDirectory();
            }
        }
        return folder;
    }

    /**
     * Takes a file out.
     *
     * @throws FileSystemException when the volume is damaged or there is no such file; nothing is changed then
     */
    public static void remove(BlockDevice slice, String path) throws IOException {
        FatCheck.requireWhole(slice);
        changing(slice, path, (volume, geometry) -> {
            FatLfnDirectoryEntry entry = FatLibrary.find(volume, path);
            if (entry == null || !entry.isFile()) {
                throw new FileSystemException("There is no file " + path + " to take out", -1);
            }
            entry.getFile().setLength(0);
            folderOf(volume, geometry, path).remove(entry.getName());
        });
    }
}

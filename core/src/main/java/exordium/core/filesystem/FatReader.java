// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import de.waldheinz.fs.FsDirectoryEntry;
import de.waldheinz.fs.fat.FatFileSystem;
import de.waldheinz.fs.fat.FatLfnDirectory;
import de.waldheinz.fs.fat.FatLfnDirectoryEntry;
import exordium.core.block.BlockDevice;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Files of a FAT volume, through the library; label, serial and used bytes from the volume's own records. For any thread. */
public final class FatReader implements FileSystemReader {
    private static final int MOST_NAMES = 20_000;
    private static final int COPY_PIECE = 1 << 18;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private FatFileSystem volume;

    FatReader(BlockDevice slice) throws IOException {
        this.slice = slice;
        this.geometry = FatGeometry.parse(slice.bytes(0, 512))
                .orElseThrow(() -> new FileSystemException(slice.name() + " holds no FAT volume", 0));
    }

    /** In the volume as it was when a file was first asked for: what is written later is seen by a reader opened later. */
    private synchronized <T> T files(FatLibrary.Work<T> work) throws IOException {
        if (volume == null) {
            volume = FatLibrary.forReading(slice);
        }
        return FatLibrary.in(volume, slice, work);
    }

    @Override
    public FileSystemSummary summary() {
        Optional<exordium.core.quantity.ByteSize> used;
        try {
            used = Optional.of(geometry.used(slice));
        } catch (IOException e) {
            used = Optional.empty();
        }
        return new FileSystemSummary(geometry.kind(), geometry.label(), geometry.serial(), used);
    }

    @Override
    public void allocated(Allocation allocation) throws IOException {
        allocation.taken(0, geometry.dataStart());
        geometry.eachTaken(
                slice,
                cluster -> allocation.taken(
                        geometry.dataStart() + (cluster - 2) * geometry.clusterBytes(), geometry.clusterBytes()));
    }

    @Override
    public List<String> list(String folder) throws IOException {
        return entries(folder).stream().map(FileEntry::name).toList();
    }

    @Override
    public List<FileEntry> entries(String folder) throws IOException {
        Map<String, String> written = new FatNames(slice, geometry).in(folder);
        return files(opened -> {
            FatLfnDirectory directory = opened.getRoot();
            if (!folder.replace("/", "").isEmpty()) {
                FatLfnDirectoryEntry holder = FatLibrary.find(opened, folder);
                if (holder == null || !holder.isDirectory()) {
                    return List.of();
                }
                directory = holder.getDirectory();
            }
            List<FileEntry> found = new ArrayList<>();
            for (FsDirectoryEntry entry : directory) {
                String name = written.getOrDefault(entry.getName(), entry.getName());
                boolean self = name.equals(".") || name.equals("..");
                if (!self && found.size() < MOST_NAMES) {
                    found.add(
                            entry.isDirectory()
                                    ? new FileEntry(name, FileEntry.Kind.FOLDER, 0)
                                    : new FileEntry(
                                            name,
                                            FileEntry.Kind.FILE,
                                            entry.getFile().getLength()));
                }
            }
            return found;
        });
    }

    @Override
    public boolean copy(String path, OutputStream out) throws IOException {
        return files(opened -> {
            FatLfnDirectoryEntry entry = FatLibrary.find(opened, path);
            if (entry == null || !entry.isFile()) {
                return false;
            }
            byte[] piece = new byte[COPY_PIECE];
            long length = entry.getFile().getLength();
            for (long at = 0; at < length; at += piece.length) {
                int part = (int) Math.min(piece.length, length - at);
                entry.getFile().read(at, ByteBuffer.wrap(piece, 0, part));
                out.write(piece, 0, part);
            }
            return true;
        });
    }

    @Override
    public Optional<byte[]> read(String path) throws IOException {
        return files(opened -> {
            FatLfnDirectoryEntry entry = FatLibrary.find(opened, path);
            if (entry == null || !entry.isFile()) {
                return Optional.empty();
            }
            long length = entry.getFile().getLength();
            if (length > LARGEST_FILE) {
                throw new FileSystemException(path + " is too large to be read whole", -1);
            }
            byte[] content = new byte[(int) length];
            if (length > 0) {
                entry.getFile().read(0, ByteBuffer.wrap(content));
            }
            return Optional.of(content);
        });
    }
}

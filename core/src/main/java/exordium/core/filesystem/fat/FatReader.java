// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystemSummary;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;

/** Files of a FAT volume, label, serial and used bytes, all from the volume's own records as they are asked for. For any thread. */
public final class FatReader implements FileSystemReader {
    private static final int MOST_NAMES = 20_000;
    private static final int COPY_PIECE = 1 << 18;

    private final BlockDevice slice;
    private final FatGeometry geometry;
    private final FatFolders folders;

    public FatReader(BlockDevice slice) throws IOException {
        this.slice = slice;
        this.geometry = FatGeometry.parse(slice.bytes(0, 512))
                .orElseThrow(() -> new FileSystemException(slice.name() + " holds no FAT volume", 0));
        this.folders = new FatFolders(slice, geometry);
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
        geometry.eachTaken(slice, cluster -> allocation.taken(geometry.place(cluster), geometry.clusterBytes()));
    }

    @Override
    public List<String> list(String folder) throws IOException {
        return entries(folder).stream().map(FileEntry::name).toList();
    }

    @Override
    public List<FileEntry> entries(String folder) throws IOException {
        return folders.typed(() -> folders.in(folder).stream()
                .limit(MOST_NAMES)
                .map(each -> each.folder()
                        ? new FileEntry(each.name(), FileEntry.EntryKind.FOLDER, 0)
                        : new FileEntry(each.name(), FileEntry.EntryKind.FILE, each.bytes()))
                .toList());
    }

    private Optional<FatEntry.Found> file(String path) throws IOException {
        return folders.find(path).filter(each -> !each.folder());
    }

    @Override
    public boolean copy(String path, OutputStream out) throws IOException {
        Optional<FatEntry.Found> file = folders.typed(() -> file(path));
        if (file.isEmpty()) {
            return false;
        }
        byte[] piece = new byte[COPY_PIECE];
        folders.content(file.get(), extent -> {
            for (long at = 0; at < extent.length(); at += piece.length) {
                int part = (int) Math.min(piece.length, extent.length() - at);
                slice.read(extent.position() + at, ByteBuffer.wrap(piece, 0, part));
                out.write(piece, 0, part);
            }
        });
        return true;
    }

    @Override
    public Optional<byte[]> read(String path) throws IOException {
        return folders.typed(() -> {
            Optional<FatEntry.Found> file = file(path);
            if (file.isEmpty()) {
                return Optional.empty();
            }
            if (file.get().bytes() > LARGEST_FILE) {
                throw new FileSystemException(path + " is too large to be read whole", -1);
            }
            ByteBuffer content = ByteBuffer.allocate((int) file.get().bytes());
            folders.content(file.get(), extent -> {
                content.limit(content.position() + (int) extent.length());
                slice.read(extent.position(), content);
            });
            return Optional.of(content.array());
        });
    }
}

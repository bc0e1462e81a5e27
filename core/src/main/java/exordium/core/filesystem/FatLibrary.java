// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import de.waldheinz.fs.fat.FatFileSystem;
import de.waldheinz.fs.fat.FatLfnDirectory;
import de.waldheinz.fs.fat.FatLfnDirectoryEntry;
import exordium.core.block.BlockDevice;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Hands a slice to the FAT library, and turns what the library throws at broken volumes into one typed error. */
final class FatLibrary {
    private FatLibrary() {}

    interface Work<T> {
        T in(FatFileSystem volume) throws IOException;
    }

    static <T> T with(BlockDevice slice, boolean readOnly, Work<T> work) throws IOException {
        try {
            FatFileSystem volume = FatFileSystem.read(new Adapter(slice, readOnly), readOnly);
            T result = work.in(volume);
            if (!readOnly) {
                volume.close();
            }
            return result;
        } catch (FileSystemException | exordium.core.block.MediumException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new FileSystemException(slice.name() + " is a broken FAT volume: " + e.getMessage(), e);
        }
    }

    /** The entry at a path, or null. */
    static FatLfnDirectoryEntry find(FatFileSystem volume, String path) throws IOException {
        FatLfnDirectory folder = volume.getRoot();
        FatLfnDirectoryEntry entry = null;
        for (String name : path.split("/")) {
            if (name.isEmpty()) {
                continue;
            }
            if (entry != null) {
                if (!entry.isDirectory()) {
                    return null;
                }
                folder = entry.getDirectory();
            }
            entry = folder.getEntry(name);
            if (entry == null) {
                return null;
            }
        }
        return entry;
    }

    private record Adapter(BlockDevice slice, boolean isReadOnly) implements de.waldheinz.fs.BlockDevice {
        @Override
        public long getSize() {
            return slice.size().bytes();
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            slice.read(position, target);
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            slice.write(position, source);
        }

        @Override
        public void flush() throws IOException {
            slice.flush();
        }

        @Override
        public int getSectorSize() {
            return slice.sectorSize();
        }

        @Override
        public void close() {}

        @Override
        public boolean isClosed() {
            return false;
        }
    }
}

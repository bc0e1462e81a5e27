// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import de.waldheinz.fs.fat.FatFile;
import de.waldheinz.fs.fat.FatLfnDirectoryEntry;
import exordium.core.block.BlockDevice;
import java.io.IOException;
import java.nio.ByteBuffer;

/** Writes small files into the top folder of a FAT volume. */
public final class FatWriter {
    private FatWriter() {}

    /**
     * Creates the file or replaces its content, and returns when it is on the medium.
     *
     * @throws FileSystemException when the volume is damaged; nothing is changed then
     */
    public static void write(BlockDevice slice, String name, byte[] content) throws IOException {
        FatCheck.requireWhole(slice);
        FatLibrary.with(slice, false, volume -> {
            FatLfnDirectoryEntry entry = volume.getRoot().getEntry(name);
            if (entry == null) {
                entry = volume.getRoot().addFile(name);
            }
            FatFile file = entry.getFile();
            file.setLength(content.length);
            if (content.length > 0) {
                file.write(0, ByteBuffer.wrap(content));
            }
            file.flush();
            return null;
        });
        slice.flush();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import de.waldheinz.fs.fat.FatType;
import de.waldheinz.fs.fat.SuperFloppyFormatter;
import exordium.core.block.BlockDevice;
import java.io.IOException;

/** Makes an empty FAT32 volume. */
public final class FatFormat {
    private FatFormat() {}

    /** @param label up to eleven capitals and digits */
    public static void fat32(BlockDevice slice, String label) throws IOException {
        SuperFloppyFormatter.get(FatLibrary.adapted(slice))
                .setFatType(FatType.FAT32)
                .setVolumeLabel(String.format("%-11s", label))
                .format()
                .close();
        slice.flush();
    }
}

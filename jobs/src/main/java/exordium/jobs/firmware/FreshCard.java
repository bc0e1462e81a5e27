// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firmware;

import exordium.core.block.TransferWatch;
import exordium.core.image.ImageFile;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.writing.WriteJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Optional;

/** A card that is made of files: its image put together, written like any other and read back. */
final class FreshCard {
    private FreshCard() {}

    /** Makes an image in a file that is not there yet. */
    interface Maker {
        void make(Path image) throws IOException;
    }

    static WriteReport write(
            Workbench workbench,
            String name,
            Maker maker,
            Targets reach,
            Path target,
            String typed,
            TransferWatch watch)
            throws IOException {
        try (Folders.Working room = Folders.Working.in(workbench.folder().resolve("files"))) {
            Path file = room.path().resolve(name + ".img");
            maker.make(file);
            ImageFile image = ImageFile.open(file);
            Targets.Target found = new TargetHistory(workbench).known(reach.at(target, image.compressedSize()));
            WritePlan plan = WritePlan.of(
                    image,
                    image.compressedSize(),
                    found.description(),
                    new WritePlan.Options(WriteMode.WHOLE, true, false, Optional.empty()),
                    typed);
            return WriteJob.run(workbench, plan, found, Optional.empty(), watch);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Images;
import exordium.store.Media;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** An image of the shelf or a drive, opened for looking inside; nothing is written to it. */
public final class OpenedSource implements Closeable {
    private final BlockDevice device;
    private final Closeable closing;

    private OpenedSource(BlockDevice device, Closeable closing) {
        this.device = device;
        this.closing = closing;
    }

    /**
     * What can be laid open.
     *
     * @param place where it stands, for the user
     * @param image a container is unpacked; a drive is read as it is
     */
    public record Subject(String title, String place, Path path, boolean image) {
        public static Subject of(Workbench workbench, Images.Image image) {
            return new Subject(
                    image.title(), image.file(), workbench.workspace().images().resolve(image.file()), true);
        }

        public static Subject of(Workbench workbench, Media.Medium medium) {
            return new Subject(medium.name(), medium.file(), workbench.driveFile(medium.file()), false);
        }

        public static Subject of(PluggedIn.Plugged plugged) {
            return new Subject(plugged.title(), plugged.id(), plugged.drive().node(), false);
        }
    }

    /** Everything in the house that can be laid open: the shelf's images, then the drawer's drives. */
    public static List<Subject> all(Workbench workbench) {
        List<Subject> subjects = new ArrayList<>();
        workbench.workspace().imageShelf().all().forEach(image -> subjects.add(Subject.of(workbench, image)));
        workbench.workspace().media().all().stream()
                .filter(workbench::isHere)
                .forEach(medium -> subjects.add(Subject.of(workbench, medium)));
        return subjects;
    }

    /** Looking is always allowed; it is writing that has to be turned on. */
    public static OpenedSource of(Subject subject, Targets targets, TransferWatch watch) throws IOException {
        if (subject.image()) {
            UnpackedImage image = UnpackedImage.open(ImageFile.open(subject.path()), false, watch);
            return new OpenedSource(image.device(), image);
        }
        BlockDevice drive = targets.at(subject.path(), ByteSize.ZERO).opener().open(false);
        return new OpenedSource(drive, drive);
    }

    public BlockDevice device() {
        return device;
    }

    @Override
    public void close() throws IOException {
        closing.close();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MediumAt;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Finding;
import exordium.core.image.ImageFile;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.sim.VirtualDrive;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** Looks into images and targets, for pictures of them. */
public final class Inspections {
    private Inspections() {}

    public static DriveInspection ofImage(Path file) throws IOException {
        try (UnpackedImage image = UnpackedImage.open(ImageFile.open(file), false, TransferWatch.NONE)) {
            return Inspector.inspect(image.device());
        }
    }

    /** A copy of the vault, which was proven when it was made: no more of it is unpacked than the look needs. */
    public static DriveInspection ofCopy(Path file, ByteSize size) throws IOException {
        try (UnpackedImage image = UnpackedImage.asNeeded(ImageFile.open(file), size)) {
            return Inspector.inspect(image.device());
        }
    }

    /** What is to be done with the bytes inside. */
    public interface Inside<T> {
        T with(BlockDevice device) throws IOException;
    }

    /** Opens what stands at a path, an image in whatever container or a drive, for reading. */
    public static <T> T inside(Path path, Targets targets, TransferWatch watch, Inside<T> work) throws IOException {
        boolean drive = VirtualDrive.isOne(path) || (Files.exists(path) && !Files.isRegularFile(path));
        if (drive) {
            try (BlockDevice device = targets.at(path, ByteSize.ZERO).opener().open(false)) {
                return work.with(device);
            }
        }
        try (UnpackedImage image = UnpackedImage.open(ImageFile.open(path), false, watch)) {
            return work.with(image.device());
        }
    }

    /** Empty for a drive of the machine that is refused, or that this user may not read: nobody is asked for a mere look. */
    public static Optional<DriveInspection> ofTarget(Targets.Target target) throws IOException {
        if (Finding.anyStops(target.description().refusals())
                || MediumAt.asks(target.description().path())) {
            return Optional.empty();
        }
        if (target.simulated()) {
            try (BlockDevice bytes = FileDevice.sparse(
                    target.description().path(), target.description().size())) {
                return Optional.of(Inspector.inspect(bytes));
            }
        }
        try (BlockDevice device = target.opener().open(false)) {
            return Optional.of(Inspector.inspect(device));
        }
    }
}

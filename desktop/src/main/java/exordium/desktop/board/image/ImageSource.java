// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.copies.vault.CopyRun;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Targets;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;

/** Something that can be written to a medium: an image of the shelf, a copy of the vault, or what is on another medium. */
public record ImageSource(
        String title,
        Path file,
        String container,
        ByteSize compressed,
        ByteSize size,
        PublishedChecksum.State checksum,
        SourceKind kind) {

    /** Where it comes from. */
    public enum SourceKind {
        IMAGE,
        COPY,
        MEDIUM
    }

    static ImageSource of(Images.Image image, Path folder) {
        return new ImageSource(
                image.title(),
                folder.resolve(image.file()),
                image.container(),
                image.compressed(),
                image.size(),
                image.checksum(),
                SourceKind.IMAGE);
    }

    /** A copy's checksum was written beside it when it was proven. */
    static ImageSource of(Copies.Copy copy, Path vault, LocalDate day) {
        return new ImageSource(
                "copy of " + day,
                vault.resolve(copy.file()),
                "zstd",
                ByteSize.of(copy.bytes()),
                ByteSize.of(copy.source()),
                PublishedChecksum.State.AGREES,
                SourceKind.COPY);
    }

    /** All that is on a medium that is here, as it is now. */
    static ImageSource of(Media.Medium medium, Targets.Target target) {
        return new ImageSource(
                "all of " + medium.name() + " (" + target.description().id() + ")",
                target.description().path(),
                "raw",
                target.description().size(),
                target.description().size(),
                PublishedChecksum.State.NONE_KNOWN,
                SourceKind.MEDIUM);
    }

    /** As a file to write, and how many bytes of it are written. */
    public record Opened(ImageFile file, ByteSize size) {}

    /** A copy is known to unpack to its size, however well it is packed; of a medium what stands behind its last partition is left out. */
    Opened open() throws IOException {
        ImageFile opened = ImageFile.open(file);
        if (kind == SourceKind.MEDIUM && Files.isRegularFile(file)) {
            try (BlockDevice device = FileDevice.forReading(file)) {
                ByteSize extent = CopyRun.extent(device);
                if (extent.bytes() > 0 && extent.compareTo(size) < 0) {
                    return new Opened(opened.first(extent), extent);
                }
            }
        }
        return new Opened(kind == SourceKind.COPY ? opened.ofKnownSize(size) : opened, size);
    }

    /** Whether it was made from a board's medium, so that what is written from it is its twin. */
    boolean ofMedium() {
        return kind != SourceKind.IMAGE;
    }

    /** What is to be said of its checksum. */
    public String checksumText() {
        if (kind == SourceKind.COPY) {
            return "proven when it was made";
        }
        if (kind == SourceKind.MEDIUM) {
            return "read as it is now";
        }
        return switch (checksum) {
            case AGREES -> "sum agrees with the published one";
            case DIFFERS -> "sum differs from the published one";
            case NONE_KNOWN -> "no published sum known";
        };
    }
}

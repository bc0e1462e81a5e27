// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.store.Copies;
import exordium.store.Images;
import java.nio.file.Path;
import java.time.LocalDate;

/** Something that can be written to a medium: an image of the shelf, or a copy of the vault. */
public record ImageSource(
        String title,
        Path file,
        String container,
        ByteSize compressed,
        ByteSize size,
        PublishedChecksum.State checksum,
        boolean copy) {

    static ImageSource of(Images.Image image, Path folder) {
        return new ImageSource(
                image.title(),
                folder.resolve(image.file()),
                image.container(),
                image.compressed(),
                image.size(),
                image.checksum(),
                false);
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
                true);
    }

    /** What is to be said of its checksum. */
    public String checksumText() {
        if (copy) {
            return "proven when it was made";
        }
        return switch (checksum) {
            case AGREES -> "sum agrees with the published one";
            case DIFFERS -> "sum differs from the published one";
            case NONE_KNOWN -> "no published sum known";
        };
    }
}

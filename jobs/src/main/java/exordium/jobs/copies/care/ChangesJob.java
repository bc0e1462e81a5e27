// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.care.Changes;
import exordium.core.copies.vault.VaultLock;
import exordium.core.finding.NotPossible;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Workbench;
import exordium.jobs.copies.vault.CopyJob;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;

/** What changed on a board's medium since its image, since a copy, or between two copies. */
public final class ChangesJob {
    /** Since the image it was last written from. */
    public static final String IMAGE = "image";
    /** Since its newest copy. */
    public static final String COPY = "copy";

    private final Workbench workbench;
    private final CopyJob copies;

    public ChangesJob(Workbench workbench, CopyJob copies) {
        this.workbench = workbench;
        this.copies = copies;
    }

    /** What was compared, in words, and what changed from the one to the other. */
    public record Found(String before, String now, Changes changes) {}

    private interface Look<T> {
        T at(BlockDevice device) throws IOException;
    }

    private interface Side {
        <T> T open(Look<T> look) throws IOException;
    }

    private record Named(String words, Side side) {}

    /**
     * Where since: "image", "copy", or a copy by its number or name; to: a later copy, else the medium itself.
     *
     * @throws NotPossible when one of the two is not here
     */
    public Found of(String board, String since, Optional<String> to, TransferWatch watch) throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        Media.Medium medium = workbench
                .mainMedium(at)
                .orElseThrow(() -> new NotPossible(at.register().name() + " has no medium plugged in."));
        Named before =
                switch (since) {
                    case IMAGE -> image(medium, watch);
                    case COPY -> copy(copies.newestOf(board));
                    default -> copy(copies.find(board, since));
                };
        Named now = to.isPresent() ? copy(copies.find(board, to.get())) : drive(medium, watch);
        Changes changes = VaultLock.reading(workbench.vault(), () -> before.side()
                .open(first -> now.side().open(second -> Changes.of(first, second, watch))));
        return new Found(before.words(), now.words(), changes);
    }

    private Named image(Media.Medium medium, TransferWatch watch) throws NotPossible {
        Operations.Operation write = Optional.ofNullable(
                        workbench.workspace().operations().lastWrites().get(medium.id()))
                .orElseThrow(
                        () -> new NotPossible("Which image " + medium.name() + " was written from is not on record."));
        Images.Image image = workbench.workspace().imageShelf().all().stream()
                .filter(each -> each.file().equals(write.image()))
                .findFirst()
                .orElseThrow(() -> new NotPossible(medium.name() + " was written from " + write.image()
                        + ", which is not on the shelf any more."));
        Path file = workbench.images().resolve(image.file());
        return new Named(image.title(), new Side() {
            @Override
            public <T> T open(Look<T> look) throws IOException {
                try (UnpackedImage unpacked = UnpackedImage.open(ImageFile.open(file), false, watch)) {
                    return look.at(unpacked.device());
                }
            }
        });
    }

    private Named copy(Copies.Copy copy) throws NotPossible {
        if (!Files.isRegularFile(workbench.vault().resolve(copy.file()))) {
            throw new NotPossible(copy.file() + " is not in the vault any more.");
        }
        return new Named("the copy of " + LocalDate.ofInstant(copy.proven(), workbench.zone()), new Side() {
            @Override
            public <T> T open(Look<T> look) throws IOException {
                try (UnpackedImage unpacked = UnpackedImage.asNeeded(copies.open(copy), ByteSize.of(copy.source()))) {
                    return look.at(unpacked.device());
                }
            }
        });
    }

    private Named drive(Media.Medium medium, TransferWatch watch) {
        return new Named(medium.name() + " now", new Side() {
            @Override
            public <T> T open(Look<T> look) throws IOException {
                try (BlockDevice device = workbench.targets().of(medium).read(watch)) {
                    return look.at(device);
                }
            }
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.vault;

import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ContainerKind;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Optional;

/** The file of a copy, held to what was put down of it when it was proven: its place, its kind, its digest; and that it is no link. */
final class RecordedFile {
    private final Copies.Copy copy;
    private final Path vault;
    private final Path file;

    RecordedFile(Workbench workbench, Copies.Copy copy) throws NotPossible {
        this.copy = copy;
        this.vault = workbench.workspace().vault();
        if (!Folders.isInside(vault, copy.file())) {
            throw new NotPossible("A copy on record lies outside of the vault, " + copy.file() + "; it is left alone.");
        }
        this.file = vault.resolve(copy.file());
    }

    /** @throws UnreadableInput when it is not what was proven */
    ImageFile open(TransferWatch watch) throws IOException {
        Optional<String> fault = fault(true, watch);
        if (fault.isPresent()) {
            throw new UnreadableInput(fault.get());
        }
        return ImageFile.open(file).ofKnownSize(ByteSize.of(copy.source()));
    }

    /** What is wrong with it. Where whole: a plain copy is read through as well, however long that takes. */
    Optional<String> fault(boolean whole, TransferWatch watch) throws IOException {
        if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
            return Optional.of(copy.file() + " is not in the vault any more.");
        }
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)
                || !file.toRealPath().equals(vault.toRealPath().resolve(copy.file()))) {
            return Optional.of(copy.file()
                    + " is not the file that was proven: it is a link, or no file. Do not restore from it.");
        }
        boolean plain = !CopyJob.isList(file);
        boolean other = plain && Files.size(file) != copy.bytes();
        if (!other && (whole || !plain)) {
            other = !PublishedChecksum.sha256(file, watch).equals(copy.sha256());
        }
        if (other || !isOfItsKind()) {
            return Optional.of(
                    copy.file()
                            + " is not what was proven; do not restore from it. Mend it from another vault, or take another copy.");
        }
        return Optional.empty();
    }

    private boolean isOfItsKind() throws IOException {
        try {
            ContainerKind kind = ImageFile.open(file).kind();
            return CopyJob.isList(file)
                    ? kind == ContainerKind.COPY
                    : kind == ContainerKind.ZSTD || !file.toString().endsWith(VaultFiles.IMAGE);
        } catch (UnreadableInput e) {
            return false;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.InputFile;
import exordium.core.profile.ProfileReader;
import exordium.core.profile.Signatures;
import exordium.core.storage.media.Works;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.util.Base64;
import java.util.List;

/** What works, as the workspace keeps it ({@code works/works.yaml}), and the key by which it is handed on. */
public final class WorksShelf {
    private static final int LARGEST = 8 << 20;

    private final Path folder;
    private final ProfileReader reader;

    public WorksShelf(Path workspace, ProfileReader reader) {
        this.folder = workspace.resolve("works");
        this.reader = reader;
    }

    private Path file() {
        return folder.resolve("works.yaml");
    }

    /** @throws UnreadableInput when the file cannot be read */
    public Works all() throws IOException {
        return Files.isRegularFile(file())
                ? new Works(Works.read("works.yaml", InputFile.read(file(), LARGEST), reader)
                        .entries())
                : Works.NONE;
    }

    /** Puts entries beside those there are. */
    public Works put(List<Works.Entry> more) throws IOException {
        Files.createDirectories(folder);
        return FolderLock.holding(folder, () -> {
            Works now = all().with(more);
            Durable.replace(file(), now.kept(reader));
            return now;
        });
    }

    /** A file that somebody handed on. @throws UnreadableInput when it is none, or not as they signed it */
    public Works.Received received(Path from) throws IOException {
        Works.Received received = Works.read(String.valueOf(from.getFileName()), InputFile.read(from, LARGEST), reader);
        if (received.signed() == Works.Signed.BAD) {
            throw new UnreadableInput(from.getFileName()
                    + " is not as it was signed: something in it was changed since. Nothing of it was taken over.");
        }
        String by = received.by().isBlank() ? String.valueOf(from.getFileName()) : received.by();
        List<Works.Entry> named =
                received.entries().stream().map(each -> each.saidBy(by)).toList();
        return new Works.Received(received.by(), named, received.signed(), received.key());
    }

    /** The house's own key, made when it first hands something on. */
    public KeyPair key() throws IOException {
        Path secret = folder.resolve("key");
        Path open = folder.resolve("key.pub");
        Files.createDirectories(folder);
        return FolderLock.holding(folder, () -> {
            if (Files.isRegularFile(secret) && Files.isRegularFile(open)) {
                try {
                    return new KeyPair(
                            Signatures.publicKey(Base64.getMimeDecoder().decode(Files.readString(open))),
                            Signatures.privateKey(Base64.getMimeDecoder().decode(Files.readString(secret))));
                } catch (GeneralSecurityException | IllegalArgumentException e) {
                    throw new UnreadableInput("The workspace's key for handing lists on cannot be read: " + secret, e);
                }
            }
            KeyPair fresh = Signatures.fresh();
            Files.deleteIfExists(secret);
            Files.createFile(
                    secret, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(
                    secret,
                    Base64.getEncoder().encodeToString(fresh.getPrivate().getEncoded()) + "\n");
            Durable.replace(
                    open, Base64.getEncoder().encodeToString(fresh.getPublic().getEncoded()) + "\n");
            return fresh;
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystems;
import exordium.core.finding.NameTaken;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Workbench;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Single files out of copies. A path begins with the number of a partition where it is not the root's: {@code 1:/config.txt}; without
 * one, the first ext file system counts, else the first that can be read.
 */
public final class CopyFiles {
    private final Workbench workbench;
    private final CopyJob copies;

    public CopyFiles(Workbench workbench, CopyJob copies) {
        this.workbench = workbench;
        this.copies = copies;
    }

    /** What stands at a path: a folder's entries, or one file. */
    public record Found(
            Copies.Copy copy, int partition, String path, List<FileEntry> entries, Optional<FileBody> file) {}

    private interface Work<T> {
        T in(int partition, FileSystemReader reader, String path) throws IOException;
    }

    /** @throws UnknownName when there is nothing at that path */
    public Found look(String id, String path) throws IOException {
        Copies.Copy copy = copies.find(id);
        return in(copy, path, (partition, reader, plain) -> found(copy, partition, reader, plain));
    }

    private static Found found(Copies.Copy copy, int partition, FileSystemReader reader, String path)
            throws IOException {
        if (path.isEmpty()) {
            return new Found(copy, partition, "/", reader.entries("/"), Optional.empty());
        }
        int slash = path.lastIndexOf('/');
        String name = path.substring(slash + 1);
        Optional<FileEntry> entry = reader.entries(slash == 0 ? "/" : path.substring(0, slash)).stream()
                .filter(each -> each.name().equals(name))
                .findFirst();
        if (entry.isEmpty()) {
            throw new UnknownName(
                    "There is no " + path + " on partition " + partition + " of " + copy.file() + ".", path);
        }
        return entry.get().kind() == FileEntry.Kind.FOLDER
                ? new Found(copy, partition, path, reader.entries(path), Optional.empty())
                : new Found(copy, partition, path, List.of(entry.get()), reader.body(path));
    }

    /** Takes one file out; gives how many bytes it has. @throws NameTaken when something stands there already */
    public long takeOut(String id, String path, Path to) throws IOException {
        Found found = look(id, path);
        FileBody body = found.file()
                .orElseThrow(() -> new UnreadableInput(found.path() + " is a folder; take out its files one by one."));
        if (Files.exists(to)) {
            throw new NameTaken(to + " is there already and was left as it is.", to.toString());
        }
        Files.write(to, body.bytes(), StandardOpenOption.CREATE_NEW);
        return body.bytes().length;
    }

    /** One copy in which a file is different from the copy before, or was there first, or no more. */
    public record Version(Copies.Copy copy, Optional<FileBody> body) {}

    /** In which copies of a board a file changed, oldest first. */
    public List<Version> history(String board, String path) throws IOException {
        List<Version> versions = new ArrayList<>();
        Optional<FileBody> before = Optional.empty();
        for (Copies.Copy copy : workbench.workspace().copies().of(board)) {
            if (Files.isRegularFile(workbench.workspace().vault().resolve(copy.file()))) {
                Optional<FileBody> now = in(copy, path, (partition, reader, plain) -> reader.body(plain));
                boolean same = before.isPresent() == now.isPresent()
                        && (now.isEmpty() || now.get().same(before.get()));
                if (!same) {
                    versions.add(new Version(copy, now));
                }
                before = now;
            }
        }
        return versions;
    }

    private <T> T in(Copies.Copy copy, String path, Work<T> work) throws IOException {
        int colon = path.indexOf(":/");
        Optional<Integer> wanted = colon > 0 && path.substring(0, colon).matches("\\d{1,3}")
                ? Optional.of(Integer.parseInt(path.substring(0, colon)))
                : Optional.empty();
        String plain = "/" + path.substring(colon > 0 ? colon + 1 : 0).replaceAll("^/+|/+$", "");
        ImageFile image = copies.open(copy);
        try (UnpackedImage unpacked = UnpackedImage.asNeeded(image, ByteSize.of(copy.source()))) {
            BlockDevice device = unpacked.device();
            List<PartitionContent> partitions = Inspector.inspect(device).partitions();
            Optional<PartitionContent> chosen = wanted.isPresent()
                    ? partitions.stream()
                            .filter(each -> each.partition().number() == wanted.get())
                            .findFirst()
                    : partitions.stream()
                            .filter(each -> each.fileSystem().kind().isExt())
                            .findFirst()
                            .or(() -> partitions.stream()
                                    .filter(each -> each.fileSystem().kind().isFat())
                                    .findFirst());
            PartitionContent content = chosen.orElseThrow(() -> new UnknownName(
                    copy.file() + " has no partition "
                            + wanted.map(String::valueOf).orElse("that can be looked into") + ".",
                    path));
            FileSystemReader reader = FileSystems.open(content.partition().on(device))
                    .orElseThrow(() -> new UnreadableInput("Partition "
                            + content.partition().number() + " of " + copy.file() + " holds "
                            + content.fileSystem().kind().code() + ", which is not looked into."));
            return work.in(content.partition().number(), reader, plain.equals("/") ? "" : plain);
        }
    }
}

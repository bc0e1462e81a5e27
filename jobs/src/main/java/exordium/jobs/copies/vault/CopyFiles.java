// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.vault;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileOut;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.NameTaken;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Workbench;
import exordium.store.Copies;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
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
            Copies.Copy copy, int partition, String path, List<FileEntry> entries, Optional<FileEntry> file) {}

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
        return entry.get().kind() == FileEntry.EntryKind.FOLDER
                ? new Found(copy, partition, path, reader.entries(path), Optional.empty())
                : new Found(copy, partition, path, List.of(entry.get()), entry);
    }

    /** Takes one file out, however large; gives how many bytes it has. @throws NameTaken when something stands there already */
    public long takeOut(String id, String path, Path to) throws IOException {
        Copies.Copy copy = copies.find(id);
        if (Files.exists(to)) {
            throw new NameTaken(to + " is there already and was left as it is.", to.toString());
        }
        return in(copy, path, (partition, reader, plain) -> {
            Found found = found(copy, partition, reader, plain);
            if (found.file()
                    .filter(each -> each.kind() == FileEntry.EntryKind.FILE)
                    .isEmpty()) {
                throw new UnreadableInput(found.path() + " is no file; take out files one by one.");
            }
            return FileOut.copy(reader, plain, to)
                    .orElseThrow(() -> new UnreadableInput(found.path() + " cannot be read."));
        });
    }

    /**
     * A file as it is in one copy.
     *
     * @param bytes it has; empty where it is not there
     * @param changed whether it is another one than in the copy before, or is there for the first time, or no more
     * @param which of its contents this is, counted from 1; 0 where it is not there
     */
    public record Version(Copies.Copy copy, Optional<Long> bytes, boolean changed, int which) {}

    /** A file in all copies of a board whose file is there, oldest first. */
    public List<Version> history(String board, String path) throws IOException {
        List<Version> versions = new ArrayList<>();
        Map<String, Integer> contents = new HashMap<>();
        int before = -1;
        for (Copies.Copy copy : workbench.workspace().copies().of(board)) {
            if (Files.isRegularFile(workbench.workspace().vault().resolve(copy.file()))) {
                Summed now = in(copy, path, (partition, reader, plain) -> Summed.of(reader, plain));
                int which = now.there() ? contents.computeIfAbsent(now.digest(), digest -> contents.size() + 1) : 0;
                versions.add(new Version(
                        copy,
                        now.there() ? Optional.of(now.bytes()) : Optional.empty(),
                        which != Math.max(0, before),
                        which));
                before = which;
            }
        }
        return versions;
    }

    /** One content by its digest. */
    private record Summed(boolean there, long bytes, String digest) {
        static Summed of(FileSystemReader reader, String path) throws IOException {
            Optional<FileBody> link = link(reader, path);
            if (link.isPresent()) {
                return new Summed(
                        true, link.get().bytes().length, "link to " + link.get().text());
            }
            MessageDigest digest = PublishedChecksum.newSha256();
            long[] bytes = {0};
            OutputStream sum = new OutputStream() {
                @Override
                public void write(int one) {
                    digest.update((byte) one);
                    bytes[0]++;
                }

                @Override
                public void write(byte[] some, int offset, int length) {
                    digest.update(some, offset, length);
                    bytes[0] += length;
                }
            };
            boolean there = !path.isEmpty() && reader.copy(path, sum);
            return new Summed(there, bytes[0], HexFormat.of().formatHex(digest.digest()));
        }

        /** A link is not followed: where it leads is its content. */
        private static Optional<FileBody> link(FileSystemReader reader, String path) throws IOException {
            int slash = path.lastIndexOf('/');
            if (slash < 0) {
                return Optional.empty();
            }
            boolean link = reader.entries(slash == 0 ? "/" : path.substring(0, slash)).stream()
                    .anyMatch(each -> each.kind() == FileEntry.EntryKind.LINK
                            && each.name().equals(path.substring(slash + 1)));
            return link ? reader.body(path) : Optional.empty();
        }
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

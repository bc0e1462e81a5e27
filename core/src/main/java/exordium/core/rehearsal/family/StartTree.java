// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.block.BlockDevice;
import exordium.core.board.NamePattern;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.ElTorito;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.HeadBuffer;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** The files an image is started by: a small FAT partition, the folder a whole ext system is started from, or a disc's start image. */
final class StartTree {
    private static final int DEEPEST = 5;
    private static final int MOST_NAMES = 5000;
    private static final int LARGEST_TEXT = 64 << 10;
    private static final String BOOT = "boot/";

    private final FileSystemReader reader;
    private final boolean onExt;
    private final Optional<FileSystemReader> root;
    private final List<String> names = new ArrayList<>();

    private StartTree(FileSystemReader reader, boolean onExt, Optional<FileSystemReader> root) throws IOException {
        this.reader = reader;
        this.onExt = onExt;
        this.root = root;
        collect("", 1);
    }

    /** @throws UnreadableInput where there is nothing that a board could start from */
    static StartTree of(BlockDevice device, DriveInspection inspection) throws IOException {
        Optional<FileSystemReader> fat = Optional.empty();
        Optional<FileSystemReader> ext = Optional.empty();
        for (PartitionContent content : inspection.partitions()) {
            if (content.partition().endByte() > device.size().bytes()) {
                continue;
            }
            Optional<FileSystemReader> reader =
                    FileSystems.open(content.partition().on(device));
            if (content.fileSystem().kind().isFat()) {
                fat = fat.or(() -> reader);
            } else {
                ext = ext.or(() -> reader);
            }
        }
        Optional<FileSystemReader> start = fat.isPresent() ? fat : disc(device);
        if (start.isPresent()) {
            return new StartTree(start.get(), false, ext);
        }
        if (ext.isEmpty()) {
            throw new UnreadableInput("There is nothing on it that a board could start from: no FAT partition, no Linux"
                    + " file system and no start record of a disc; so nothing can be read off it.");
        }
        return new StartTree(ext.get(), true, ext);
    }

    private static Optional<FileSystemReader> disc(BlockDevice device) throws IOException {
        Optional<Long> at = ElTorito.efiImage(device);
        return at.isEmpty()
                ? Optional.empty()
                : FileSystems.open(
                        new Partition(0, at.get(), ByteSize.of(device.size().bytes() - at.get()), "El Torito", true, "")
                                .on(device));
    }

    private void collect(String folder, int depth) throws IOException {
        for (FileEntry entry : reader.entries("/" + folder)) {
            if (names.size() >= MOST_NAMES) {
                return;
            }
            String path = folder.isEmpty() ? entry.name() : folder + "/" + entry.name();
            if (entry.kind() == FileEntry.EntryKind.FOLDER) {
                if (depth < DEEPEST && (!onExt || (path + "/").startsWith(BOOT) || path.equals("extlinux"))) {
                    collect(path, depth + 1);
                }
            } else {
                names.add(path);
            }
        }
    }

    static String last(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    boolean onExt() {
        return onExt;
    }

    Optional<FileSystemReader> root() {
        return root;
    }

    Stream<String> names() {
        return names.stream();
    }

    /** Those at the top, where firmware looks: of a whole system, in its start folder too. */
    Stream<String> atTop() {
        return names.stream().filter(this::isAtTop);
    }

    boolean isAtTop(String name) {
        String plain = onExt && name.startsWith(BOOT) ? name.substring(BOOT.length()) : name;
        return !plain.contains("/");
    }

    /** One of a name, wherever firmware would look for it. */
    Optional<String> find(String path) {
        return names.stream()
                .filter(name -> name.equalsIgnoreCase(path))
                .findFirst()
                .or(() -> onExt
                        ? names.stream()
                                .filter(name -> name.equalsIgnoreCase(BOOT + path))
                                .findFirst()
                        : Optional.empty());
    }

    /** As a menu or a text for a loader names it, which may leave out the folders before it. */
    Optional<String> named(String path) {
        String plain = path.strip().replace('\\', '/').replaceFirst("^/+", "");
        return plain.isEmpty()
                ? Optional.empty()
                : find(plain).or(() -> names.stream()
                        .filter(name -> name.toLowerCase(Locale.ROOT).endsWith("/" + plain.toLowerCase(Locale.ROOT)))
                        .findFirst());
    }

    boolean has(String pattern) {
        return names.stream().anyMatch(name -> NamePattern.isLike(name, pattern));
    }

    void leaveOut(Collection<String> others) {
        names.removeAll(others);
    }

    void leaveOut(Predicate<String> others) {
        names.removeIf(others);
    }

    byte[] head(String name, int most) throws IOException {
        HeadBuffer head = new HeadBuffer(most);
        reader.copy("/" + name, head);
        return head.bytes();
    }

    byte[] bytes(String name) throws IOException {
        return head(name, LARGEST_TEXT);
    }

    String text(String name) throws IOException {
        return new String(head(name, LARGEST_TEXT), StandardCharsets.UTF_8);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.CRC32;
import org.apache.commons.compress.archivers.sevenz.SevenZArchiveEntry;
import org.apache.commons.compress.archivers.sevenz.SevenZFile;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.io.input.ChecksumInputStream;

/** Archives that hold an image among other files: .zip, with its 64-bit form, and .7z. */
final class Archive {
    private static final List<String> IMAGES = List.of(".img", ".iso", ".raw", ".bin", ".wic");
    private static final int MOST_NAMED = 6;

    private Archive() {}

    /** One file inside. */
    record Entry(String name, Optional<Long> size) {
        boolean looksLikeImage() {
            String lower = name.toLowerCase(Locale.ROOT);
            return IMAGES.stream().anyMatch(lower::endsWith);
        }
    }

    /**
     * The image that is meant: the one that is named, else the only file, else the only one that looks like an image.
     *
     * @throws UnreadableInput naming those there are to choose from
     */
    static Entry choose(Path path, ContainerKind kind, Optional<String> wanted) throws IOException {
        List<Entry> entries = entries(path, kind);
        if (wanted.isPresent()) {
            return entries.stream()
                    .filter(entry ->
                            entry.name().equals(wanted.get()) || entry.name().endsWith("/" + wanted.get()))
                    .findFirst()
                    .orElseThrow(() -> new UnreadableInput("There is no " + wanted.get() + " in " + path.getFileName()
                            + "; there are " + names(entries) + "."));
        }
        List<Entry> images = entries.stream().filter(Entry::looksLikeImage).toList();
        if (entries.size() == 1 || images.size() == 1) {
            return entries.size() == 1 ? entries.get(0) : images.get(0);
        }
        if (entries.isEmpty()) {
            throw new UnreadableInput(path.getFileName() + " holds no file.");
        }
        List<Entry> offered = offered(entries);
        throw new UnreadableInput(path.getFileName() + " holds " + offered.size()
                + (images.isEmpty() ? " files" : " images") + " where one was expected: " + names(offered)
                + ". Name one of them, as in " + path.getFileName() + "/"
                + offered.get(0).name() + ".");
    }

    /** Those that look like images, else all files. */
    private static List<Entry> offered(List<Entry> entries) {
        List<Entry> images = entries.stream().filter(Entry::looksLikeImage).toList();
        return images.isEmpty() ? entries : images;
    }

    /** What there is to choose from, where there is a choice. */
    static List<String> choices(Path path, ContainerKind kind) throws IOException {
        List<String> names =
                offered(entries(path, kind)).stream().map(Entry::name).toList();
        return names.size() > 1 ? names : List.of();
    }

    private static String names(List<Entry> entries) {
        String names = String.join(
                ", ", entries.stream().limit(MOST_NAMED).map(Entry::name).toList());
        return entries.size() > MOST_NAMED ? names + " and more" : names;
    }

    private static List<Entry> entries(Path path, ContainerKind kind) throws IOException {
        List<Entry> entries = new ArrayList<>();
        if (kind == ContainerKind.ZIP) {
            try (ZipFile zip = ZipFile.builder().setPath(path).get()) {
                for (ZipArchiveEntry entry : Collections.list(zip.getEntries())) {
                    if (!entry.isDirectory()) {
                        entries.add(new Entry(
                                entry.getName(), Optional.of(entry.getSize()).filter(size -> size >= 0)));
                    }
                }
            }
            return entries;
        }
        try (SevenZFile archive = sevenZ(path)) {
            for (SevenZArchiveEntry entry : archive.getEntries()) {
                if (entry.hasStream()) {
                    entries.add(new Entry(entry.getName(), Optional.of(entry.getSize())));
                }
            }
        }
        return entries;
    }

    private static SevenZFile sevenZ(Path path) throws IOException {
        return SevenZFile.builder()
                .setPath(path)
                .setMaxMemoryLimitKiB(ImageFile.XZ_MEMORY_KIB)
                .get();
    }

    static InputStream open(Path path, ContainerKind kind, String name) throws IOException {
        return kind == ContainerKind.ZIP ? zip(path, name) : sevenZ(path, name);
    }

    /** An entry's content; the library leaves its checksum to its caller. */
    static InputStream checked(ZipFile zip, ZipArchiveEntry entry) throws IOException {
        return ChecksumInputStream.builder()
                .setInputStream(zip.getInputStream(entry))
                .setChecksum(new CRC32())
                .setExpectedChecksumValue(entry.getCrc())
                .setCountThreshold(entry.getSize())
                .get();
    }

    private static InputStream zip(Path path, String name) throws IOException {
        ZipFile zip = ZipFile.builder().setPath(path).get();
        try {
            return new OwnedStream(checked(zip, zip.getEntry(name)), zip);
        } catch (IOException | RuntimeException e) {
            zip.close();
            throw e;
        }
    }

    private static InputStream sevenZ(Path path, String name) throws IOException {
        SevenZFile archive = sevenZ(path);
        try {
            for (SevenZArchiveEntry entry : archive.getEntries()) {
                if (entry.getName().equals(name)) {
                    return new OwnedStream(archive.getInputStream(entry), archive);
                }
            }
            throw new UnreadableInput("There is no " + name + " in " + path.getFileName() + " any more.");
        } catch (IOException | RuntimeException e) {
            archive.close();
            throw e;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeMap;
import org.apache.commons.compress.archivers.ar.ArArchiveEntry;
import org.apache.commons.compress.archivers.ar.ArArchiveInputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;

/**
 * What a maker publishes, as it is: a Debian package (deb(5)), a .tar packed in whatever way, a .zip, or a folder. Nothing of it is
 * unpacked onto a disk.
 *
 * @param files by their path, without a slash in front
 * @param links path to what it leads to
 * @param md5 what the package itself says of its files (deb-md5sums(5)); empty where it says nothing
 */
public record PackageFiles(Map<String, byte[]> files, Map<String, String> links, Map<String, String> md5) {
    private static final int MOST_FILES = 5000;
    private static final int MOST_ENTRIES = 50_000;
    private static final long MOST_BYTES = 96L << 20;

    public PackageFiles {
        files = Collections.unmodifiableMap(new TreeMap<>(files));
        links = Map.copyOf(links);
        md5 = Map.copyOf(md5);
    }

    /**
     * Reads one.
     *
     * @throws UnreadableInput when it is none of these or damaged, or a path leads out of it
     * @throws OverBound when it holds more than is read of one
     */
    public static PackageFiles read(Path path) throws IOException {
        if (!Files.exists(path)) {
            throw new UnreadableInput("There is no file or folder " + path + ".");
        }
        Collector found = new Collector(String.valueOf(path.getFileName()));
        if (Files.isDirectory(path)) {
            found.folder(path);
            return found.whole();
        }
        if (!Files.isRegularFile(path)) {
            throw new UnreadableInput(path + " is neither a file nor a folder.");
        }
        try {
            found.file(path);
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new UnreadableInput(path.getFileName() + " is not a whole package: " + e.getMessage() + ".", e);
        }
        return found.whole();
    }

    /** Whether a file begins as a package or an archive does; an image of a medium does not. */
    public static boolean isOne(Path path) throws IOException {
        if (Files.isDirectory(path)) {
            return true;
        }
        if (!Files.isRegularFile(path)) {
            return false;
        }
        try (BufferedInputStream in = new BufferedInputStream(Files.newInputStream(path))) {
            in.mark(8);
            byte[] first = in.readNBytes(8);
            in.reset();
            if (isAr(first) || isZip(first)) {
                return !isZip(first) || !holdsImage(path);
            }
            byte[] head = ArchiveFiles.unpacked(in).readNBytes(262);
            return head.length == 262 && new String(head, 257, 5, StandardCharsets.ISO_8859_1).equals("ustar");
        } catch (IOException e) {
            return false;
        }
    }

    /** A zip with one image of a medium in it is that image, packed. */
    private static boolean holdsImage(Path path) throws IOException {
        try (ZipFile zip = ZipFile.builder().setPath(path).get()) {
            return Collections.list(zip.getEntries()).stream()
                    .anyMatch(each -> each.getName().matches("(?i)[^/]*\\.(img|iso)") && each.getSize() > (32L << 20));
        }
    }

    private static boolean isAr(byte[] first) {
        return new String(first, StandardCharsets.ISO_8859_1).equals("!<arch>\n");
    }

    private static boolean isZip(byte[] first) {
        return first.length > 3 && first[0] == 'P' && first[1] == 'K' && first[2] == 3 && first[3] == 4;
    }

    /** What has been read so far, within bounds. */
    private static final class Collector {
        private final String name;
        private final Map<String, byte[]> files = new TreeMap<>();
        private final Map<String, String> links = new HashMap<>();
        private final Map<String, String> md5 = new HashMap<>();
        private long total;
        private int entries;

        Collector(String name) {
            this.name = name;
        }

        PackageFiles whole() throws UnreadableInput {
            if (files.isEmpty()) {
                throw new UnreadableInput(
                        name + " holds no files: a package (.deb), an archive or a folder is wanted.");
            }
            return new PackageFiles(files, links, md5);
        }

        void file(Path path) throws IOException {
            try (BufferedInputStream in = new BufferedInputStream(Files.newInputStream(path))) {
                in.mark(8);
                byte[] first = in.readNBytes(8);
                in.reset();
                if (isAr(first)) {
                    deb(in);
                } else if (isZip(first)) {
                    zip(path);
                } else {
                    tar(ArchiveFiles.unpacked(in), false);
                }
            }
        }

        private void deb(InputStream in) throws IOException {
            try (ArArchiveInputStream ar = new ArArchiveInputStream(in)) {
                for (ArArchiveEntry each = ar.getNextEntry(); each != null; each = ar.getNextEntry()) {
                    if (each.getName().startsWith("data.tar") || each.getName().startsWith("control.tar")) {
                        InputStream member = ArchiveFiles.unpacked(new BufferedInputStream(ar));
                        tar(member, each.getName().startsWith("control"));
                    }
                }
            }
        }

        private void tar(InputStream in, boolean control) throws IOException {
            // Not closed: it may be a member of an archive that goes on behind it.
            TarArchiveInputStream tar = new TarArchiveInputStream(in, "UTF-8");
            for (TarArchiveEntry each = tar.getNextEntry(); each != null; each = tar.getNextEntry()) {
                counted();
                if (each.isDirectory()) {
                    continue;
                }
                String path = plain(each.getName());
                if (control) {
                    if (path.equals("md5sums")) {
                        sums(new String(bytes(path, each.getSize(), tar), StandardCharsets.UTF_8));
                    }
                } else if (each.isSymbolicLink() || each.isLink()) {
                    String target = each.getLinkName();
                    links.put(path, each.isLink() ? "/" + plain(target) : target);
                } else if (each.isFile()) {
                    put(path, bytes(path, each.getSize(), tar));
                }
            }
        }

        /** Folders and links cost no room, but time. */
        private void counted() throws OverBound {
            if (++entries > MOST_ENTRIES) {
                throw new OverBound(name + " holds more than " + MOST_ENTRIES + " entries.", MOST_ENTRIES);
            }
        }

        private void sums(String text) {
            text.lines()
                    .map(line -> line.strip().split("\\s+\\*?", 2))
                    .filter(words -> words.length == 2)
                    .forEach(words -> md5.put(words[1], words[0].toLowerCase(java.util.Locale.ROOT)));
        }

        private void zip(Path path) throws IOException {
            try (ZipFile zip = ZipFile.builder().setPath(path).get()) {
                for (ZipArchiveEntry each : Collections.list(zip.getEntries())) {
                    if (each.isDirectory()) {
                        continue;
                    }
                    String at = plain(each.getName());
                    try (InputStream in = Archive.checked(zip, each)) {
                        byte[] content = bytes(at, each.getSize(), in);
                        if (each.isUnixSymlink()) {
                            links.put(at, new String(content, StandardCharsets.UTF_8));
                        } else {
                            put(at, content);
                        }
                    }
                }
            }
        }

        void folder(Path top) throws IOException {
            Files.walkFileTree(top, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes is) throws IOException {
                    String path = top.relativize(file).toString().replace('\\', '/');
                    if (is.isSymbolicLink()) {
                        links.put(path, Files.readSymbolicLink(file).toString());
                    } else if (is.isRegularFile()) {
                        try (InputStream in = Files.newInputStream(file)) {
                            put(path, bytes(path, is.size(), in));
                        }
                    }
                    return FileVisitResult.CONTINUE;
                }
            });
        }

        private String plain(String path) throws UnreadableInput {
            return ArchiveFiles.inside(name, path);
        }

        private byte[] bytes(String path, long size, InputStream in) throws IOException {
            total += Math.max(0, size);
            if (size < 0 || total > MOST_BYTES) {
                throw new OverBound(name + " unpacks to more than any firmware takes.", MOST_BYTES);
            }
            byte[] content = in.readNBytes((int) size);
            if (content.length < size) {
                throw new UnreadableInput(name + " is not a whole package: " + path + " has another length.");
            }
            return content;
        }

        private void put(String path, byte[] content) throws OverBound {
            if (files.size() >= MOST_FILES) {
                throw new OverBound(name + " holds more than " + MOST_FILES + " files.", MOST_FILES);
            }
            files.put(path, content);
        }
    }
}

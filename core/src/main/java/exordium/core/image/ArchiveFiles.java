// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.compressors.CompressorException;
import org.apache.commons.compress.compressors.CompressorStreamFactory;

/** The files of a small archive, all in memory: a .zip, or a .tar as it is, in gzip or in xz. */
public final class ArchiveFiles {
    private static final int MOST_FILES = 600;
    private static final long MOST_BYTES = 64L << 20;

    private final Path path;
    /** Names that differ only in capitals are one name where these files go. */
    private final Map<String, byte[]> files = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);

    private long total;

    private ArchiveFiles(Path path) {
        this.path = path;
    }

    /**
     * By their path, with slashes, as they stand in it.
     *
     * @throws UnreadableInput when it is no such archive or damaged, holds a path that leads out of it, or one name twice
     * @throws OverBound when it holds more than is read of one
     */
    public static Map<String, byte[]> read(Path path) throws IOException {
        if (!Files.isRegularFile(path)) {
            throw new UnreadableInput(Files.exists(path) ? path + " is no file." : "There is no file " + path + ".");
        }
        ArchiveFiles archive = new ArchiveFiles(path);
        try {
            if (isZip(path)) {
                archive.zip();
            } else {
                archive.tar();
            }
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw new UnreadableInput(path.getFileName() + " is not a whole archive: " + e.getMessage() + ".", e);
        }
        if (archive.files.isEmpty()) {
            throw new UnreadableInput(path.getFileName() + " is no archive with files: a .zip or a .tar is wanted.");
        }
        return archive.files;
    }

    private static boolean isZip(Path path) throws IOException {
        try (InputStream in = Files.newInputStream(path)) {
            byte[] first = in.readNBytes(4);
            return first.length == 4 && first[0] == 'P' && first[1] == 'K' && first[2] == 3 && first[3] == 4;
        }
    }

    private void zip() throws IOException {
        try (ZipFile zip = ZipFile.builder().setPath(path).get()) {
            for (ZipArchiveEntry each : Collections.list(zip.getEntries())) {
                if (!each.isDirectory() && !each.isUnixSymlink()) {
                    try (InputStream in = Archive.checked(zip, each)) {
                        put(each.getName(), each.getSize(), in);
                    }
                }
            }
        }
    }

    private void tar() throws IOException {
        try (BufferedInputStream file = new BufferedInputStream(Files.newInputStream(path));
                TarArchiveInputStream tar = new TarArchiveInputStream(unpacked(file), "UTF-8")) {
            for (TarArchiveEntry each = tar.getNextEntry(); each != null; each = tar.getNextEntry()) {
                if (each.isFile() && !each.isLink() && !each.isSymbolicLink()) {
                    put(each.getName(), each.getSize(), tar);
                }
            }
        }
    }

    /** A path in an archive, plain. @throws UnreadableInput when it leads out of it */
    static String inside(String archive, String name) throws UnreadableInput {
        String plain = name.replace('\\', '/').replaceFirst("^(\\./)+", "");
        boolean out = plain.startsWith("/") || plain.matches("(?s).*(^|/)\\.\\.(/|$).*|[A-Za-z]:.*");
        if (out || plain.isEmpty() || plain.chars().anyMatch(letter -> letter < ' ')) {
            throw new UnreadableInput(archive + " holds a file called \"" + plain.replaceAll("\\p{Cntrl}", "?")
                    + "\", which would lie outside of it. Nothing of it was used.");
        }
        return plain;
    }

    static InputStream unpacked(BufferedInputStream file) throws IOException {
        try {
            String kind = CompressorStreamFactory.detect(file);
            return new BufferedInputStream(
                    new CompressorStreamFactory(true, ImageFile.XZ_MEMORY_KIB).createCompressorInputStream(kind, file));
        } catch (CompressorException e) {
            // Not packed.
            return file;
        }
    }

    /** Read into its place at once: a file of tens of megabytes is in memory once, and not while it grows. */
    private void put(String name, long size, InputStream in) throws IOException {
        String plain = inside(String.valueOf(path.getFileName()), name);
        if (files.size() >= MOST_FILES) {
            throw new OverBound(
                    path.getFileName() + " holds more than " + MOST_FILES + " files; no firmware has so many.",
                    MOST_FILES);
        }
        total += Math.max(0, size);
        if (size < 0 || total > MOST_BYTES) {
            throw new OverBound(
                    path.getFileName() + " unpacks to more than "
                            + ByteSize.of(MOST_BYTES).said() + "; no firmware is so large.",
                    MOST_BYTES);
        }
        byte[] content = new byte[(int) size];
        if (in.readNBytes(content, 0, content.length) < size || in.read() >= 0) {
            throw new UnreadableInput(
                    path.getFileName() + " is not a whole archive: " + plain + " has another length.");
        }
        if (files.put(plain, content) != null) {
            throw new UnreadableInput(path.getFileName() + " holds " + plain.toLowerCase(Locale.ROOT)
                    + " twice; a card could take only one of them.");
        }
    }
}

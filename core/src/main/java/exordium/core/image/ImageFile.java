// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdInputStream;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import java.util.zip.CRC32;
import org.apache.commons.compress.archivers.sevenz.SevenZArchiveEntry;
import org.apache.commons.compress.archivers.sevenz.SevenZFile;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;
import org.apache.commons.io.input.ChecksumInputStream;
import org.tukaani.xz.SeekableFileInputStream;
import org.tukaani.xz.SeekableXZInputStream;
import org.tukaani.xz.XZInputStream;

/**
 * An image as a file, raw or in a container. Opening it checks the container's own frame where it has one that can be
 * read without unpacking, so a cut-off .xz is found before anything is written.
 *
 * <p>Memory: at most {@link #XZ_MEMORY_KIB} for the dictionary of an .xz, less for the others.
 */
public final class ImageFile {
    /** The largest preset of the format, -9, needs 65 MiB; hostile headers may ask for 4 GiB. */
    private static final int XZ_MEMORY_KIB = 100 * 1024;

    private static final int LONGEST_MAGIC = 8;
    private static final int STREAM_BUFFER = 1 << 16;

    private final Path path;
    private final ContainerKind kind;
    private final ByteSize compressed;
    private final Optional<ByteSize> uncompressed;

    private ImageFile(Path path, ContainerKind kind, ByteSize compressed, Optional<ByteSize> uncompressed) {
        this.path = path;
        this.kind = kind;
        this.compressed = compressed;
        this.uncompressed = uncompressed;
    }

    /**
     * Tells the container and, where the format says it, the size inside.
     *
     * @throws UnreadableInput when there is no such file, it is empty, or its container is broken or cut off
     */
    public static ImageFile open(Path path) throws IOException {
        if (!Files.isRegularFile(path)) {
            throw new UnreadableInput(Files.exists(path) ? path + " is not a file." : "There is no file " + path + ".");
        }
        ByteSize size = ByteSize.of(Files.size(path));
        if (size.bytes() == 0) {
            throw new UnreadableInput(path.getFileName() + " is empty.");
        }
        byte[] magic;
        try (InputStream stream = Files.newInputStream(path)) {
            magic = stream.readNBytes(LONGEST_MAGIC);
        }
        if (startsWith(magic, 'R', 'a', 'r', '!')) {
            throw new UnreadableInput(path.getFileName()
                    + " is a .rar archive, which is not read here; unpack it first and give the image inside.");
        }
        ContainerKind kind = kindOf(magic);
        try {
            return new ImageFile(path, kind, size, sizeInside(path, kind, size));
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw broken(path, kind, e);
        }
    }

    public Path path() {
        return path;
    }

    public String name() {
        return String.valueOf(path.getFileName());
    }

    public ContainerKind kind() {
        return kind;
    }

    public ByteSize compressedSize() {
        return compressed;
    }

    /** The image's size where the container says it; else only reading it through tells. */
    public Optional<ByteSize> uncompressedSize() {
        return uncompressed;
    }

    /**
     * The image's own bytes from the first on. A reader that meets broken data gets an {@link UnreadableInput}.
     */
    public InputStream stream() throws IOException {
        try {
            return new CheckedStream(decoded(), this);
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw broken(path, kind, e);
        }
    }

    private InputStream decoded() throws IOException {
        return switch (kind) {
            case RAW -> Files.newInputStream(path);
            case XZ -> new XZInputStream(buffered(), XZ_MEMORY_KIB);
            case GZIP ->
                GzipCompressorInputStream.builder()
                        .setInputStream(buffered())
                        .setDecompressConcatenated(true)
                        .get();
            case ZSTD -> new ZstdInputStream(buffered()).setLongMax(27);
            case BZIP2 -> new BZip2CompressorInputStream(buffered(), true);
            case ZIP -> zipEntry();
            case SEVEN_Z -> sevenZEntry();
        };
    }

    private InputStream buffered() throws IOException {
        return new BufferedInputStream(Files.newInputStream(path), STREAM_BUFFER);
    }

    private static ContainerKind kindOf(byte[] magic) {
        if (startsWith(magic, 0xFD, '7', 'z', 'X', 'Z', 0)) {
            return ContainerKind.XZ;
        }
        if (startsWith(magic, 0x1F, 0x8B, 8)) {
            return ContainerKind.GZIP;
        }
        if (startsWith(magic, 0x28, 0xB5, 0x2F, 0xFD)) {
            return ContainerKind.ZSTD;
        }
        if (startsWith(magic, 'B', 'Z', 'h') && magic.length > 3 && magic[3] >= '1' && magic[3] <= '9') {
            return ContainerKind.BZIP2;
        }
        if (startsWith(magic, 'P', 'K', 3, 4)) {
            return ContainerKind.ZIP;
        }
        return startsWith(magic, '7', 'z', 0xBC, 0xAF, 0x27, 0x1C) ? ContainerKind.SEVEN_Z : ContainerKind.RAW;
    }

    private static boolean startsWith(byte[] bytes, int... expected) {
        if (bytes.length < expected.length) {
            return false;
        }
        for (int i = 0; i < expected.length; i++) {
            if ((bytes[i] & 0xFF) != expected[i]) {
                return false;
            }
        }
        return true;
    }

    private static Optional<ByteSize> sizeInside(Path path, ContainerKind kind, ByteSize size) throws IOException {
        switch (kind) {
            case RAW:
                return Optional.of(size);
            case XZ:
                try (SeekableXZInputStream xz =
                        new SeekableXZInputStream(new SeekableFileInputStream(path.toFile()), XZ_MEMORY_KIB)) {
                    return Optional.of(ByteSize.of(xz.length()));
                }
            case ZSTD:
                try (InputStream stream = Files.newInputStream(path)) {
                    long told = Zstd.getFrameContentSize(stream.readNBytes(18));
                    return told > 0 ? Optional.of(ByteSize.of(told)) : Optional.empty();
                }
            case ZIP:
                try (ZipFile zip = ZipFile.builder().setPath(path).get()) {
                    return Optional.of(ByteSize.of(onlyEntry(zip, path).getSize()));
                }
            case SEVEN_Z:
                try (SevenZFile archive = SevenZFile.builder()
                        .setPath(path)
                        .setMaxMemoryLimitKiB(XZ_MEMORY_KIB)
                        .get()) {
                    return Optional.of(ByteSize.of(onlyEntry(archive, path).getSize()));
                }
            default:
                return Optional.empty();
        }
    }

    private static ZipArchiveEntry onlyEntry(ZipFile zip, Path path) throws UnreadableInput {
        var files = java.util.Collections.list(zip.getEntries()).stream()
                .filter(entry -> !entry.isDirectory())
                .toList();
        if (files.size() != 1) {
            throw severalInside(path, files.size());
        }
        return files.get(0);
    }

    private static SevenZArchiveEntry onlyEntry(SevenZFile archive, Path path) throws IOException {
        var files = java.util.stream.StreamSupport.stream(archive.getEntries().spliterator(), false)
                .filter(SevenZArchiveEntry::hasStream)
                .toList();
        if (files.size() != 1) {
            throw severalInside(path, files.size());
        }
        return files.get(0);
    }

    private static UnreadableInput severalInside(Path path, int count) {
        return new UnreadableInput(path.getFileName() + " holds " + count
                + " files where one image was expected; unpack it and give the image.");
    }

    private InputStream zipEntry() throws IOException {
        ZipFile zip = ZipFile.builder().setPath(path).get();
        ZipArchiveEntry entry = onlyEntry(zip, path);
        // The library leaves an entry's checksum to its caller.
        InputStream checked = ChecksumInputStream.builder()
                .setInputStream(zip.getInputStream(entry))
                .setChecksum(new CRC32())
                .setExpectedChecksumValue(entry.getCrc())
                .setCountThreshold(entry.getSize())
                .get();
        return new OwnedStream(checked, zip);
    }

    private InputStream sevenZEntry() throws IOException {
        SevenZFile archive = SevenZFile.builder()
                .setPath(path)
                .setMaxMemoryLimitKiB(XZ_MEMORY_KIB)
                .get();
        return new OwnedStream(archive.getInputStream(onlyEntry(archive, path)), archive);
    }

    static UnreadableInput broken(Path path, ContainerKind kind, Exception cause) {
        String detail = cause instanceof java.io.EOFException || cause.getMessage() == null
                ? "it ends too early"
                : Arrays.stream(cause.getMessage().split("\n")).findFirst().orElse("");
        if (kind == ContainerKind.XZ && cause instanceof org.tukaani.xz.XZFormatException) {
            detail = "it is cut off, or something else is stuck to its end";
        }
        return new UnreadableInput(
                path.getFileName() + " is not a whole " + kind.code() + " file: " + detail + ".", cause);
    }
}

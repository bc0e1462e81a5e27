// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.ZstdInputStream;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileIdentity;
import exordium.core.block.FileStamp;
import exordium.core.block.Machine;
import exordium.core.block.MediumAt;
import exordium.core.block.MediumStream;
import exordium.core.block.XzUnpacker;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;
import org.apache.commons.io.input.BoundedInputStream;
import org.tukaani.xz.XZInputStream;

/**
 * An image as a file, raw or in a container. Opening it checks the container's own frame where it has one that can be
 * read without unpacking, so a cut-off .xz is found before anything is written.
 *
 * <p>Memory: at most {@link #XZ_MEMORY_KIB} for the dictionary of an .xz, less for the others.
 */
public final class ImageFile {
    /** The largest preset of the format, -9, needs 65 MiB; hostile headers may ask for 4 GiB. */
    static final int XZ_MEMORY_KIB = 100 * 1024;

    static final long XZ_MEMORY = XZ_MEMORY_KIB * 1024L;

    /** An .xz smaller than this is not worth loading the system's library for. */
    static final long WORTH_THE_SYSTEM = 6L << 20;

    private static final int STREAM_BUFFER = 1 << 16;

    private final Path path;
    private final ContainerKind kind;
    private final ByteSize compressed;
    private final Optional<ByteSize> uncompressed;
    private final Optional<String> entry;
    private final String stamp;
    private final UnpackedBound bound;

    /** By which it is known to be what it was. */
    private static String stamp(Path path) throws IOException {
        // A drive's node changes with every write to anything on it; what it is, is its number and its length.
        return isDrive(path) ? FileIdentity.of(path) + " " + MediumAt.size(path).bytes() : FileStamp.of(path);
    }

    private ImageFile(
            Path path,
            ContainerKind kind,
            ByteSize compressed,
            Optional<ByteSize> uncompressed,
            Optional<String> entry,
            String stamp,
            UnpackedBound bound) {
        this.stamp = stamp;
        this.bound = bound;
        this.path = path;
        this.kind = kind;
        this.compressed = compressed;
        this.uncompressed = uncompressed;
        this.entry = entry;
    }

    /**
     * Tells the container and, where the format says it, the size inside. An archive with several images is opened at one
     * of them by a path that goes on into it, such as {@code shelf.zip/marsh.img}.
     *
     * @throws UnreadableInput when there is no such file, it is empty, or its container is broken or cut off
     */
    public static ImageFile open(Path path) throws IOException {
        Path archive = path.getParent();
        if (!Files.exists(path) && archive != null && Files.isRegularFile(archive)) {
            return open(archive, Optional.of(String.valueOf(path.getFileName())));
        }
        return open(path, Optional.empty());
    }

    /** Whether a path leads to a drive instead of a file; its bytes are taken as they are, whatever they look like. */
    private static boolean isDrive(Path path) {
        try {
            return Files.exists(path)
                    && !Files.isRegularFile(path)
                    && !Files.isDirectory(path)
                    && FileIdentity.of(path).device();
        } catch (IOException e) {
            // It went away: what is said of it is said where it is opened.
            return false;
        }
    }

    private static ImageFile drive(Path path) throws IOException {
        String stamp = stamp(path);
        ByteSize size = isDrive(path) ? MediumAt.size(path) : ByteSize.of(Files.size(path));
        if (size.bytes() == 0) {
            throw new UnreadableInput(path + " tells no size; no medium is in it, or it is no drive.");
        }
        return new ImageFile(
                path, ContainerKind.RAW, size, Optional.of(size), Optional.empty(), stamp, UnpackedBound.byRatio(size));
    }

    private static ImageFile open(Path path, Optional<String> wanted) throws IOException {
        if (isDrive(path) && wanted.isEmpty()) {
            return drive(path);
        }
        if (!Files.isRegularFile(path)) {
            throw new UnreadableInput(
                    Files.exists(path)
                            ? path + " is not a file but a folder, a pipe or something else."
                            : "There is no file " + path + ".");
        }
        String stamp = stamp(path);
        ByteSize size = isDrive(path) ? MediumAt.size(path) : ByteSize.of(Files.size(path));
        if (size.bytes() == 0) {
            throw new UnreadableInput(path.getFileName() + " is empty.");
        }
        byte[] magic = ContainerMarks.magic(path);
        if (ContainerMarks.startsWith(magic, 'R', 'a', 'r', '!')) {
            throw new UnreadableInput(path.getFileName()
                    + " is a .rar archive, which is not read here; unpack it first and give the image inside.");
        }
        ContainerKind kind = ContainerMarks.kindOf(magic);
        if (kind == ContainerKind.RAW) {
            ContainerMarks.requireNoLostContainer(path);
        }
        try {
            if (kind == ContainerKind.ZIP || kind == ContainerKind.SEVEN_Z) {
                Archive.Entry entry = Archive.choose(path, kind, wanted);
                return checked(new ImageFile(
                        path,
                        kind,
                        size,
                        entry.size().map(ByteSize::of),
                        Optional.of(entry.name()),
                        stamp,
                        UnpackedBound.byRatio(size)));
            }
            if (wanted.isPresent()) {
                throw new UnreadableInput(
                        path.getFileName() + " is no archive; there is no " + wanted.get() + " in it.");
            }
            Optional<ByteSize> inside = sizeInside(path, kind, size);
            UnpackedBound bound = UnpackedBound.byRatio(size);
            return checked(new ImageFile(
                    path,
                    kind,
                    size,
                    inside,
                    Optional.empty(),
                    stamp,
                    // What a copy holds lies in the packs beside it.
                    kind == ContainerKind.COPY ? bound.known(inside.orElseThrow()) : bound));
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw broken(path, kind, e);
        }
    }

    /** A container that announces more than it may hold is refused before any of it is unpacked. */
    private static ImageFile checked(ImageFile image) throws UnreadableInput {
        if (image.kind != ContainerKind.RAW && image.uncompressed.isPresent()) {
            image.bound.require(image.name(), image.uncompressed.get().bytes());
        }
        return image;
    }

    /** The same with the room there is for it: unpacking ends with a sentence as soon as it holds more. */
    public ImageFile within(ByteSize most, String what) {
        return new ImageFile(path, kind, compressed, uncompressed, entry, stamp, bound.within(most, what));
    }

    /**
     * The same where its size is known from when it was made here; however well it is packed, it may be as large as that. A container
     * that does not say how much it holds need not be read through to find out; one that ends before is broken.
     */
    public ImageFile ofKnownSize(ByteSize size) {
        Optional<ByteSize> held = uncompressed.isPresent() ? uncompressed : Optional.of(size);
        return new ImageFile(path, kind, compressed, held, entry, stamp, bound.known(size));
    }

    /** The first so many bytes of a raw one: of a drive, what its table counts. */
    public ImageFile first(ByteSize length) {
        if (kind != ContainerKind.RAW || length.compareTo(compressed) > 0) {
            throw new IllegalArgumentException("only a raw image is cut, and not beyond its end");
        }
        return new ImageFile(path, kind, length, Optional.of(length), entry, stamp, bound);
    }

    UnpackedBound bound() {
        return bound;
    }

    /**
     * The images to choose from where a file is an archive with several; each is opened as {@code archive/name}. Empty where
     * there is no choice.
     */
    public static List<String> choices(Path path) throws IOException {
        ContainerKind kind = ContainerMarks.kindOf(ContainerMarks.magic(path));
        if (kind != ContainerKind.ZIP && kind != ContainerKind.SEVEN_Z) {
            return List.of();
        }
        try {
            return Archive.choices(path, kind);
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw broken(path, kind, e);
        }
    }

    /** Whether the file is what it was when it was opened; where it is gone, it is not. */
    public boolean isStill() throws IOException {
        return Files.exists(path) && stamp(path).equals(stamp);
    }

    public Path path() {
        return path;
    }

    public String name() {
        return String.valueOf(path.getFileName());
    }

    /** The name of the image inside, where the container is an archive. */
    public Optional<String> entry() {
        return entry;
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
        return checked();
    }

    private CheckedStream checked() throws IOException {
        // Counts how far the file was read, so that an error can name the place.
        BoundedInputStream file = BoundedInputStream.builder()
                .setInputStream(MediumAt.stream(path))
                .get();
        try {
            return new CheckedStream(decoded(file), file, this);
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw broken(path, kind, e);
        }
    }

    /** The same for buffers outside the heap. */
    public ImageReader reader() throws IOException {
        if (kind == ContainerKind.COPY) {
            return new ImageReader.OfDevice(CopyDevice.open(path));
        }
        return kind == ContainerKind.RAW && !MediumAt.asks(path)
                ? new ImageReader.OfFile(FileChannel.open(path), this)
                : new ImageReader.OfStream(checked());
    }

    private InputStream decoded(InputStream file) throws IOException {
        return switch (kind) {
            case RAW ->
                BoundedInputStream.builder()
                        .setInputStream(file)
                        .setMaxCount(compressed.bytes())
                        .get();
            case XZ -> unpackedXz(file);
            case GZIP ->
                GzipCompressorInputStream.builder()
                        .setInputStream(buffered(file))
                        .setDecompressConcatenated(true)
                        .setOnMemberStart(new PartCount(path, "members")::another)
                        .get();
            case ZSTD -> unpackedZstd(file);
            case COPY -> copy();
            case BZIP2 -> new Bzip2Streams(buffered(file), new PartCount(path, "streams"));
            case ZIP, SEVEN_Z -> Archive.open(path, kind, entry.orElseThrow());
        };
    }

    private InputStream copy() throws IOException {
        CopyDevice device = CopyDevice.open(path);
        return new OwnedStream(new MediumStream(device), device);
    }

    private InputStream unpackedXz(InputStream file) throws IOException {
        Optional<XzUnpacker.Maker> library =
                compressed.bytes() >= WORTH_THE_SYSTEM ? Machine.here().xz() : Optional.empty();
        try (XzBlocks blocks = new XzBlocks(path)) {
            if (blocks.apart()) {
                return new PieceStream(
                        () -> new XzBlocks(path),
                        blocks.count(),
                        blocks.largest(),
                        library.isPresent() || !blocks.light());
            }
        }
        return library.isPresent()
                ? new LzmaStream(file, library.get())
                : new XZInputStream(buffered(file), XZ_MEMORY_KIB);
    }

    private InputStream unpackedZstd(InputStream file) throws IOException {
        List<ZstdFrames.Frame> frames = ZstdFrames.walk(path);
        long largest = ZstdFrames.largest(frames);
        if (PieceStream.worthwhile(frames.size(), largest)) {
            return new PieceStream(() -> new ZstdFrames(path, frames), frames.size(), largest, false);
        }
        return new ZstdInputStream(buffered(file)).setLongMax(27);
    }

    private static InputStream buffered(InputStream file) {
        return new BufferedInputStream(file, STREAM_BUFFER);
    }

    /** Whether that costs next to nothing. */
    public boolean isPlain() {
        return kind == ContainerKind.RAW;
    }

    /** The image for reading anywhere in it, where its container allows that without unpacking all of it. */
    public Optional<BlockDevice> device() throws IOException {
        if (kind == ContainerKind.RAW) {
            return Optional.of(MediumAt.device(path));
        }
        if (kind == ContainerKind.COPY) {
            return Optional.of(CopyDevice.open(path));
        }
        if (kind == ContainerKind.XZ) {
            XzBlocks blocks = new XzBlocks(path);
            if (blocks.apart()) {
                return Optional.of(new XzDevice(name(), blocks));
            }
            blocks.close();
        }
        return Optional.empty();
    }

    private static Optional<ByteSize> sizeInside(Path path, ContainerKind kind, ByteSize size) throws IOException {
        return switch (kind) {
            case RAW -> Optional.of(size);
            case XZ -> {
                try (XzBlocks blocks = new XzBlocks(path)) {
                    yield Optional.of(ByteSize.of(blocks.length()));
                }
            }
            case COPY -> Optional.of(CopyManifest.load(path).size());
            case ZSTD -> ZstdFrames.total(ZstdFrames.walk(path)).map(ByteSize::of);
            default -> Optional.empty();
        };
    }

    /** The same with how far the file was read when it broke. */
    UnreadableInput broken(Exception cause, long read) {
        UnreadableInput plain = broken(path, kind, cause);
        return read <= 0 || plain.offset().isPresent()
                ? plain
                : new UnreadableInput(
                        plain.getMessage().replaceFirst("\\.$", "") + ", read up to byte " + read + " of "
                                + compressed.bytes() + ".",
                        cause);
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

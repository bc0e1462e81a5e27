// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumAt;
import exordium.core.block.MediumException;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.OverBound;
import exordium.core.image.ContainerKind;
import exordium.core.image.ImageFile;
import exordium.core.image.PackedStream;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;

/**
 * An image opened for reading anywhere in it. A raw one, or an .xz of many blocks, is read where it lies; another is first unpacked to
 * a sparse file that is deleted on closing, so zeros take no space.
 */
public final class UnpackedImage implements Closeable {
    private static final int CHUNK = 1 << 18;
    /** No medium of this trade is larger; a container that claims more is hostile. */
    private static final long LARGEST = 8L << 40;
    /** The room is looked at after so many bytes, and this much of it is left to others. */
    private static final long ROOM_EVERY = 64L << 20;

    private static final long ROOM_KEPT = 256L << 20;

    private final BlockDevice device;
    private final Optional<String> sha256;

    private UnpackedImage(BlockDevice device, Optional<String> sha256) {
        this.device = device;
        this.sha256 = sha256;
    }

    /** Where digest: whether to work out the SHA-256 of the image's bytes on the way. */
    public static UnpackedImage open(ImageFile image, boolean digest, TransferWatch watch) throws IOException {
        if (image.kind() == ContainerKind.RAW) {
            Optional<String> sum = digest ? Optional.of(PublishedChecksum.sha256(image.path())) : Optional.empty();
            return new UnpackedImage(MediumAt.device(image.path()), sum);
        }
        if (!digest) {
            Optional<BlockDevice> anywhere = image.device();
            if (anywhere.isPresent()) {
                return new UnpackedImage(anywhere.get(), Optional.empty());
            }
        }
        Path room = UnpackingRoom.folder();
        FileChannel channel = nameless(room);
        try {
            MessageDigest sha = digest ? PublishedChecksum.newSha256() : null;
            ByteSize size = unpack(image, channel, room, sha, watch);
            Optional<String> sum =
                    sha == null ? Optional.empty() : Optional.of(HexFormat.of().formatHex(sha.digest()));
            return new UnpackedImage(new ChannelDevice(image.name(), channel, size), sum);
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    /** Without a name from the first moment on: whatever becomes of this process, nothing of it is left behind. */
    private static FileChannel nameless(Path room) throws IOException {
        Path file = Files.createTempDirectory(room, "exordium-").resolve("image");
        FileChannel channel = FileChannel.open(
                file,
                StandardOpenOption.CREATE_NEW,
                StandardOpenOption.READ,
                StandardOpenOption.WRITE,
                StandardOpenOption.DELETE_ON_CLOSE);
        Files.deleteIfExists(file);
        Files.deleteIfExists(file.getParent());
        return channel;
    }

    /**
     * The same unpacked only as far as it is asked for, for a quick look at something that was proven before; what is broken
     * further on is not found.
     *
     * @param size it unpacks to
     */
    public static UnpackedImage asNeeded(ImageFile image, ByteSize size) throws IOException {
        Optional<BlockDevice> anywhere = image.kind() == ContainerKind.COPY ? image.device() : Optional.empty();
        return new UnpackedImage(
                anywhere.isPresent() ? anywhere.get() : new AsNeeded(image.ofKnownSize(size), size), Optional.empty());
    }

    public BlockDevice device() {
        return device;
    }

    public Optional<String> sha256() {
        return sha256;
    }

    @Override
    public void close() throws IOException {
        device.close();
    }

    private static ByteSize unpack(ImageFile image, FileChannel out, Path room, MessageDigest sha, TransferWatch watch)
            throws IOException {
        FileStore store = Files.getFileStore(room);
        long total = image.uncompressedSize().map(ByteSize::bytes).orElse(-1L);
        byte[] chunk = new byte[CHUNK];
        byte[] zero = new byte[CHUNK];
        long position = 0;
        long stored = 0;
        try (InputStream stream = image.stream()) {
            for (int got = stream.readNBytes(chunk, 0, CHUNK); got > 0; got = stream.readNBytes(chunk, 0, CHUNK)) {
                watch.goOnOrStop();
                if (sha != null) {
                    sha.update(chunk, 0, got);
                }
                if (!Arrays.equals(chunk, 0, got, zero, 0, got)) {
                    ByteBuffer buffer = ByteBuffer.wrap(chunk, 0, got);
                    if (stored % ROOM_EVERY < got && store.getUsableSpace() < ROOM_KEPT) {
                        throw new OverBound(
                                "There is no room to unpack " + image.name() + " in "
                                        + room + ": it filled up after "
                                        + ByteSize.of(stored).said()
                                        + ". Nothing of it was kept; make room, or unpack it first and give the image itself.",
                                position);
                    }
                    stored += got;
                    long at = position;
                    while (buffer.hasRemaining()) {
                        at += out.write(buffer, at);
                    }
                }
                position += got;
                if (position > LARGEST) {
                    throw new OverBound(image.name() + " unpacks to more than any medium holds.", position);
                }
                watch.moved(
                        TransferWatch.Phase.UNPACKING,
                        position - got,
                        got,
                        0,
                        total > 0 ? total : estimate(image, stream, position));
            }
            if (position > 0 && out.size() < position) {
                out.write(ByteBuffer.wrap(new byte[1]), position - 1);
            }
        }
        return ByteSize.of(position);
    }

    /** As the part of the container that was read is to all of it; -1 where that is not told. */
    private static long estimate(ImageFile image, InputStream stream, long unpacked) {
        long read = stream instanceof PackedStream packed ? packed.packedRead() : 0;
        double left = read <= 0 ? 0 : (double) image.compressedSize().bytes() / read;
        double all = unpacked * left;
        return read <= 0 || all > LARGEST ? -1 : Math.max(unpacked, (long) all);
    }

    /** Unpacked up to the furthest byte that was asked for. */
    private static final class AsNeeded extends ReadOnlyDevice {
        private static final int SECTOR = 512;

        private final Path room = UnpackingRoom.folder();
        private final FileChannel channel = nameless(room);
        private final InputStream stream;
        private final byte[] chunk = new byte[CHUNK];
        private final byte[] zero = new byte[CHUNK];
        private long reached;

        AsNeeded(ImageFile image, ByteSize size) throws IOException {
            super(image.name(), size, SECTOR);
            try {
                this.stream = image.stream();
            } catch (IOException | RuntimeException e) {
                channel.close();
                throw e;
            }
        }

        @Override
        public synchronized void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            long end = position + target.remaining();
            while (reached < end) {
                int got = stream.readNBytes(chunk, 0, CHUNK);
                if (got == 0) {
                    throw new MediumException(name(), reached, "it ends there and should not");
                }
                if (!Arrays.equals(chunk, 0, got, zero, 0, got)) {
                    requireRoom();
                    ByteBuffer buffer = ByteBuffer.wrap(chunk, 0, got);
                    while (buffer.hasRemaining()) {
                        channel.write(buffer, reached + buffer.position());
                    }
                }
                reached += got;
            }
            int start = target.position();
            while (target.hasRemaining()) {
                if (channel.read(target, position + target.position() - start) < 0) {
                    // Past the last byte that is none of zero.
                    target.put((byte) 0);
                }
            }
        }

        private void requireRoom() throws IOException {
            if (Files.getFileStore(room).getUsableSpace() < ROOM_KEPT) {
                throw new OverBound(
                        "There is no room to look into " + name() + " in " + room + "; make room and try again.",
                        reached);
            }
        }

        @Override
        public void close() throws IOException {
            try (FileChannel first = channel;
                    InputStream second = stream) {
                assert first.isOpen() || second != null;
            }
        }
    }

    /** The unpacked bytes. */
    private static final class ChannelDevice extends ReadOnlyDevice {
        private static final int SECTOR = 512;

        private final FileChannel channel;

        ChannelDevice(String name, FileChannel channel, ByteSize size) {
            super(name, size, SECTOR);
            this.channel = channel;
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            int start = target.position();
            while (target.hasRemaining()) {
                if (channel.read(target, position + target.position() - start) < 0) {
                    throw new MediumException(name(), position, "what was unpacked is gone");
                }
            }
        }

        @Override
        public void close() throws IOException {
            channel.close();
        }
    }
}

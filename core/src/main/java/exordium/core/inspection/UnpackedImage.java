// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ContainerKind;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.quantity.ByteSize;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Optional;
import java.util.concurrent.CancellationException;

/**
 * An image opened for reading anywhere in it. A raw one, or an .xz of many blocks, is read where it lies; another is first unpacked to
 * a sparse file that is deleted on closing, so zeros take no space.
 */
public final class UnpackedImage implements Closeable {
    private static final int CHUNK = 1 << 18;
    /** No medium of this trade is larger; a container that claims more is hostile. */
    private static final long LARGEST = 8L << 40;

    private final BlockDevice device;
    private final Optional<String> sha256;
    private final Optional<Path> temporary;

    private UnpackedImage(BlockDevice device, Optional<String> sha256, Optional<Path> temporary) {
        this.device = device;
        this.sha256 = sha256;
        this.temporary = temporary;
    }

    /** Where digest: whether to work out the SHA-256 of the image's bytes on the way. */
    public static UnpackedImage open(ImageFile image, boolean digest, TransferWatch watch) throws IOException {
        if (image.kind() == ContainerKind.RAW) {
            Optional<String> sum = digest ? Optional.of(PublishedChecksum.sha256(image.path())) : Optional.empty();
            return new UnpackedImage(FileDevice.forReading(image.path()), sum, Optional.empty());
        }
        if (!digest) {
            Optional<BlockDevice> anywhere = image.device();
            if (anywhere.isPresent()) {
                return new UnpackedImage(anywhere.get(), Optional.empty(), Optional.empty());
            }
        }
        Path file = Files.createTempFile("exordium-", ".img");
        try {
            MessageDigest sha = digest ? PublishedChecksum.newSha256() : null;
            ByteSize size = unpack(image, file, sha, watch);
            Optional<String> sum =
                    sha == null ? Optional.empty() : Optional.of(HexFormat.of().formatHex(sha.digest()));
            BlockDevice named = FileDevice.forReading(file).slice(image.name(), 0, size);
            return new UnpackedImage(named, sum, Optional.of(file));
        } catch (IOException | RuntimeException e) {
            Files.deleteIfExists(file);
            throw e;
        }
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
        if (temporary.isPresent()) {
            Files.deleteIfExists(temporary.get());
        }
    }

    private static ByteSize unpack(ImageFile image, Path file, MessageDigest sha, TransferWatch watch)
            throws IOException {
        long total = image.uncompressedSize().map(ByteSize::bytes).orElse(-1L);
        byte[] chunk = new byte[CHUNK];
        byte[] zero = new byte[CHUNK];
        long position = 0;
        try (InputStream stream = image.stream();
                FileChannel out = FileChannel.open(file, StandardOpenOption.WRITE)) {
            for (int got = stream.readNBytes(chunk, 0, CHUNK); got > 0; got = stream.readNBytes(chunk, 0, CHUNK)) {
                if (watch.cancelled()) {
                    throw new CancellationException("stopped while unpacking " + image.name());
                }
                if (sha != null) {
                    sha.update(chunk, 0, got);
                }
                if (!Arrays.equals(chunk, 0, got, zero, 0, got)) {
                    ByteBuffer buffer = ByteBuffer.wrap(chunk, 0, got);
                    long at = position;
                    while (buffer.hasRemaining()) {
                        at += out.write(buffer, at);
                    }
                }
                position += got;
                if (position > LARGEST) {
                    throw new UnreadableInput(image.name() + " unpacks to more than any medium holds.", position);
                }
                watch.moved(TransferWatch.Phase.UNPACKING, position - got, got, 0, total);
            }
            if (position > 0 && out.size() < position) {
                out.write(ByteBuffer.wrap(new byte[1]), position - 1);
            }
        }
        return ByteSize.of(position);
    }
}

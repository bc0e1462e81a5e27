// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.block.BlockDevice;
import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;

/** The bytes of an image in their order, for buffers outside the heap: a raw image comes without a detour. */
public interface ImageReader extends Closeable {
    /** Fills the buffer, or as much of it as the image still has. */
    void fill(ByteBuffer buffer) throws IOException;

    /** Passes over that many bytes without reading them, or over none where the container does not allow it. */
    boolean passOver(long bytes) throws IOException;

    /** Unpacks. */
    final class OfStream implements ImageReader {
        private final CheckedStream stream;

        OfStream(CheckedStream stream) {
            this.stream = stream;
        }

        @Override
        public void fill(ByteBuffer buffer) throws IOException {
            stream.fill(buffer);
        }

        @Override
        public boolean passOver(long bytes) {
            return false;
        }

        @Override
        public void close() throws IOException {
            stream.close();
        }
    }

    /** Reads a raw image. */
    final class OfFile implements ImageReader {
        private final FileChannel channel;
        private final ImageFile image;

        OfFile(FileChannel channel, ImageFile image) {
            this.channel = channel;
            this.image = image;
        }

        @Override
        public void fill(ByteBuffer buffer) throws IOException {
            int limit = buffer.limit();
            long left = image.compressedSize().bytes() - channel.position();
            buffer.limit((int) Math.min(limit, buffer.position() + Math.max(0, left)));
            fillTo(buffer);
            buffer.limit(limit);
        }

        private void fillTo(ByteBuffer buffer) throws IOException {
            int got = 0;
            while (buffer.hasRemaining() && got >= 0) {
                try {
                    got = channel.read(buffer);
                } catch (java.nio.channels.ClosedChannelException e) {
                    throw e;
                } catch (IOException e) {
                    throw image.broken(e, channel.position());
                }
            }
            if (got < 0 && channel.position() < image.compressedSize().bytes()) {
                throw image.broken(new EOFException(), channel.position());
            }
        }

        @Override
        public boolean passOver(long bytes) throws IOException {
            channel.position(channel.position() + bytes);
            return true;
        }

        @Override
        public void close() throws IOException {
            channel.close();
        }
    }

    /** Reads what can be read anywhere; what is passed over is not unpacked. */
    final class OfDevice implements ImageReader {
        private final BlockDevice device;
        private long at;

        OfDevice(BlockDevice device) {
            this.device = device;
        }

        @Override
        public void fill(ByteBuffer buffer) throws IOException {
            int wanted = (int) Math.min(buffer.remaining(), device.size().bytes() - at);
            int limit = buffer.limit();
            buffer.limit(buffer.position() + wanted);
            device.read(at, buffer);
            buffer.limit(limit);
            at += wanted;
        }

        @Override
        public boolean passOver(long bytes) {
            at += bytes;
            return true;
        }

        @Override
        public void close() throws IOException {
            device.close();
        }
    }
}

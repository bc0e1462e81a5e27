// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.quantity.ByteSize;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.Optional;

/** A range of bytes that can be read and, unless it is read-only, written: a file, a slice of one, a drive. */
public interface BlockDevice extends Closeable {

    /** What refusals and reports call it. */
    String name();

    ByteSize size();

    /** The unit in which tables on it count, in bytes: 512 or 4096. */
    int sectorSize();

    boolean readOnly();

    /**
     * Fills the buffer's remaining bytes from this position on.
     *
     * @throws MediumException when the range runs past the end or the medium cannot be read there
     */
    void read(long position, ByteBuffer target) throws IOException;

    /**
     * Writes the buffer's remaining bytes from this position on.
     *
     * @throws MediumException when the range runs past the end or the medium cannot be written there
     */
    void write(long position, ByteBuffer source) throws IOException;

    /** Returns when everything written is on the medium. */
    void flush() throws IOException;

    /**
     * Fills the buffer from the medium itself, past whatever the machine still remembers of earlier writes. The buffer
     * comes from {@link AlignedBuffers} and the position is a multiple of its alignment.
     */
    default void readBack(long position, ByteBuffer target) throws IOException {
        read(position, target);
    }

    /** Whether {@link #readBack} really goes past the page cache here; a report says so when it does not. */
    boolean readsPastCache();

    /**
     * Another text whenever somebody, through whatever opening, has written to it; empty where that is not told.
     */
    default String changeMark() throws IOException {
        return "";
    }

    /** Where it holds anything, where that is known without reading; empty where it is not. What lies between reads as zeros. */
    default Optional<List<FileExtents.Extent>> stretches() throws IOException {
        return Optional.empty();
    }

    /** Reads a small range into an array of its own. */
    default byte[] bytes(long position, int length) throws IOException {
        byte[] bytes = new byte[length];
        read(position, ByteBuffer.wrap(bytes));
        return bytes;
    }

    /** A view of a part; closing it leaves this device open. */
    default BlockDevice slice(String name, long position, ByteSize length) {
        return new SliceDevice(this, name, position, length);
    }

    /** Checks a range against the size; for implementations. */
    default void requireInside(long position, long length) throws MediumException {
        if (position < 0 || length < 0 || position > size().bytes() - length) {
            throw new MediumException(
                    name(),
                    position,
                    "bytes " + position + " to " + (position + length) + " are past its end at " + size().bytes());
        }
    }
}

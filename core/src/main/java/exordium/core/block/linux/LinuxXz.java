// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import exordium.core.block.XzUnpacker;
import java.io.EOFException;
import java.io.IOException;
import java.lang.ref.Reference;
import java.nio.ByteBuffer;

/**
 * The system's own library for .xz (liblzma, the one of XZ Utils), where there is one: it unpacks and checks nearly twice as
 * fast as the library in Java, straight into buffers outside the heap. It is held to the same memory. Constants and the layout
 * of its stream are those of lzma/base.h and lzma/container.h, version 5.
 */
final class LinuxXz implements XzUnpacker {
    /** Several streams one after the other, as one file may hold. */
    private static final int CONCATENATED = 0x08;

    private static final int STREAM_BYTES = 136;
    private static final int NEXT_IN = 0;
    private static final int AVAILABLE_IN = 8;
    private static final int NEXT_OUT = 24;
    private static final int AVAILABLE_OUT = 32;

    private static final int RUN = 0;
    private static final int FINISH = 3;
    private static final int OK = 0;
    private static final int STREAM_END = 1;
    private static final int MEMORY = 5;
    private static final int MEMORY_LIMIT = 6;
    private static final int NO_PROGRESS = 10;

    private final Memory stream = new Memory(STREAM_BYTES);
    private final long mostMemory;
    private final int flags;

    /** The functions as they are called there. */
    private static final class Library {
        static final boolean THERE = load();

        private static boolean load() {
            try {
                Native.register(Library.class, "liblzma.so.5");
                return Native.POINTER_SIZE == Long.BYTES;
            } catch (LinkageError | IllegalArgumentException e) {
                return false;
            }
        }

        static native int lzma_stream_decoder(Pointer stream, long memoryLimit, int flags);

        static native int lzma_code(Pointer stream, int action);

        static native void lzma_end(Pointer stream);
    }

    static boolean isThere() {
        return Library.THERE;
    }

    LinuxXz(long mostMemory, boolean severalStreams) throws IOException {
        this.mostMemory = mostMemory;
        this.flags = severalStreams ? CONCATENATED : 0;
        stream.clear();
        begin();
    }

    @Override
    public void begin() throws IOException {
        int result = Library.lzma_stream_decoder(stream, mostMemory, flags);
        if (result != OK) {
            throw new IOException(words(result));
        }
    }

    @Override
    public boolean unpack(ByteBuffer packed, ByteBuffer unpacked, boolean last) throws IOException {
        set(NEXT_IN, AVAILABLE_IN, packed);
        set(NEXT_OUT, AVAILABLE_OUT, unpacked);
        int result;
        try {
            result = Library.lzma_code(stream, last ? FINISH : RUN);
        } finally {
            Reference.reachabilityFence(packed);
            Reference.reachabilityFence(unpacked);
        }
        packed.position(packed.limit() - (int) stream.getLong(AVAILABLE_IN));
        unpacked.position(unpacked.limit() - (int) stream.getLong(AVAILABLE_OUT));
        if (result == NO_PROGRESS && last && unpacked.hasRemaining()) {
            throw new EOFException();
        }
        if (result != OK && result != STREAM_END && result != NO_PROGRESS) {
            throw new IOException(words(result));
        }
        return result == STREAM_END;
    }

    private void set(int next, int available, ByteBuffer buffer) {
        stream.setPointer(next, Native.getDirectBufferPointer(buffer).share(buffer.position()));
        stream.setLong(available, buffer.remaining());
    }

    private static String words(int result) {
        return result == MEMORY || result == MEMORY_LIMIT
                ? "its data need more memory than any image of this trade"
                : "its data are damaged";
    }

    @Override
    public void close() {
        Library.lzma_end(stream);
    }
}

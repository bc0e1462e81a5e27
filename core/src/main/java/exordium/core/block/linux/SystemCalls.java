// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import com.sun.jna.LastErrorException;
import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.Pointer;
import exordium.core.block.FileExtents;
import exordium.core.block.Machine;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The few calls of a Linux kernel that Java has no name for: opening a device so that nobody else may use it, locks that
 * belong to an opening and not to a process, and what stands behind a loop device. Numbers are those of fcntl.h, loop.h and
 * open(2), fcntl(2), loop(4) of the Linux man-pages, on 64 bits.
 */
final class SystemCalls {
    /** Errors that decide something. */
    static final int NO_PERMISSION = 1;

    static final int ACCESS = 13;
    static final int BUSY = 16;

    private static final int READ_WRITE = 2;
    private static final Map<Path, Object> ASKING = new ConcurrentHashMap<>();
    private static final int EXCLUSIVE = 0200;
    private static final int NOT_BLOCKING = 04000;
    private static final int CLOSE_ON_EXEC = 02000000;
    private static final int INVALID = 22;
    private static final int OWNER_ALONE = 077;
    private static final int GET_FLAGS = 3;
    private static final int SET_FLAGS = 4;
    private static final int DUPLICATE_CLOSE_ON_EXEC = 1030;
    private static final int SET_OFD_LOCK = 37;
    private static final short WRITE_LOCK = 1;
    private static final int SEEK_DATA = 3;
    private static final int SEEK_HOLE = 4;
    private static final int FLOCK_BYTES = 32;
    private static final int LOOP_GET_STATUS64 = 0x4C05;
    private static final int LOOP_STATUS_BYTES = 232;

    private SystemCalls() {}

    /** What a loop device says of the file behind it: device and inode, and its own number where that is a device. */
    record LoopStatus(long device, long inode, long deviceNumber) {}

    private static final class Library {
        static final boolean THERE = load();

        private static boolean load() {
            try {
                Native.register(Library.class, "c");
                return Native.POINTER_SIZE == Long.BYTES
                        && System.getProperty("os.name", "").startsWith("Linux");
            } catch (LinkageError | IllegalArgumentException e) {
                return false;
            }
        }

        static native int open(String path, int flags, int mode) throws LastErrorException;

        static native int close(int descriptor) throws LastErrorException;

        static native int fcntl(int descriptor, int command, Pointer argument) throws LastErrorException;

        static native int fcntl(int descriptor, int command, long argument) throws LastErrorException;

        static native long pread(int descriptor, Pointer target, long bytes, long offset) throws LastErrorException;

        static native long pwrite(int descriptor, Pointer source, long bytes, long offset) throws LastErrorException;

        static native int fsync(int descriptor) throws LastErrorException;

        static native long lseek(int descriptor, long offset, int whence) throws LastErrorException;

        static native int umask(int mask);

        static native int ioctl(int descriptor, long request, Pointer argument) throws LastErrorException;
    }

    /** A call was refused; number: errno. */
    static final class CallRefused extends IOException {
        private static final long serialVersionUID = 1L;
        private final int number;

        CallRefused(Path path, LastErrorException cause) {
            super(path + ": " + cause.getMessage(), cause);
            this.number = cause.getErrorCode();
        }

        int number() {
            return number;
        }
    }

    static boolean there() {
        return Library.THERE;
    }

    /** Opens for reading and writing; exclusive: refused with {@link #BUSY} while the kernel itself uses the device. */
    static int open(Path path, boolean writing, boolean exclusive) throws CallRefused {
        int flags = CLOSE_ON_EXEC | NOT_BLOCKING | (writing ? READ_WRITE : 0) | (exclusive ? EXCLUSIVE : 0);
        if (!exclusive) {
            return open(path, flags);
        }
        synchronized (asking(path)) {
            return open(path, flags);
        }
    }

    /** Two that ask the kernel for the same device at one moment would refuse each other: held by whoever asks or takes it. */
    private static Object asking(Path path) {
        return ASKING.computeIfAbsent(path, each -> new Object());
    }

    private static int open(Path path, int flags) throws CallRefused {
        try {
            return Library.open(path.toString(), flags, 0);
        } catch (LastErrorException e) {
            throw new CallRefused(path, e);
        }
    }

    static void close(int descriptor) throws IOException {
        try {
            Library.close(descriptor);
        } catch (LastErrorException e) {
            throw new IOException("could not be closed: " + e.getMessage(), e);
        }
    }

    /** Another number for the same opening; it stays when the first is closed. */
    static int duplicate(int descriptor) throws IOException {
        try {
            return Library.fcntl(descriptor, DUPLICATE_CLOSE_ON_EXEC, 0L);
        } catch (LastErrorException e) {
            throw new IOException("the opened drive could not be taken over: " + e.getMessage(), e);
        }
    }

    /**
     * From now on past the page cache; false where that is not possible. Whether it is so is tried and not believed: past the cache, less
     * than a block cannot be read (open(2), O_DIRECT), and through the cache it can.
     */
    static boolean direct(int descriptor) {
        OptionalInt flag = KernelFlags.direct();
        if (flag.isEmpty()) {
            return false;
        }
        try (Memory one = new Memory(1)) {
            Library.fcntl(descriptor, SET_FLAGS, Library.fcntl(descriptor, GET_FLAGS, 0L) | (long) flag.getAsInt());
            Library.pread(descriptor, one, 1, 0);
            return false;
        } catch (LastErrorException e) {
            return e.getErrorCode() == INVALID;
        }
    }

    /** What this process makes from now on is nobody's but its user's; nothing where there is no such call. */
    static void makePrivate() {
        if (there()) {
            Library.umask(OWNER_ALONE);
        }
    }

    /** At most so many bytes into a buffer outside the heap, from its position on; 0 at the end (pread(2)). */
    static int read(int descriptor, ByteBuffer target, long offset) throws IOException {
        Pointer at = Native.getDirectBufferPointer(target).share(target.position());
        try {
            return (int) Library.pread(descriptor, at, target.remaining(), offset);
        } catch (LastErrorException e) {
            throw new IOException(e.getMessage(), e);
        }
    }

    /** The same the other way (pwrite(2)). */
    static int write(int descriptor, ByteBuffer source, long offset) throws IOException {
        Pointer at = Native.getDirectBufferPointer(source).share(source.position());
        try {
            return (int) Library.pwrite(descriptor, at, source.remaining(), offset);
        } catch (LastErrorException e) {
            throw new IOException(e.getMessage(), e);
        }
    }

    static void sync(int descriptor) throws IOException {
        try {
            Library.fsync(descriptor);
        } catch (LastErrorException e) {
            throw new IOException(e.getMessage(), e);
        }
    }

    /** Locks all of a file for this opening alone; false where another opening, of this process or another, has it. */
    static boolean lock(int descriptor) {
        try (Memory lock = new Memory(FLOCK_BYTES)) {
            lock.clear();
            lock.setShort(0, WRITE_LOCK);
            Library.fcntl(descriptor, SET_OFD_LOCK, lock);
            return true;
        } catch (LastErrorException e) {
            return false;
        }
    }

    /** Where a file holds anything. */
    static List<FileExtents.Extent> extents(Path file) throws IOException {
        long size = Files.size(file);
        List<FileExtents.Extent> found = new ArrayList<>();
        int descriptor = open(file, false, false);
        try {
            long at = next(descriptor, 0, true);
            while (at >= 0 && at < size) {
                long end = next(descriptor, at, false);
                long to = end < 0 ? size : Math.min(end, size);
                found.add(new FileExtents.Extent(at, to - at));
                at = next(descriptor, to, true);
            }
        } finally {
            close(descriptor);
        }
        return found;
    }

    /** Where the next data of a file begins, or the next hole after it; -1 where there is none (lseek(2)). */
    private static long next(int descriptor, long from, boolean data) {
        try {
            return Library.lseek(descriptor, from, data ? SEEK_DATA : SEEK_HOLE);
        } catch (LastErrorException e) {
            return -1;
        }
    }

    /** Empty where the device may not be asked, or has nothing behind it. */
    static Optional<LoopStatus> loopStatus(Path node) {
        if (!there()) {
            return Optional.empty();
        }
        int descriptor = -1;
        try (Memory status = new Memory(LOOP_STATUS_BYTES)) {
            descriptor = open(node, false, false);
            Library.ioctl(descriptor, LOOP_GET_STATUS64, status);
            return Optional.of(new LoopStatus(status.getLong(0), status.getLong(8), status.getLong(16)));
        } catch (LastErrorException | IOException e) {
            return Optional.empty();
        } finally {
            closeQuietly(descriptor);
        }
    }

    private static void closeQuietly(int descriptor) {
        if (descriptor >= 0) {
            try {
                close(descriptor);
            } catch (IOException e) {
                // It was only asked; the system takes it back when the process ends.
                assert descriptor >= 0;
            }
        }
    }

    /** Whether the kernel uses a device for a mount, as swap or within another device: asked of the kernel itself. */
    static Machine.Use use(Path node) {
        if (!there()) {
            return Machine.Use.NOT_TOLD;
        }
        try {
            synchronized (asking(node)) {
                close(open(node, false, true));
            }
            return Machine.Use.FREE;
        } catch (CallRefused e) {
            return switch (e.number()) {
                case BUSY -> Machine.Use.IN_USE;
                case ACCESS, NO_PERMISSION -> Machine.Use.NOT_ALLOWED;
                default -> Machine.Use.NOT_TOLD;
            };
        } catch (IOException e) {
            return Machine.Use.NOT_TOLD;
        }
    }
}

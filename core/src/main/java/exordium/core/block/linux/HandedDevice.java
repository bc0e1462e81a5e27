// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.Closing;
import exordium.core.block.DriveDevice;
import exordium.core.block.FileIdentity;
import exordium.core.block.MachineDrive;
import exordium.core.block.MediumException;
import exordium.core.finding.Basis;
import exordium.core.finding.Refused;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A drive that somebody else opened and handed over. There is one opening for everything, so all of it goes past the page cache
 * in whole blocks; what is no whole block goes through a buffer that is. Several threads may use it at once.
 */
final class HandedDevice extends DriveDevice {
    private static final int BLOCK = AlignedBuffers.ALIGNMENT;
    private static final int ROOM = 1 << 20;

    private final int descriptor;
    private final boolean direct;
    private final List<? extends Closeable> with;
    private int underWay;
    private boolean closed;
    private final ByteBuffer room = AlignedBuffers.allocate(ROOM);

    private HandedDevice(MachineDrive drive, boolean readOnly, int descriptor, List<? extends Closeable> with) {
        super(drive, readOnly);
        this.descriptor = descriptor;
        this.direct = SystemCalls.direct(descriptor);
        this.with = List.copyOf(with);
    }

    /**
     * Takes an opening over.
     *
     * @param descriptor its number in this process; it is copied, and stays the caller's to close
     * @param with what is held as long as this is open, and closed with it
     * @throws Refused when it is not the drive it should be
     */
    public static HandedDevice of(
            MachineDrive drive, int descriptor, boolean forWriting, List<? extends Closeable> with) throws IOException {
        FileIdentity opened = FileIdentity.of(Path.of("/proc/self/fd/" + descriptor));
        if (!drive.identity().equals(Optional.of(opened))) {
            throw FileIdentity.changed(drive.node(), Basis.computed("what was handed over"));
        }
        return new HandedDevice(drive, !forWriting, SystemCalls.duplicate(descriptor), with);
    }

    /** Holds an opening as long as it is not closed, without reading or writing by it. */
    public static Closeable hold(int descriptor) throws IOException {
        int held = SystemCalls.duplicate(descriptor);
        return () -> SystemCalls.close(held);
    }

    @Override
    public boolean readsPastCache() {
        return direct;
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        if (whole(position, target)) {
            filled(target, position);
            return;
        }
        synchronized (room) {
            long at = position;
            while (target.hasRemaining()) {
                int part = around(at, target.remaining());
                int piece = Math.min(room.remaining() - part, target.remaining());
                filled(room, at - part);
                target.put(room.flip().position(part).limit(part + piece));
                at += piece;
            }
        }
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        requireInside(position, source.remaining());
        if (whole(position, source)) {
            emptied(source, position);
            return;
        }
        synchronized (room) {
            long at = position;
            while (source.hasRemaining()) {
                int part = around(at, source.remaining());
                int end = room.limit();
                int piece = Math.min(end - part, source.remaining());
                if (part != 0 || piece < end) {
                    filled(room, at - part);
                }
                int last = source.limit();
                room.position(part).put(source.limit(source.position() + piece));
                source.limit(last);
                emptied(room.position(0).limit(end), at - part);
                at += piece;
            }
        }
    }

    /** Whether it can go to the medium as it is. */
    private boolean whole(long position, ByteBuffer buffer) {
        return buffer.isDirect()
                && !buffer.isReadOnly()
                && position % BLOCK == 0
                && buffer.remaining() % BLOCK == 0
                && buffer.alignmentOffset(buffer.position(), BLOCK) == 0;
    }

    /** Clears the room for the whole blocks around a range, as many as it takes; gives where in it the range begins. */
    private int around(long position, int bytes) {
        int part = (int) (position % BLOCK);
        int wanted = (int) Math.min(ROOM, (part + (long) bytes + BLOCK - 1) / BLOCK * BLOCK);
        // The last block of a medium may be shorter; its sectors are whole.
        room.clear().limit((int) Math.min(wanted, size().bytes() - (position - part)));
        return part;
    }

    private void filled(ByteBuffer buffer, long position) throws IOException {
        long at = position;
        while (buffer.hasRemaining()) {
            int got = attempt(at, buffer, SystemCalls::read);
            at += got;
            buffer.position(buffer.position() + got);
        }
    }

    private void emptied(ByteBuffer buffer, long position) throws IOException {
        long at = position;
        while (buffer.hasRemaining()) {
            int put = attempt(at, buffer, SystemCalls::write);
            at += put;
            buffer.position(buffer.position() + put);
        }
    }

    private interface Transfer {
        int run(int descriptor, ByteBuffer buffer, long position) throws IOException;
    }

    private int attempt(long position, ByteBuffer buffer, Transfer transfer) throws IOException {
        begin();
        try {
            int moved = transfer.run(descriptor, buffer, position);
            if (moved > 0) {
                return moved;
            }
            throw new IOException("it ends there: it shrank or went away,");
        } catch (IOException e) {
            throw new MediumException(name(), position, e.getMessage() + " near byte " + position, e);
        } finally {
            end();
        }
    }

    /** A number that is closed may be another file's the next moment: it is closed when nobody is under way with it any more. */
    private synchronized void begin() throws IOException {
        if (closed) {
            throw new ClosedChannelException();
        }
        underWay++;
    }

    private synchronized void end() {
        underWay--;
        if (closed && underWay == 0) {
            release();
        }
    }

    private void release() {
        try {
            SystemCalls.close(descriptor);
        } catch (IOException e) {
            // All that was written is flushed by whoever wrote; the system takes the number back when the process ends.
            assert closed;
        }
    }

    @Override
    public void flush() throws IOException {
        begin();
        try {
            SystemCalls.sync(descriptor);
        } catch (IOException e) {
            throw new MediumException(name(), 0, e.getMessage(), e);
        } finally {
            end();
        }
    }

    @Override
    public void close() throws IOException {
        synchronized (this) {
            if (closed) {
                return;
            }
            closed = true;
            if (underWay == 0) {
                release();
            }
        }
        Closing.all(with);
    }
}

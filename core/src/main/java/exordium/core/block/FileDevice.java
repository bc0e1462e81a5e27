// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import com.sun.nio.file.ExtendedOpenOption;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashSet;
import java.util.Set;

/**
 * A plain file, or a block device of the machine opened as one. Writes whole aligned buffers straight to the medium
 * where the file system allows it, and anything else through the page cache; reads back past the cache.
 */
public final class FileDevice implements BlockDevice {
    private final Path path;
    private final String name;
    private final ByteSize size;
    private final int sectorSize;
    private final boolean readOnly;
    private final FileChannel cached;
    /** Null where the file system has no direct input and output, as on a file system in memory. */
    private final FileChannel direct;

    private FileDevice(Path path, ByteSize size, int sectorSize, boolean readOnly) throws IOException {
        this.path = path;
        this.name = String.valueOf(path.getFileName());
        this.size = size;
        this.sectorSize = sectorSize;
        this.readOnly = readOnly;
        Set<OpenOption> options = new HashSet<>();
        options.add(StandardOpenOption.READ);
        if (!readOnly) {
            options.add(StandardOpenOption.WRITE);
        }
        this.cached = FileChannel.open(path, options);
        if (!readOnly) {
            requireAlone(cached);
        }
        options.add(ExtendedOpenOption.DIRECT);
        FileChannel opened = null;
        try {
            opened = FileChannel.open(path, options);
        } catch (IOException | UnsupportedOperationException e) {
            // No direct input and output here: readsPastCache() says so to whoever reads the report.
            opened = null;
        }
        this.direct = opened;
    }

    /** Two writers on one medium leave neither's image; the lock goes with the channel. */
    private void requireAlone(FileChannel channel) throws IOException {
        boolean alone;
        try {
            alone = channel.tryLock() != null;
        } catch (OverlappingFileLockException e) {
            alone = false;
        }
        if (!alone) {
            channel.close();
            throw new Refused(Finding.stop(
                    "target-busy",
                    name + " is being written by somebody else at this moment; nothing was touched.",
                    Basis.computed("the system's file locks")));
        }
    }

    /** Opens an existing file for reading; its length is its size. */
    public static FileDevice forReading(Path file) throws IOException {
        return new FileDevice(file, ByteSize.of(java.nio.file.Files.size(file)), 512, true);
    }

    /** Opens a file that stands for a drive of this size; what lies past its end reads as zero. */
    public static FileDevice forReading(Path file, ByteSize size) throws IOException {
        return new FileDevice(file, size, 512, true);
    }

    /** Opens a file of fixed size for reading and writing; the size need not be the file's present length. */
    public static FileDevice forWriting(Path file, ByteSize size) throws IOException {
        return new FileDevice(file, size, 512, false);
    }

    /** Opens a block device of the machine, whose size the caller has from the system. */
    static FileDevice ofMachine(Path node, ByteSize size, int sectorSize, boolean readOnly) throws IOException {
        return new FileDevice(node, size, sectorSize, readOnly);
    }

    public Path path() {
        return path;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public ByteSize size() {
        return size;
    }

    @Override
    public int sectorSize() {
        return sectorSize;
    }

    @Override
    public boolean readOnly() {
        return readOnly;
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        fill(cached, position, target);
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        requireInside(position, target.remaining());
        if (direct == null || position % AlignedBuffers.ALIGNMENT != 0) {
            fill(cached, position, target);
            return;
        }
        // The kernel wants whole blocks: read up to the next boundary into the buffer's spare room, then cut back.
        int wanted = target.limit();
        int rounded = wanted + Math.floorMod(-wanted, AlignedBuffers.ALIGNMENT);
        target.limit(Math.min(rounded, target.capacity()));
        int start = target.position();
        while (target.position() < wanted) {
            int got = attempt(position, () -> direct.read(target, position + target.position() - start));
            // A length that is no whole block is where the file ends; asking on from there would be refused.
            if (got < 0 || got % AlignedBuffers.ALIGNMENT != 0) {
                break;
            }
        }
        boolean beyondFile = target.position() < wanted;
        target.limit(wanted);
        if (beyondFile) {
            zeroRest(target);
        } else {
            target.position(wanted);
        }
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        requireInside(position, source.remaining());
        boolean aligned = direct != null
                && source.isDirect()
                && source.position() == 0
                && position % AlignedBuffers.ALIGNMENT == 0
                && source.remaining() % AlignedBuffers.ALIGNMENT == 0
                && source.alignmentOffset(0, AlignedBuffers.ALIGNMENT) == 0;
        FileChannel channel = aligned ? direct : cached;
        long at = position;
        while (source.hasRemaining()) {
            long here = at;
            at += attempt(here, () -> channel.write(source, here));
        }
    }

    @Override
    public void flush() throws IOException {
        attempt(0, () -> {
            cached.force(true);
            return 0;
        });
    }

    @Override
    public boolean readsPastCache() {
        return direct != null;
    }

    @Override
    public void close() throws IOException {
        try (FileChannel first = cached;
                FileChannel second = direct) {
            // Both close, whichever of them fails.
            assert first != second;
        }
    }

    private void fill(FileChannel channel, long position, ByteBuffer target) throws IOException {
        int start = target.position();
        while (target.hasRemaining()) {
            int got = attempt(position, () -> channel.read(target, position + target.position() - start));
            if (got < 0) {
                zeroRest(target);
            }
        }
    }

    /** A sparse file shorter than its drive: what was never written reads as zero. */
    private static void zeroRest(ByteBuffer target) {
        while (target.hasRemaining()) {
            target.put((byte) 0);
        }
    }

    private interface Transfer {
        int run() throws IOException;
    }

    private int attempt(long position, Transfer transfer) throws IOException {
        try {
            return transfer.run();
        } catch (java.nio.channels.ClosedChannelException e) {
            throw e;
        } catch (IOException e) {
            throw new MediumException(name, position, e.getMessage() + " near byte " + position, e);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import com.sun.nio.file.ExtendedOpenOption;
import exordium.core.finding.Refused;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A plain file, or a block device of the machine opened as one. Writes whole aligned buffers straight to the medium
 * where the file system allows it, and anything else through the page cache; reads back past the cache.
 */
public final class FileDevice implements BlockDevice {
    private static final int SECTOR = 512;

    private final Path path;
    private final String name;
    private final ByteSize size;
    private final int sectorSize;
    /** What lies behind this byte and behind the end of the file reads as zero: a sparse file that stands for a drive. */
    private final long zerosFrom;

    private final Optional<Claim> claim;
    private final FileChannel cached;
    /** Null where the file system has no direct input and output, as on a file system in memory. */
    private final FileChannel direct;

    private FileDevice(Path path, String name, ByteSize size, int sectorSize, long zerosFrom, Optional<Claim> claim)
            throws IOException {
        this.path = path;
        this.name = name;
        this.size = size;
        this.sectorSize = sectorSize;
        this.zerosFrom = zerosFrom;
        this.claim = claim;
        Set<OpenOption> options = new HashSet<>();
        options.add(StandardOpenOption.READ);
        if (claim.isPresent()) {
            options.add(StandardOpenOption.WRITE);
        }
        Path real = claim.map(Claim::path).orElse(path);
        try {
            this.cached = FileChannel.open(real, options);
        } catch (IOException | RuntimeException e) {
            if (claim.isPresent()) {
                claim.get().close();
            }
            throw e;
        }
        options.add(ExtendedOpenOption.DIRECT);
        FileChannel opened = null;
        try {
            opened = FileChannel.open(real, options);
        } catch (IOException | UnsupportedOperationException e) {
            // No direct input and output here: readsPastCache() says so to whoever reads the report.
            opened = null;
        }
        this.direct = opened;
    }

    private static String nameOf(Path path) {
        return String.valueOf(path.getFileName());
    }

    /** Opens an existing file for reading; its length is its size. */
    public static FileDevice forReading(Path file) throws IOException {
        return new FileDevice(file, nameOf(file), sizeOf(file), SECTOR, Long.MAX_VALUE, Optional.empty());
    }

    /** The bytes of a file, or of the medium behind the node of a drive. */
    public static ByteSize sizeOf(Path file) throws IOException {
        if (Files.isRegularFile(file)) {
            return ByteSize.of(Files.size(file));
        }
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            return ByteSize.of(channel.size());
        }
    }

    /**
     * Opens a file that is declared to stand for a drive of this size and may be shorter: what lies past the end it has now
     * reads as zero. That it ends earlier later on is an error.
     */
    public static FileDevice sparse(Path file, ByteSize size) throws IOException {
        return new FileDevice(file, nameOf(file), size, SECTOR, Files.size(file), Optional.empty());
    }

    /** Opens a file of fixed size for reading and writing, and makes it as long where it is shorter. */
    public static FileDevice forWriting(Path file, ByteSize size) throws IOException {
        return forWriting(file, size, Optional.empty());
    }

    /**
     * The same, for what was looked at before.
     *
     * @throws Refused when something else stands there by now, or somebody else writes to it
     */
    public static FileDevice forWriting(Path file, ByteSize size, Optional<FileIdentity> expected) throws IOException {
        Claim claim = Machine.here().claim(file, expected);
        FileDevice device = new FileDevice(file, nameOf(file), size, SECTOR, Long.MAX_VALUE, Optional.of(claim));
        try {
            if (device.cached.size() < size.bytes()) {
                device.cached.write(ByteBuffer.allocate(1), size.bytes() - 1);
            }
            return device;
        } catch (IOException e) {
            device.close();
            throw e;
        }
    }

    /** Opens a block device of the machine, whose size the caller has from the system, as it was when it was looked at. */
    static FileDevice ofMachine(MachineDrive drive, boolean readOnly) throws IOException {
        Optional<Claim> claim =
                readOnly ? Optional.empty() : Optional.of(Machine.here().claim(drive.node(), drive.identity()));
        return new FileDevice(
                drive.node(), nameOf(drive.node()), drive.size(), drive.sectorSize(), Long.MAX_VALUE, claim);
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
        return claim.isEmpty();
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
            if (got < 0) {
                break;
            }
            // A length that is no whole block is where the file ends, or all the medium gave at once: asking on past
            // the cache
            // is allowed from a whole block only.
            int odd = got % AlignedBuffers.ALIGNMENT;
            if (target.position() < wanted && odd != 0) {
                if (got == odd) {
                    break;
                }
                target.position(target.position() - odd);
            }
        }
        int reached = Math.min(target.position(), wanted);
        target.limit(wanted);
        target.position(reached);
        if (reached < wanted) {
            fill(cached, position + reached - start, target);
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
    public Optional<List<FileExtents.Extent>> stretches() throws IOException {
        return Files.isRegularFile(path) ? Optional.of(Machine.here().extents(path)) : Optional.empty();
    }

    @Override
    public boolean readsPastCache() {
        return direct != null;
    }

    /** Of a drive: how many sectors were written since the machine started (kernel documentation, block/stat). */
    @Override
    public String changeMark() throws IOException {
        Path real = claim.map(Claim::path).orElse(path);
        if (Files.isRegularFile(real)) {
            return Files.size(real) + " " + Files.getLastModifiedTime(real);
        }
        return Machine.here()
                .drives()
                .changeMark(String.valueOf(path.toRealPath().getFileName()));
    }

    @Override
    public void close() throws IOException {
        try (FileChannel first = cached;
                FileChannel second = direct;
                Claim third = claim.orElse(null)) {
            // All close, whichever of them fails.
            assert first != second || third == null;
        }
    }

    private void fill(FileChannel channel, long position, ByteBuffer target) throws IOException {
        int start = target.position();
        while (target.hasRemaining()) {
            int got = attempt(position, () -> channel.read(target, position + target.position() - start));
            if (got < 0) {
                endOrZeros(position + target.position() - start, target);
            }
        }
    }

    /** A sparse file shorter than its drive: what was never written reads as zero. Any other end is one that was not there. */
    private void endOrZeros(long at, ByteBuffer target) throws MediumException {
        if (at < zerosFrom) {
            throw new MediumException(
                    name,
                    at,
                    "it ends at byte " + at + ", where it should hold " + size.bytes() + ": it shrank or went away");
        }
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
            boolean full = String.valueOf(e.getMessage()).contains("No space left");
            throw new MediumException(
                    name,
                    position,
                    (full ? "the file system it lies on is full (No space left on device)" : e.getMessage())
                            + " near byte " + position,
                    e);
        }
    }
}

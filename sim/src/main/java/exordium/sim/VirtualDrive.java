// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.FileIdentity;
import exordium.core.block.MediumException;
import exordium.core.finding.NameTaken;
import exordium.core.finding.UnreadableInput;
import exordium.core.health.HealthReading;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;

/** A drive made of a sparse file and a description: keeps a pace, and has the faults it was given. */
public final class VirtualDrive implements BlockDevice {
    private static final String SUFFIX = ".drive.yaml";

    private final FileDevice file;
    private final DriveDescription description;
    private final List<DriveFault> faults;
    private final UnflushedWrites unflushed;
    private final Pace writing = new Pace();
    private final Pace reading = new Pace();
    /** A drive may be read and written by two threads at once. */
    private final AtomicLong written = new AtomicLong();

    private final AtomicInteger hanging = new AtomicInteger();

    private VirtualDrive(FileDevice file, DriveDescription description, List<DriveFault> faults) {
        this.file = file;
        this.description = description;
        this.faults = faults;
        this.unflushed = new UnflushedWrites(file, fault(DriveFault.Lose.class));
    }

    public static Path descriptionOf(Path file) {
        return file.resolveSibling(file.getFileName() + SUFFIX);
    }

    public static boolean isOne(Path file) {
        return Files.isRegularFile(descriptionOf(file));
    }

    /**
     * Makes the file and its description.
     *
     * @throws UnreadableInput when there is a file of that name already, or a fault is none
     */
    public static void create(ProfileReader profiles, Path file, DriveDescription description) throws IOException {
        if (Files.exists(file) || Files.exists(descriptionOf(file))) {
            throw new NameTaken(
                    "There is a file " + file + " already; a new drive does not replace it.", file.toString());
        }
        for (String fault : description.faults()) {
            DriveFault.parse(fault);
        }
        if (file.toAbsolutePath().getParent() != null) {
            Files.createDirectories(file.toAbsolutePath().getParent());
        }
        try (RandomAccessFile sparse = new RandomAccessFile(file.toFile(), "rw")) {
            sparse.setLength(description.bytes().bytes());
        }
        Files.writeString(descriptionOf(file), profiles.write(description));
    }

    public static DriveDescription describe(ProfileReader profiles, Path file) throws IOException {
        return profiles.own(descriptionOf(file), DriveDescription.class);
    }

    /** What it was made to do wrong, in words; empty where it is sound. */
    public static String faultsInWords(ProfileReader profiles, Path file) throws IOException {
        List<String> words = new ArrayList<>();
        for (String fault : describe(profiles, file).faults()) {
            words.add(DriveFault.parse(fault).said());
        }
        return String.join("; ", words);
    }

    /** What it was made to tell of how it is. */
    public static HealthReading told(ProfileReader profiles, Path file, Instant at) throws IOException {
        HealthReading silent = HealthReading.silent(at);
        return describe(profiles, file)
                .tells()
                .map(tells -> new HealthReading(
                        at,
                        "the virtual drive",
                        tells.lifeUsed(),
                        tells.spareLeft(),
                        tells.mediaErrors(),
                        Optional.empty(),
                        false,
                        false,
                        0,
                        0,
                        List.of()))
                .orElse(silent);
    }

    public static VirtualDrive open(ProfileReader profiles, Path file, boolean forWriting) throws IOException {
        return open(profiles, file, forWriting, Optional.empty());
    }

    public static VirtualDrive forReading(ProfileReader profiles, Path file) throws IOException {
        return open(profiles, file, false);
    }

    /** Where expected: what its file was when the deed was planned. */
    public static VirtualDrive open(
            ProfileReader profiles, Path file, boolean forWriting, Optional<FileIdentity> expected) throws IOException {
        DriveDescription description = describe(profiles, file);
        List<DriveFault> faults = new ArrayList<>();
        for (String fault : description.faults()) {
            faults.add(DriveFault.parse(fault));
        }
        FileDevice bytes = forWriting
                ? FileDevice.forWriting(file, description.bytes(), expected)
                : FileDevice.sparse(file, description.bytes());
        return new VirtualDrive(bytes, description, faults);
    }

    public DriveDescription description() {
        return description;
    }

    @Override
    public String name() {
        return file.name();
    }

    @Override
    public ByteSize size() {
        return description.bytes();
    }

    @Override
    public int sectorSize() {
        return file.sectorSize();
    }

    @Override
    public boolean readOnly() {
        return file.readOnly();
    }

    @Override
    public void read(long position, ByteBuffer target) throws IOException {
        transferIn(position, target, false);
    }

    @Override
    public void readBack(long position, ByteBuffer target) throws IOException {
        transferIn(position, target, true);
    }

    private void transferIn(long position, ByteBuffer target, boolean pastCache) throws IOException {
        requireInside(position, target.remaining());
        hangOrNot();
        refuseBeyond(position, target.remaining());
        refuseBad(position, target.remaining());
        requirePlugged();
        int start = target.position();
        int length = target.remaining();
        long begin = System.nanoTime();
        Optional<Long> wrap = wrap();
        if (wrap.isPresent() && position + length > wrap.get()) {
            readWrapped(position, target, wrap.get());
        } else if (pastCache) {
            file.readBack(position, target);
        } else {
            file.read(position, target);
        }
        for (DriveFault fault : faults) {
            if (fault instanceof DriveFault.Flip flip
                    && flip.offset() >= position
                    && flip.offset() < position + length) {
                int at = start + (int) (flip.offset() - position);
                target.put(at, (byte) (target.get(at) ^ 1));
            }
            if (fault instanceof DriveFault.Wrong wrong) {
                long from = Math.max(position, wrong.offset());
                long to = Math.min(position + length, wrong.offset() + wrong.length());
                for (long at = from; at < to; at++) {
                    int place = start + (int) (at - position);
                    target.put(place, (byte) ~target.get(place));
                }
            }
        }
        if (description.readRate().isPresent()) {
            reading.keep(description.readRate().get(), length, begin);
        }
    }

    /** Piece by piece, each up to where the real flash ends and begins again. */
    private void readWrapped(long position, ByteBuffer target, long wrap) throws IOException {
        long from = position;
        while (target.hasRemaining()) {
            long at = from % wrap;
            int piece = (int) Math.min(target.remaining(), wrap - at);
            file.read(at, target.slice(target.position(), piece));
            target.position(target.position() + piece);
            from += piece;
        }
    }

    @Override
    public void write(long position, ByteBuffer source) throws IOException {
        requireInside(position, source.remaining());
        hangOrNot();
        refuseBeyond(position, source.remaining());
        again(position, source.duplicate());
        unflushed.keep(position, source.remaining());
        refuseBad(position, source.remaining());
        requirePlugged();
        requireWritable();
        int length = source.remaining();
        long begin = System.nanoTime();
        Optional<Long> wrap = wrap();
        if (wrap.isPresent() && position + length > wrap.get()) {
            while (source.hasRemaining()) {
                long at = (position + length - source.remaining()) % wrap.get();
                int piece = (int) Math.min(source.remaining(), wrap.get() - at);
                ByteBuffer part = source.slice(source.position(), piece);
                file.write(at, part);
                source.position(source.position() + piece);
            }
        } else {
            writeSparing(position, source);
        }
        written.addAndGet(length);
        unflushed.loseIfDue(written.get());
        pace().ifPresent(rate -> writing.keep(rate, length, begin));
    }

    /** Stretches that keep their old data are left out; everything is said to have been taken. */
    private void writeSparing(long position, ByteBuffer source) throws IOException {
        int start = source.position();
        long end = position + source.remaining();
        long at = position;
        while (at < end) {
            long from = at;
            Optional<DriveFault.Stale> stale = staleAt(from);
            if (stale.isPresent()) {
                at = Math.min(end, stale.get().offset() + stale.get().length());
                continue;
            }
            at = Math.min(end, nextStale(from));
            file.write(from, source.slice(start + (int) (from - position), (int) (at - from)));
        }
        source.position(source.limit());
    }

    private Optional<DriveFault.Stale> staleAt(long place) {
        return faults.stream()
                .filter(DriveFault.Stale.class::isInstance)
                .map(DriveFault.Stale.class::cast)
                .filter(stale -> place >= stale.offset() && place < stale.offset() + stale.length())
                .findFirst();
    }

    private long nextStale(long place) {
        return faults.stream()
                .filter(DriveFault.Stale.class::isInstance)
                .mapToLong(fault -> ((DriveFault.Stale) fault).offset())
                .filter(offset -> offset > place)
                .min()
                .orElse(Long.MAX_VALUE);
    }

    private Optional<ByteRate> pace() {
        for (DriveFault fault : faults) {
            if (fault instanceof DriveFault.Slow slow && written.get() > slow.afterBytes()) {
                return Optional.of(slow.rate());
            }
        }
        return description.writeRate();
    }

    private Optional<Long> wrap() {
        return faults.stream()
                .filter(DriveFault.Wrap.class::isInstance)
                .map(fault -> ((DriveFault.Wrap) fault).size())
                .findFirst();
    }

    private void refuseBad(long position, long length) throws MediumException {
        for (DriveFault fault : faults) {
            if (fault instanceof DriveFault.Bad bad
                    && position < bad.offset() + bad.length()
                    && bad.offset() < position + length) {
                throw new MediumException(name(), bad.offset(), "input/output error at byte " + bad.offset());
            }
        }
    }

    private void requirePlugged() throws MediumException {
        for (DriveFault fault : faults) {
            if (fault instanceof DriveFault.Unplug unplug && written.get() >= unplug.afterBytes()) {
                throw new MediumException(
                        name(), written.get(), "the drive is gone after " + written.get() + " bytes written");
            }
        }
    }

    private void requireWritable() throws MediumException {
        for (DriveFault fault : faults) {
            if (fault instanceof DriveFault.ReadOnly worn && written.get() >= worn.afterBytes()) {
                throw new MediumException(
                        name(), written.get(), "it has gone read-only after " + written.get() + " bytes written");
            }
        }
    }

    @Override
    public void flush() throws IOException {
        hangOrNot();
        unflushed.taken();
        file.flush();
    }

    private <T extends DriveFault> Optional<T> fault(Class<T> kind) {
        return faults.stream().filter(kind::isInstance).map(kind::cast).findFirst();
    }

    /** Waits for ever, or until whoever waits gives up. */
    private void hangOrNot() throws IOException {
        Optional<DriveFault.Hang> hang = fault(DriveFault.Hang.class);
        if (hang.isPresent() && written.get() >= hang.get().afterBytes()) {
            try {
                hanging.incrementAndGet();
                new CountDownLatch(1).await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw new MediumException(name(), written.get(), "it did not answer", new IOException(e));
            }
        }
    }

    /** Whether anybody waits for it in vain. */
    public boolean hangs() {
        return hanging.get() > 0;
    }

    private void refuseBeyond(long position, long length) throws MediumException {
        Optional<DriveFault.Shrink> shrink = fault(DriveFault.Shrink.class);
        if (shrink.isPresent()
                && written.get() >= shrink.get().afterBytes()
                && position + length > shrink.get().size()) {
            throw new MediumException(
                    name(), position, "it ends at byte " + shrink.get().size() + " by now");
        }
    }

    /** The second place, for what is written to the stretch that has one. */
    private void again(long position, ByteBuffer source) throws IOException {
        Optional<DriveFault.Twice> twice = fault(DriveFault.Twice.class);
        if (twice.isEmpty()) {
            return;
        }
        long from = Math.max(position, twice.get().offset());
        long to = Math.min(
                position + source.remaining(),
                twice.get().offset() + twice.get().length());
        long second = twice.get().second() + from - twice.get().offset();
        to = Math.min(to, from + description.bytes().bytes() - second);
        if (from < to) {
            file.write(second, source.slice(source.position() + (int) (from - position), (int) (to - from)));
        }
    }

    @Override
    public boolean readsPastCache() {
        return file.readsPastCache();
    }

    @Override
    public String changeMark() throws IOException {
        return file.changeMark();
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.CRC32C;

/**
 * What a deed changes on a medium, kept in a file before the first page of it is touched (docs/formats/journal.md): each page as
 * it was and as it is to be. A deed that was killed is brought to its end with it, or taken back, at the next look. The file is
 * there whole or not at all.
 */
public final class PageJournal {
    /** To which end a deed that was cut off is brought. */
    public enum Direction {
        FORWARD,
        BACK
    }

    /** What settling came to. */
    public enum Settled {
        /** Everything is as the deed meant it, or as it was before; read back. */
        DONE,
        /** The medium holds something else by now; it was left as it is. */
        NOT_THAT_MEDIUM
    }

    private static final int MAGIC = 0x45504A31;
    private static final int MOST_TEXT = 1 << 16;

    private final Head head;
    private final List<StagedDevice.Page> pages;

    /**
     * Whose journal it is.
     *
     * @param key what the target is, whatever it is called
     * @param operation the row of the register it belongs to
     */
    public record Head(Direction direction, String target, String key, long bytes, long operation) {}

    public PageJournal(Head head, List<StagedDevice.Page> pages) {
        this.head = head;
        this.pages = List.copyOf(pages);
    }

    public Head head() {
        return head;
    }

    public List<StagedDevice.Page> pages() {
        return pages;
    }

    /** Puts it down; returns when it is on the disk. */
    public void save(Path file) throws IOException {
        Files.createDirectories(file.toAbsolutePath().getParent());
        byte[] target = head.target().getBytes(StandardCharsets.UTF_8);
        byte[] key = head.key().getBytes(StandardCharsets.UTF_8);
        long length = 48L + target.length + key.length;
        for (StagedDevice.Page page : pages) {
            length += 12 + 2L * page.before().length;
        }
        ByteBuffer bytes = ByteBuffer.allocate(Math.toIntExact(length));
        bytes.putInt(MAGIC)
                .putInt(head.direction().ordinal())
                .putLong(head.bytes())
                .putLong(head.operation());
        bytes.putInt(target.length).put(target).putInt(key.length).put(key);
        bytes.putInt(pages.size());
        for (StagedDevice.Page page : pages) {
            bytes.putLong(page.position()).putInt(page.before().length);
            bytes.put(page.before()).put(page.after());
        }
        bytes.putInt(crc(bytes.array(), bytes.position()));
        bytes.flip();
        Durable.replace(file, Arrays.copyOf(bytes.array(), bytes.limit()));
    }

    /** @throws UnreadableInput when it is no such file, or not whole */
    public static PageJournal load(Path file) throws IOException {
        byte[] all = Files.readAllBytes(file);
        try {
            ByteBuffer bytes = ByteBuffer.wrap(all);
            if (bytes.getInt() != MAGIC || crc(all, all.length - 4) != bytes.getInt(all.length - 4)) {
                throw new UnreadableInput(file.getFileName() + " is no journal of a change, or not whole.");
            }
            Direction direction = Direction.values()[bytes.getInt()];
            long size = bytes.getLong();
            long operation = bytes.getLong();
            String target = text(bytes);
            String key = text(bytes);
            List<StagedDevice.Page> pages = new ArrayList<>();
            for (int left = bytes.getInt(); left > 0; left--) {
                long position = bytes.getLong();
                int length = bytes.getInt();
                byte[] before = new byte[length];
                byte[] after = new byte[length];
                bytes.get(before).get(after);
                pages.add(new StagedDevice.Page(position, before, after));
            }
            return new PageJournal(new Head(direction, target, key, size, operation), pages);
        } catch (RuntimeException e) {
            throw new UnreadableInput(file.getFileName() + " is no journal of a change, or not whole.", e);
        }
    }

    private static String text(ByteBuffer bytes) {
        int length = bytes.getInt();
        if (length < 0 || length > MOST_TEXT) {
            throw new IllegalArgumentException("text of " + length + " bytes");
        }
        byte[] text = new byte[length];
        bytes.get(text);
        return new String(text, StandardCharsets.UTF_8);
    }

    private static int crc(byte[] bytes, int length) {
        CRC32C crc = new CRC32C();
        crc.update(bytes, 0, length);
        return (int) crc.getValue();
    }

    /**
     * Makes every page what it is to be, and reads it back from the medium.
     *
     * @throws MediumException when the medium does not keep it
     */
    public void apply(BlockDevice device) throws IOException {
        put(device, true);
    }

    /** Makes every page what it was. One place that refuses does not keep the others from being put back. */
    public void takeBack(BlockDevice device) throws IOException {
        put(device, false);
    }

    private void put(BlockDevice device, boolean forward) throws IOException {
        IOException refused = null;
        // Backwards, so that of two names for one place the first one that was saved is put back last.
        for (int i = pages.size() - 1; i >= 0; i--) {
            StagedDevice.Page page = pages.get(forward ? pages.size() - 1 - i : i);
            try {
                write(device, page.position(), forward ? page.after() : page.before());
            } catch (IOException e) {
                if (forward) {
                    throw e;
                }
                refused = refused == null ? e : refused;
            }
        }
        device.flush();
        if (refused != null) {
            throw refused;
        }
        for (StagedDevice.Page page : pages) {
            if (!Arrays.equals(readBack(device, page), forward ? page.after() : page.before())) {
                throw new MediumException(
                        device.name(),
                        page.position(),
                        "what was written at byte " + page.position() + " does not read back");
            }
        }
    }

    /** A place that refuses once may take it the second time. */
    private static void write(BlockDevice device, long position, byte[] bytes) throws IOException {
        try {
            device.write(position, aligned(bytes));
        } catch (MediumException e) {
            device.write(position, aligned(bytes));
        }
    }

    private static ByteBuffer aligned(byte[] bytes) {
        return AlignedBuffers.allocate(StagedDevice.PAGE).put(bytes).flip();
    }

    private static byte[] readBack(BlockDevice device, StagedDevice.Page page) throws IOException {
        ByteBuffer buffer = AlignedBuffers.allocate(StagedDevice.PAGE).limit(page.before().length);
        device.readBack(page.position(), buffer);
        byte[] now = new byte[page.before().length];
        buffer.flip().get(now);
        return now;
    }

    /**
     * Brings a deed that was cut off to its end, where the medium still is the one it was done to: every page of it is as it was,
     * as it is to be, or torn between the two.
     */
    public Settled settle(BlockDevice device) throws IOException {
        if (device.size().bytes() != head.bytes()) {
            return Settled.NOT_THAT_MEDIUM;
        }
        List<StagedDevice.Page> touched = new ArrayList<>();
        for (StagedDevice.Page page : pages) {
            byte[] now = readBack(device, page);
            if (isBetween(now, page)) {
                touched.add(page);
            } else if (head.direction() == Direction.FORWARD) {
                return Settled.NOT_THAT_MEDIUM;
            }
        }
        if (touched.isEmpty()) {
            return Settled.NOT_THAT_MEDIUM;
        }
        PageJournal own = new PageJournal(head, touched);
        if (head.direction() == Direction.FORWARD) {
            own.apply(device);
        } else {
            own.takeBack(device);
        }
        return Settled.DONE;
    }

    /** A drive that wraps round shows the page that was meant for another place. */
    private boolean isBetween(byte[] now, StagedDevice.Page page) {
        boolean torn = true;
        for (int at = 0; at < now.length && torn; at += 512) {
            int to = Math.min(now.length, at + 512);
            torn = Arrays.equals(now, at, to, page.before(), at, to)
                    || Arrays.equals(now, at, to, page.after(), at, to);
        }
        return torn
                || (head.direction() == Direction.BACK
                        && pages.stream().anyMatch(other -> Arrays.equals(now, other.after())));
    }
}

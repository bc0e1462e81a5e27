// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ImageFile;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A journal as a text file (docs/formats/journal.md): a head that names image and target, then one line for each chunk that
 * is on the medium. A torn last line, as a kill leaves it, is not counted.
 */
public final class JournalFile implements WriteJournal, Closeable {
    /** Settled this often: what a kill costs is at most this much writing. */
    public static final Duration USUAL = Duration.ofSeconds(3);

    private static final String TITLE = "exordium write journal 1";
    private static final long LARGEST = 64L << 20;

    private final FileChannel channel;
    private final Duration every;
    private long settledAt = System.nanoTime();
    private int settled;
    private final Map<Integer, Integer> before;
    private final List<String> told = new ArrayList<>();

    private JournalFile(FileChannel channel, Duration every, Map<Integer, Integer> before) {
        this.channel = channel;
        this.every = every;
        this.before = Map.copyOf(before);
    }

    /**
     * What a journal was made for. Another image or another target under the same name is told by these.
     *
     * @param modified of the image file, milliseconds
     * @param serial of the target, empty where it tells none
     */
    public record Head(
            String image,
            long imageBytes,
            long fileBytes,
            long modified,
            String target,
            long targetBytes,
            String serial,
            String mode) {

        public static Head of(WritePlan plan, String serial) throws IOException {
            ImageFile image = plan.image();
            return new Head(
                    oneLine(image.path().toAbsolutePath().normalize()
                            + image.entry().map(entry -> "/" + entry).orElse("")),
                    plan.imageSize().bytes(),
                    image.compressedSize().bytes(),
                    Files.getLastModifiedTime(image.path()).toMillis(),
                    oneLine(plan.target().path().toAbsolutePath().normalize().toString()),
                    plan.target().size().bytes(),
                    oneLine(serial),
                    plan.mode().code());
        }

        /** A name may hold a line break; here it stands as two letters. */
        private static String oneLine(String text) {
            return text.replace("\n", "\\n").replace("\r", "\\r");
        }

        /** The file of the image, for going on with it. */
        public Path imagePath() {
            return path(image);
        }

        /** The target's, likewise. */
        public Path targetPath() {
            return path(target);
        }

        private static Path path(String line) {
            Path plain = Path.of(line);
            return Files.exists(plain)
                    ? plain
                    : Path.of(line.replace("\\n", "\n").replace("\\r", "\r"));
        }

        private List<String> lines() {
            return List.of(
                    TITLE,
                    "image " + image,
                    "image-bytes " + imageBytes,
                    "file-bytes " + fileBytes,
                    "modified " + modified,
                    "target " + target,
                    "target-bytes " + targetBytes,
                    "serial " + serial,
                    "mode " + mode);
        }

        private static Head parse(Path file, List<String> lines) throws UnreadableInput {
            try {
                return new Head(
                        value(lines, 1),
                        Long.parseLong(value(lines, 2)),
                        Long.parseLong(value(lines, 3)),
                        Long.parseLong(value(lines, 4)),
                        value(lines, 5),
                        Long.parseLong(value(lines, 6)),
                        value(lines, 7),
                        value(lines, 8));
            } catch (NumberFormatException e) {
                throw new UnreadableInput(file.getFileName() + " is no journal of a write.", e);
            }
        }

        private static String value(List<String> lines, int index) {
            int space = lines.get(index).indexOf(' ');
            return space < 0 ? "" : lines.get(index).substring(space + 1);
        }

        /** Says what is not as it was; empty where nothing has changed. */
        public String changedSince(Head was) {
            if (!image.equals(was.image())) {
                return "it was another image, " + was.image();
            }
            if (imageBytes != was.imageBytes() || fileBytes != was.fileBytes() || modified != was.modified()) {
                return "the image has changed since";
            }
            if (!target.equals(was.target()) || targetBytes != was.targetBytes() || !serial.equals(was.serial())) {
                return "the target is not the one it was";
            }
            return mode.equals(was.mode()) ? "" : "it was begun in mode " + was.mode();
        }
    }

    /** What a journal tells of where its write stands. */
    public record Progress(Head head, Map<Integer, Integer> chunks) {
        public long bytes() {
            return Math.min(head.imageBytes(), (long) chunks.size() * WriteGranularity.USUAL.chunk());
        }
    }

    /** @throws UnreadableInput when it is no journal */
    public static Progress read(Path file) throws IOException {
        if (!Files.isRegularFile(file) || Files.size(file) > LARGEST) {
            throw new UnreadableInput(file.getFileName() + " is no journal of a write.");
        }
        String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
        List<String> lines = List.of(text.split("\n", -1));
        // What stands after the last line feed is torn off.
        List<String> whole = lines.subList(0, lines.size() - 1);
        if (whole.size() < 9 || !whole.get(0).equals(TITLE)) {
            throw new UnreadableInput(file.getFileName() + " is no journal of a write.");
        }
        Map<Integer, Integer> chunks = new HashMap<>();
        for (String line : whole.subList(9, whole.size())) {
            if (line.matches("\\d{1,8} [0-9a-f]{8}")) {
                int space = line.indexOf(' ');
                chunks.put(
                        Integer.parseInt(line.substring(0, space)),
                        Integer.parseUnsignedInt(line.substring(space + 1), 16));
            }
        }
        return new Progress(Head.parse(file, whole), chunks);
    }

    /** Begins a journal; where there is one for this very write, goes on with it. */
    public static JournalFile open(Path file, Head head, Duration every) throws IOException {
        Map<Integer, Integer> before = Map.of();
        if (Files.exists(file)) {
            Progress stand = read(file);
            String changed = head.changedSince(stand.head());
            if (!changed.isEmpty()) {
                throw new NotPossible("This write cannot go on: " + changed + ". Begin it anew.");
            }
            before = stand.chunks();
        }
        List<String> lines = new ArrayList<>(head.lines());
        before.forEach((chunk, crc) -> lines.add(line(chunk, crc)));
        // Killed at any moment, there is the old journal or the new one, never half of one.
        Path fresh = file.resolveSibling(file.getFileName() + ".new");
        Files.deleteIfExists(fresh);
        FileChannel channel = FileChannel.open(fresh, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        JournalFile journal = new JournalFile(channel, every, before);
        try {
            journal.append(lines);
            Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            channel.close();
            throw e;
        }
        return journal;
    }

    @Override
    public Map<Integer, Integer> before() {
        return before;
    }

    @Override
    public synchronized void wrote(int chunk, int crc) {
        told.add(line(chunk, crc));
    }

    private static String line(int chunk, int crc) {
        return chunk + " " + String.format("%08x", crc);
    }

    @Override
    public synchronized boolean due() {
        return told.size() > settled && System.nanoTime() - settledAt >= every.toNanos();
    }

    @Override
    public synchronized int told() {
        return told.size();
    }

    @Override
    public synchronized void settle(int count) throws IOException {
        append(told.subList(settled, count));
        settled = count;
        settledAt = System.nanoTime();
    }

    private void append(List<String> lines) throws IOException {
        if (!lines.isEmpty()) {
            ByteBuffer bytes = StandardCharsets.UTF_8.encode(String.join("\n", lines) + "\n");
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
            channel.force(true);
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}

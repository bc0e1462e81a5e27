// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.Closing;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.finding.UnreadableInput;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The packs of a vault: files of zstd frames (RFC 8878), one frame a chunk, one after the other, each pack with an index beside it. An index
 * is believed only as to where to look: what is found there counts as a chunk when it has the chunk's SHA-256. About 150 bytes of memory a
 * chunk.
 */
public final class ChunkPacks implements Closeable {
    public static final String FOLDER = "packs";
    public static final String PACK = ".pack";
    public static final String INDEX = ".index";
    static final int LONGEST_FRAME = 2 * Chunk.BYTES;
    private static final Pattern LINE = Pattern.compile("([0-9a-f]{64}) (\\d{1,15}) (\\d{1,7}) (\\d{1,7})");
    private static final int LONGEST_LINE = 128;
    private static final int MOST_OPEN = 256;

    private final List<Pack> packs = new ArrayList<>();
    private final Map<Chunk, Frame> frames = new HashMap<>();
    /** Of chunks that several packs have: those that do not count, the latest last. */
    private final Map<Chunk, List<Frame>> earlier = new HashMap<>();

    private final Map<Integer, FileChannel> open = new HashMap<>();

    /** Where a chunk lies: pack by its number here, and how long its frame and what is in it are. */
    public record Frame(int pack, long at, int bytes, int unpacked) {}

    /** A frame that holds what it is said to hold. */
    public record Whole(Frame frame, byte[] plain) {}

    /** A pack, and how many of its bytes its index knows of; fewer than there are: its index is not whole. */
    private static final class Pack {
        private final Path file;
        private final long length;
        private long indexed;

        Pack(Path file, long length) {
            this.file = file;
            this.length = length;
        }
    }

    private ChunkPacks() {}

    /**
     * Reads the indexes of a folder in the order of their names; where two have a chunk, the later one counts. One that is broken
     * counts as far as it goes, one whose pack is gone not at all.
     */
    public static ChunkPacks in(Path folder) throws IOException {
        ChunkPacks all = new ChunkPacks();
        if (Files.isDirectory(folder)) {
            TreeSet<Path> files = new TreeSet<>();
            try (DirectoryStream<Path> there =
                    Files.newDirectoryStream(folder, file -> name(file).endsWith(PACK) && Files.isRegularFile(file))) {
                there.forEach(files::add);
            }
            for (Path pack : files) {
                all.add(pack);
            }
        }
        return all;
    }

    private static String name(Path file) {
        return String.valueOf(file.getFileName());
    }

    /** The index that belongs to a pack. */
    public static Path indexOf(Path pack) {
        String name = name(pack);
        return pack.resolveSibling(name.substring(0, name.length() - PACK.length()) + INDEX);
    }

    private void add(Path pack) throws IOException {
        Pack one = new Pack(pack, Files.size(pack));
        int number = packs.size();
        packs.add(one);
        Path index = indexOf(pack);
        if (!Files.isRegularFile(index)) {
            return;
        }
        try (BoundedLines lines = new BoundedLines(index, LONGEST_LINE)) {
            // A line that is none is passed by; a chunk that is missed is named by whoever wants it.
            for (Optional<String> line = lines.next(); line.isPresent(); line = lines.next()) {
                take(line.get(), number);
            }
        }
    }

    private void take(String line, int pack) {
        Matcher words = LINE.matcher(line);
        if (words.matches()) {
            take(
                    Chunk.parse(words.group(1)),
                    new Frame(
                            pack,
                            Long.parseLong(words.group(2)),
                            Integer.parseInt(words.group(3)),
                            Integer.parseInt(words.group(4))));
        }
    }

    private void take(Chunk chunk, Frame frame) {
        Pack pack = packs.get(frame.pack());
        if (frame.bytes() <= LONGEST_FRAME
                && frame.unpacked() <= Chunk.BYTES
                && frame.at() + frame.bytes() <= pack.length) {
            Frame before = frames.put(chunk, frame);
            pack.indexed += frame.bytes();
            if (before != null && !before.equals(frame)) {
                earlier.computeIfAbsent(chunk, name -> new ArrayList<>(1)).add(before);
            }
        }
    }

    /** Where a chunk is said to be. */
    public Optional<Frame> find(Chunk chunk) {
        return Optional.ofNullable(frames.get(chunk));
    }

    /** All places where it is said to be, the one that counts first. */
    public List<Frame> every(Chunk chunk) {
        List<Frame> all = new ArrayList<>();
        find(chunk).ifPresent(all::add);
        List<Frame> before = earlier.getOrDefault(chunk, List.of());
        for (int i = before.size() - 1; i >= 0; i--) {
            all.add(before.get(i));
        }
        return all;
    }

    public List<Path> files() {
        return packs.stream().map(pack -> pack.file).toList();
    }

    /** All chunks there are. */
    public Map<Chunk, Frame> all() {
        return Collections.unmodifiableMap(frames);
    }

    /** Looks for chunks in packs whose index does not know all of them. Reads those packs through. */
    public void lookThrough(TransferWatch watch) throws IOException {
        for (int pack : withoutWholeIndex()) {
            Map<Chunk, Frame> there = scan(pack, watch);
            there.keySet().removeIf(chunk -> every(chunk).contains(there.get(chunk)));
            there.forEach(this::take);
        }
    }

    /** The packs whose index is not there, or does not know all of them. */
    public List<Integer> withoutWholeIndex() {
        List<Integer> some = new ArrayList<>();
        for (int pack = 0; pack < packs.size(); pack++) {
            if (packs.get(pack).indexed != packs.get(pack).length) {
                some.add(pack);
            }
        }
        return some;
    }

    /** What a pack really holds, in the order it lies there, whatever its index says. Reads all of it. */
    public Map<Chunk, Frame> scan(int pack, TransferWatch watch) throws IOException {
        Map<Chunk, Frame> found = new LinkedHashMap<>();
        PackScan.of(
                packs.get(pack).file,
                watch,
                (chunk, at, bytes, unpacked) -> found.putIfAbsent(chunk, new Frame(pack, at, bytes, unpacked)));
        return found;
    }

    /** The text of an index of these. */
    public static String index(Map<Chunk, Frame> chunks) {
        StringBuilder lines = new StringBuilder();
        chunks.forEach((chunk, frame) -> lines.append(chunk.hex())
                .append(' ')
                .append(frame.at())
                .append(' ')
                .append(frame.bytes())
                .append(' ')
                .append(frame.unpacked())
                .append('\n'));
        return lines.toString();
    }

    /** A chunk from the first place that really has it; empty where none has. */
    public Optional<Whole> whole(Chunk chunk) throws IOException {
        for (Frame frame : every(chunk)) {
            Optional<Whole> whole = whole(chunk, frame);
            if (whole.isPresent()) {
                return whole;
            }
        }
        return Optional.empty();
    }

    /** A chunk from one place, where it is there. */
    public Optional<Whole> whole(Chunk chunk, Frame frame) throws IOException {
        try {
            byte[] plain = unpack(frame);
            return Chunk.of(plain, 0, plain.length).equals(chunk)
                    ? Optional.of(new Whole(frame, plain))
                    : Optional.empty();
        } catch (MediumException e) {
            return Optional.empty();
        }
    }

    /** Whether a chunk is there and is these bytes; false also where it cannot be read. */
    public boolean holds(Chunk chunk, byte[] bytes, int from, int to) {
        try {
            Optional<Frame> there = find(chunk);
            if (there.isEmpty()) {
                return false;
            }
            byte[] kept = unpack(there.get());
            return Arrays.equals(kept, 0, kept.length, bytes, from, to);
        } catch (IOException e) {
            return false;
        }
    }

    /**
     * What is in a chunk, held to its SHA-256.
     *
     * @throws UnreadableInput when it is in no pack
     * @throws MediumException when what is found in its place is broken, or another one
     */
    public byte[] unpack(Chunk chunk) throws IOException {
        Optional<Whole> whole = whole(chunk);
        if (whole.isPresent()) {
            return whole.get().plain();
        }
        Frame frame = find(chunk)
                .orElseThrow(() ->
                        new UnreadableInput("Chunk " + chunk.hex().substring(0, 12) + "… is in no pack of the vault."));
        throw new MediumException(
                name(packs.get(frame.pack()).file),
                frame.at(),
                "chunk " + chunk.hex().substring(0, 12) + "… of it is broken, or another one");
    }

    /** What is in a frame, whatever it is. */
    private byte[] unpack(Frame frame) throws IOException {
        byte[] packed = packed(frame);
        byte[] bytes = new byte[frame.unpacked()];
        String pack = name(packs.get(frame.pack()).file);
        try {
            if (Zstd.decompress(bytes, packed) != frame.unpacked()) {
                throw new MediumException(pack, frame.at(), "a chunk of it has another length");
            }
            return bytes;
        } catch (ZstdException e) {
            throw new MediumException(pack, frame.at(), "a chunk of it is broken", new IOException(e));
        }
    }

    /** A frame as it lies in its pack. */
    public byte[] packed(Frame frame) throws IOException {
        Optional<FileChannel> held = held(frame.pack());
        if (held.isPresent()) {
            return packed(frame, held.get());
        }
        try (FileChannel channel = FileChannel.open(packs.get(frame.pack()).file)) {
            return packed(frame, channel);
        }
    }

    private byte[] packed(Frame frame, FileChannel channel) throws IOException {
        ByteBuffer packed = ByteBuffer.allocate(frame.bytes());
        while (packed.hasRemaining()) {
            if (channel.read(packed, frame.at() + packed.position()) < 0) {
                throw new MediumException(name(packs.get(frame.pack()).file), frame.at(), "the pack ends too early");
            }
        }
        return packed.array();
    }

    /** A pack that stays open; empty where too many do. */
    private Optional<FileChannel> held(int pack) throws IOException {
        synchronized (open) {
            FileChannel channel = open.get(pack);
            if (channel == null && open.size() < MOST_OPEN) {
                channel = FileChannel.open(packs.get(pack).file);
                open.put(pack, channel);
            }
            return Optional.ofNullable(channel);
        }
    }

    @Override
    public void close() throws IOException {
        synchronized (open) {
            try {
                Closing.all(open.values());
            } finally {
                open.clear();
            }
        }
    }
}

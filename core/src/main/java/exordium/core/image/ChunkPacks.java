// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import exordium.core.block.MediumException;
import exordium.core.finding.UnreadableInput;
import java.io.BufferedReader;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.CharacterCodingException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The packs of a vault: files of zstd frames (RFC 8878), one frame a chunk, one after the other, each pack with an index beside it.
 * About 150 bytes of memory a chunk.
 */
public final class ChunkPacks implements Closeable {
    public static final String FOLDER = "packs";
    public static final String PACK = ".pack";
    public static final String INDEX = ".index";
    private static final Pattern LINE = Pattern.compile("([0-9a-f]{64}) (\\d{1,15}) (\\d{1,7}) (\\d{1,7})");
    private static final int MOST_OPEN = 256;
    private static final int LONGEST_FRAME = 2 * Chunk.BYTES;

    private final List<Path> packs = new ArrayList<>();
    private final Map<Chunk, Frame> frames = new HashMap<>();
    private final Map<Integer, FileChannel> open = new HashMap<>();

    /** Where a chunk lies: pack by its number here, and how long its frame and what is in it are. */
    public record Frame(int pack, long at, int bytes, int unpacked) {}

    private ChunkPacks() {}

    /**
     * Reads the indexes of a folder in the order of their names; where two have a chunk, the later one counts. One that is broken
     * counts as far as it goes, one whose pack is gone not at all.
     */
    public static ChunkPacks in(Path folder) throws IOException {
        ChunkPacks all = new ChunkPacks();
        if (Files.isDirectory(folder)) {
            TreeSet<Path> indexes = new TreeSet<>();
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*" + INDEX)) {
                files.forEach(indexes::add);
            }
            for (Path index : indexes) {
                all.add(index);
            }
        }
        return all;
    }

    /** Takes in one more index. */
    public void add(Path index) throws IOException {
        String name = String.valueOf(index.getFileName());
        Path pack = index.resolveSibling(name.substring(0, name.length() - INDEX.length()) + PACK);
        long length;
        try {
            length = Files.size(pack);
        } catch (NoSuchFileException e) {
            return;
        }
        int number = packs.size();
        packs.add(pack);
        try (BufferedReader lines = Files.newBufferedReader(index)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                take(line, number, length);
            }
        } catch (CharacterCodingException e) {
            // What was read of it so far is used; a chunk that is missed is named by whoever wants it.
            return;
        }
    }

    /** A line that is none is passed by. */
    private void take(String line, int pack, long length) {
        Matcher words = LINE.matcher(line);
        if (!words.matches()) {
            return;
        }
        Frame frame = new Frame(
                pack,
                Long.parseLong(words.group(2)),
                Integer.parseInt(words.group(3)),
                Integer.parseInt(words.group(4)));
        if (frame.bytes() <= LONGEST_FRAME && frame.unpacked() <= Chunk.BYTES && frame.at() + frame.bytes() <= length) {
            frames.put(Chunk.parse(words.group(1)), frame);
        }
    }

    public Optional<Frame> find(Chunk chunk) {
        return Optional.ofNullable(frames.get(chunk));
    }

    public List<Path> files() {
        return List.copyOf(packs);
    }

    /** All chunks there are. */
    public Map<Chunk, Frame> all() {
        return Collections.unmodifiableMap(frames);
    }

    /**
     * What is in a chunk, held to the checksum of its frame.
     *
     * @throws UnreadableInput when it is in no pack
     * @throws MediumException when its frame is broken
     */
    public byte[] unpack(Chunk chunk) throws IOException {
        Frame frame = find(chunk)
                .orElseThrow(() ->
                        new UnreadableInput("Chunk " + chunk.hex().substring(0, 12) + "… is in no pack of the vault."));
        return unpack(frame);
    }

    public byte[] unpack(Frame frame) throws IOException {
        byte[] packed = packed(frame);
        byte[] bytes = new byte[frame.unpacked()];
        String pack = String.valueOf(packs.get(frame.pack()).getFileName());
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
        try (FileChannel channel = FileChannel.open(packs.get(frame.pack()))) {
            return packed(frame, channel);
        }
    }

    private byte[] packed(Frame frame, FileChannel channel) throws IOException {
        ByteBuffer packed = ByteBuffer.allocate(frame.bytes());
        while (packed.hasRemaining()) {
            if (channel.read(packed, frame.at() + packed.position()) < 0) {
                throw new MediumException(
                        String.valueOf(packs.get(frame.pack()).getFileName()), frame.at(), "the pack ends too early");
            }
        }
        return packed.array();
    }

    /** A pack that stays open; empty where too many do. */
    private Optional<FileChannel> held(int pack) throws IOException {
        synchronized (open) {
            FileChannel channel = open.get(pack);
            if (channel == null && open.size() < MOST_OPEN) {
                channel = FileChannel.open(packs.get(pack));
                open.put(pack, channel);
            }
            return Optional.ofNullable(channel);
        }
    }

    private void closeAll() throws IOException {
        for (FileChannel each : open.values()) {
            each.close();
        }
        open.clear();
    }

    @Override
    public void close() throws IOException {
        synchronized (open) {
            closeAll();
        }
    }
}

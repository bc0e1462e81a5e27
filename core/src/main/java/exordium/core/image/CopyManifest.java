// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.NewerThanThis;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * One copy in a vault: what a drive held, as a list of chunks that lie in the vault's packs. docs/formats/vault.md describes it.
 * About 100 bytes of memory a chunk; at most {@link #MOST} of them, which is 2 TB in use.
 *
 * @param facts what else is known of it, such as its board, in the file's order
 */
public record CopyManifest(ByteSize size, int sectorSize, Map<String, String> facts, List<Place> places) {
    static final int MOST = 16_000_000;
    /** What such a file begins with. */
    static final String FORMAT = "exordium-copy";

    private static final int VERSION = 1;
    private static final int MOST_FACTS = 100;
    private static final int LONGEST_LINE = 4096;
    private static final int MOST_DIGITS = 18;
    private static final long LARGEST = 8L << 40;

    /** A stretch of the drive that is not all zeros, and its chunk. What no place covers is zeros. */
    public record Place(long at, int bytes, Chunk chunk) {}

    public CopyManifest {
        facts = Collections.unmodifiableMap(new LinkedHashMap<>(facts));
        places = List.copyOf(places);
    }

    public Optional<String> fact(String key) {
        return Optional.ofNullable(facts.get(key));
    }

    /** Writes it to a new file, through to the disk; its own digest is in its last line, and given back. */
    public String save(Path file) throws IOException {
        MessageDigest sha = PublishedChecksum.newSha256();
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
                OutputStream out = Channels.newOutputStream(channel);
                DigestOutputStream digested = new DigestOutputStream(out, sha);
                Writer text = new BufferedWriter(new OutputStreamWriter(digested, StandardCharsets.UTF_8))) {
            text.write(FORMAT + ": " + VERSION + "\n");
            text.write("bytes: " + size.bytes() + "\nsector-size: " + sectorSize + "\n");
            for (Map.Entry<String, String> fact : facts.entrySet()) {
                text.write(fact.getKey() + ": " + fact.getValue().replaceAll("\\p{Cntrl}", " ") + "\n");
            }
            text.write("chunks: " + places.size() + "\n\n");
            for (Place place : places) {
                text.write(
                        place.at() + " " + place.bytes() + " " + place.chunk().hex() + "\n");
            }
            text.flush();
            String digest = HexFormat.of().formatHex(sha.digest());
            text.write("sha256 " + digest + "\n");
            text.flush();
            channel.force(true);
            return digest;
        }
    }

    /** The digest a list has in its last line, after all of it was read and holds; nothing of it is kept in memory. */
    public static String verify(Path file) throws IOException {
        return read(file, place -> {}).digest();
    }

    /** Whether it is a list, and all of it holds. */
    public static boolean isSound(Path file) throws IOException {
        try {
            verify(file);
            return true;
        } catch (UnreadableInput e) {
            return false;
        }
    }

    /**
     * Reads one back.
     *
     * @throws UnreadableInput when it is no such file, is cut off, or was changed
     * @throws NewerThanThis when a later version of this program wrote it
     */
    public static CopyManifest load(Path file) throws IOException {
        List<Place> places = new ArrayList<>();
        Head head = read(file, places::add);
        return new CopyManifest(head.size(), head.sectorSize(), head.facts(), places);
    }

    /** Reads one through and keeps nothing of it; only when this returns is it known that what was handed out holds. */
    public static void scan(Path file, Consumer<Place> sink) throws IOException {
        read(file, sink);
    }

    private record Head(ByteSize size, int sectorSize, Map<String, String> facts, String digest) {}

    private static Head read(Path file, Consumer<Place> sink) throws IOException {
        String name = String.valueOf(file.getFileName());
        MessageDigest sha = PublishedChecksum.newSha256();
        try (BufferedReader lines = Files.newBufferedReader(file)) {
            return new Reading(name, lines, sha).whole(sink);
        } catch (CharacterCodingException e) {
            throw new UnreadableInput(name + " is no copy of a vault: it is no text.", e);
        }
    }

    /** Goes through the file in its own order. */
    private static final class Reading {
        private final String name;
        private final BufferedReader lines;
        private final MessageDigest sha;
        private int number;

        Reading(String name, BufferedReader lines, MessageDigest sha) {
            this.name = name;
            this.lines = lines;
            this.sha = sha;
        }

        Head whole(Consumer<Place> sink) throws IOException {
            Map<String, String> facts = new LinkedHashMap<>();
            for (String line = digested(); !line.isEmpty(); line = digested()) {
                int colon = line.indexOf(": ");
                if (colon < 1 || facts.size() > MOST_FACTS) {
                    throw broken("is not \"name: value\"");
                }
                facts.put(line.substring(0, colon), line.substring(colon + 2));
            }
            long version = number(facts.remove(FORMAT), Integer.MAX_VALUE);
            if (version > VERSION) {
                throw new NewerThanThis(
                        name + " has version " + version + " of its format; this program reads " + VERSION
                                + ". Take the program that wrote it, or a newer one.",
                        (int) version,
                        VERSION);
            }
            long size = number(facts.remove("bytes"), LARGEST);
            long sector = number(facts.remove("sector-size"), 1 << 16);
            int count = (int) number(facts.remove("chunks"), MOST);
            long end = 0;
            for (int i = 0; i < count; i++) {
                Place place = place(digested());
                if (place.at() < end || place.at() + place.bytes() > size) {
                    throw broken("lies outside the drive, or over the one before");
                }
                end = place.at() + place.bytes();
                sink.accept(place);
            }
            String digest = HexFormat.of().formatHex(sha.digest());
            if (!line().equals("sha256 " + digest)) {
                throw broken("says that it is not what was written");
            }
            return new Head(ByteSize.of(size), (int) sector, facts, digest);
        }

        private Place place(String line) throws UnreadableInput {
            String[] words = line.split(" ");
            try {
                int bytes = (int) number(words[1], Chunk.BYTES);
                long at = number(words[0], LARGEST);
                if (words.length != 3 || bytes == 0 || at % Chunk.BYTES != 0) {
                    throw broken("is no chunk");
                }
                return new Place(at, bytes, Chunk.parse(words[2]));
            } catch (IllegalArgumentException | ArrayIndexOutOfBoundsException e) {
                throw broken("is no chunk");
            }
        }

        private long number(String text, long most) throws UnreadableInput {
            long number = -1;
            if (text != null
                    && text.length() <= MOST_DIGITS
                    && text.chars().allMatch(each -> each >= '0' && each <= '9')) {
                number = text.isEmpty() ? -1 : Long.parseLong(text);
            }
            if (number < 0 || number > most) {
                throw broken("has no number where one belongs, or one over " + most);
            }
            return number;
        }

        private String digested() throws IOException {
            String line = line();
            sha.update((line + "\n").getBytes(StandardCharsets.UTF_8));
            return line;
        }

        private String line() throws IOException {
            StringBuilder line = new StringBuilder();
            number++;
            for (int letter = lines.read(); letter != '\n'; letter = lines.read()) {
                if (letter < 0 || line.length() > LONGEST_LINE) {
                    throw new UnreadableInput(name + " is cut off, or no copy of a vault: line " + number
                            + (letter < 0 ? " does not end." : " has no end."));
                }
                line.append((char) letter);
            }
            return line.toString();
        }

        private UnreadableInput broken(String what) {
            return new UnreadableInput(name + " is no whole copy of a vault: line " + number + " " + what + ".");
        }
    }
}

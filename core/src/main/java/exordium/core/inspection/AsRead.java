// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.block.BlockDevice;
import exordium.core.block.DelegatingDevice;
import exordium.core.block.MediumException;
import exordium.core.block.ReadOnlyDevice;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;

/**
 * What was read of a medium at one time: every page somebody asked for then, and no other. Kept, it answers the same questions
 * when the medium is away; a question that was not asked then is refused and never answered with zeros.
 *
 * @param size bytes of the whole medium
 * @param pages of {@value #PAGE} bytes, by the number of each
 */
public record AsRead(String name, ByteSize size, int sectorSize, Instant at, Map<Long, byte[]> pages) {
    static final int PAGE = 4096;

    /** More than tables, allocation maps and small files of any medium in the trade; far under what memory there is. */
    static final int MOST_PAGES = 16_384;

    private static final String HEAD = "medium.json";
    private static final String PAGES = "pages";
    private static final byte[] BLANK = new byte[PAGE];

    /** A question that is put to a medium while it is here. */
    public interface Question {
        void ask(BlockDevice device) throws IOException;
    }

    /** Asks a medium and keeps what it was read for. */
    public static AsRead of(BlockDevice device, Instant at, Question question) throws IOException {
        Recorder recorder = new Recorder(device);
        question.ask(recorder);
        return new AsRead(device.name(), device.size(), device.sectorSize(), at, recorder.pages);
    }

    private static final class Recorder extends DelegatingDevice {
        private final Map<Long, byte[]> pages = new TreeMap<>();

        Recorder(BlockDevice inner) {
            super(inner);
        }

        @Override
        public void read(long position, ByteBuffer target) throws IOException {
            requireInside(position, target.remaining());
            for (long at = position; target.hasRemaining(); ) {
                long number = at / PAGE;
                byte[] page = pages.get(number);
                if (page == null) {
                    page = fresh(number);
                }
                int from = (int) (at % PAGE);
                int length = Math.min(target.remaining(), PAGE - from);
                target.put(page, from, length);
                at += length;
            }
        }

        private byte[] fresh(long number) throws IOException {
            byte[] page = new byte[PAGE];
            long start = number * PAGE;
            int there = (int) Math.min(PAGE, size().bytes() - start);
            super.read(start, ByteBuffer.wrap(page, 0, there));
            byte[] kept = Arrays.equals(page, BLANK) ? BLANK : page;
            if (pages.size() < MOST_PAGES) {
                pages.put(number, kept);
            }
            return kept;
        }
    }

    /** The medium as it was; places that were not read then cannot be read. */
    public BlockDevice device() {
        return new ReadOnlyDevice(name, size, sectorSize) {
            @Override
            public void read(long position, ByteBuffer target) throws IOException {
                requireInside(position, target.remaining());
                for (long at = position; target.hasRemaining(); ) {
                    byte[] page = pages.get(at / PAGE);
                    if (page == null) {
                        throw new MediumException(
                                AsRead.this.name(), at, "this was not read when the medium was last here");
                    }
                    int from = (int) (at % PAGE);
                    int length = Math.min(target.remaining(), PAGE - from);
                    target.put(page, from, length);
                    at += length;
                }
            }
        };
    }

    /** Puts it into a file, whole or not at all. */
    public void save(Path file) throws IOException {
        Path part = file.resolveSibling(file.getFileName() + ".part");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(part))) {
            zip.putNextEntry(new ZipEntry(HEAD));
            zip.write(new ObjectMapper()
                    .writeValueAsBytes(Map.of(
                            "name", name,
                            "bytes", size.bytes(),
                            "sectorSize", sectorSize,
                            "readAt", at.toString(),
                            "pages", pages.size())));
            zip.putNextEntry(new ZipEntry(PAGES));
            DataOutputStream out = new DataOutputStream(zip);
            for (Map.Entry<Long, byte[]> page : pages.entrySet()) {
                out.writeLong(page.getKey());
                out.write(page.getValue());
            }
            out.flush();
            zip.closeEntry();
        }
        Files.move(part, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
    }

    /**
     * Reads what was kept.
     *
     * @throws UnreadableInput when the file is damaged or no such file
     */
    public static AsRead load(Path file) throws IOException {
        try (ZipFile zip = new ZipFile(file.toFile())) {
            JsonNode head = new ObjectMapper().readTree(zip.getInputStream(entry(zip, HEAD)));
            ByteSize size = ByteSize.of(head.path("bytes").asLong(-1));
            int sectorSize = head.path("sectorSize").asInt();
            Instant at = Instant.parse(head.path("readAt").asText());
            int count = head.path("pages").asInt(-1);
            if (sectorSize < 512 || count < 0 || count > MOST_PAGES) {
                throw damaged(file, null);
            }
            Map<Long, byte[]> pages = new TreeMap<>();
            try (DataInputStream in = new DataInputStream(zip.getInputStream(entry(zip, PAGES)))) {
                for (int i = 0; i < count; i++) {
                    long number = in.readLong();
                    byte[] page = in.readNBytes(PAGE);
                    if (page.length < PAGE || number < 0 || number > size.bytes() / PAGE) {
                        throw damaged(file, null);
                    }
                    pages.put(number, Arrays.equals(page, BLANK) ? BLANK : page);
                }
            }
            return new AsRead(head.path("name").asText(), size, sectorSize, at, pages);
        } catch (UnreadableInput e) {
            throw e;
        } catch (IOException | DateTimeException | IllegalArgumentException e) {
            throw damaged(file, e);
        }
    }

    private static ZipEntry entry(ZipFile zip, String name) throws IOException {
        ZipEntry entry = zip.getEntry(name);
        if (entry == null) {
            throw new IOException("no " + name);
        }
        return entry;
    }

    private static UnreadableInput damaged(Path file, Exception cause) {
        return new UnreadableInput(file.getFileName() + " is damaged; read the medium again when it is here.", cause);
    }
}

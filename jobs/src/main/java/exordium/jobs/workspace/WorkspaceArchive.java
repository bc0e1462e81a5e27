// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import exordium.core.block.Machine;
import exordium.core.block.TransferWatch;
import exordium.core.finding.NameTaken;
import exordium.core.finding.NewerThanThis;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import exordium.store.Workspace;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.ZoneId;
import java.util.Enumeration;
import java.util.List;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;

/**
 * A whole workspace as one zip (docs/formats/workspace.md). A virtual drive lies in it as the stretches that hold anything, so that
 * a drive of 500 GB with little on it takes little.
 */
public final class WorkspaceArchive {
    static final String HEAD = "workspace.json";
    static final String REGISTERS = "exordium.db";
    static final String MAP = ".stretches";
    static final String DATA = ".data";
    static final int VERSION = 1;
    static final int CHUNK = 1 << 20;
    private static final int MOST_ENTRIES = 200_000;
    private static final long LARGEST_DRIVE = 1L << 50;
    private static final int LARGEST_HEAD = 64 << 20;
    static final String VAULT = "vault";
    private static final String FIRMWARE = "firmware";
    /** Whose bundles are believed is decided here, not by whoever made an archive. */
    private static final String KEYS = "firmware/keys/";

    private static final String KEYS_ASIDE = "firmware/keys-of-archive/";
    private static final String INCOMING = "incoming.db";
    static final Set<String> FOLDERS =
            Set.of("boards", "drives", "images", VAULT, "profiles", "read", "reports", "files", "sets", FIRMWARE);
    /** What earlier versions put in beside: nothing that is under way comes out of an archive. */
    private static final Set<String> LEFT_OUT = Set.of("writes", "deeds");

    static final ObjectMapper JSON = new ObjectMapper();

    private WorkspaceArchive() {}

    /**
     * Makes a workspace of such a file; it is there when it is whole, and not before.
     *
     * @throws NameTaken when there is something in the folder
     * @throws UnreadableInput when the file is none, or holds what has no place in a workspace
     */
    public static Workbench importFrom(Path file, Path folder, Clock clock, ZoneId zone, TransferWatch watch)
            throws IOException {
        Workspaces.requireFree(folder);
        if (!Files.isRegularFile(file)) {
            throw new UnreadableInput("There is no file " + file + ".");
        }
        Path whole = folder.toAbsolutePath().normalize();
        Files.createDirectories(whole.getParent());
        Path working = Files.createTempDirectory(whole.getParent(), ".exordium-import");
        boolean moved = false;
        try {
            try (ZipFile zip = new ZipFile(file.toFile())) {
                JsonNode head = requireOurs(zip, file);
                unpack(zip, working, watch);
                requireListed(zip, file, head);
            } catch (ZipException | EOFException | IllegalArgumentException e) {
                throw new UnreadableInput(file.getFileName() + " is no zip that can be read to its end.", e);
            }
            Path incoming = working.resolve(INCOMING);
            Workspace.adopt(incoming, working, String.valueOf(file.getFileName()));
            Files.delete(incoming);
            // Whether its registers can be used is seen before anything stands in its place, or is tidied up by what
            // they say.
            try (Workspace made = Workspace.open(working, clock)) {
                new ImportedRows(Workbench.of(made, zone, Machine.here()), String.valueOf(file.getFileName()))
                        .require();
            }
            Files.deleteIfExists(whole);
            Files.move(working, whole, StandardCopyOption.ATOMIC_MOVE);
            moved = true;
        } catch (FileAlreadyExistsException e) {
            throw new UnreadableInput(file.getFileName() + " holds one name twice; nothing was made of it.", e);
        } finally {
            if (!moved) {
                Folders.delete(working);
            }
        }
        return Opening.at(whole, clock, zone);
    }

    /** @throws UnreadableInput when an entry is missing, or was put in, since the file was made */
    private static void requireListed(ZipFile zip, Path file, JsonNode head) throws UnreadableInput {
        String listing = head.path("listing").asText("");
        if (listing.isEmpty()) {
            // Made by a version that wrote none.
            return;
        }
        ArchiveListing there = new ArchiveListing();
        zip.stream().filter(entry -> !entry.getName().equals(HEAD)).forEach(there::add);
        if (!there.digest().equals(listing)) {
            throw new UnreadableInput(
                    file.getFileName()
                            + " does not hold what was put into it: something is missing, or was changed; nothing was made of it.");
        }
    }

    private static JsonNode requireOurs(ZipFile zip, Path file) throws IOException {
        ZipEntry entry = zip.getEntry(HEAD);
        if (entry == null || zip.getEntry(REGISTERS) == null) {
            throw new UnreadableInput(file.getFileName() + " is no workspace taken along: it has no " + HEAD + " or no "
                    + REGISTERS + ".");
        }
        JsonNode head = json(zip, entry);
        if (!head.path("format").asText().equals("exordium-workspace")) {
            throw new UnreadableInput(file.getFileName() + " is no workspace taken along.");
        }
        int version = head.path("version").asInt();
        if (version > VERSION) {
            throw new NewerThanThis(
                    file.getFileName() + " was made by a newer version of this program; nothing was made of it.",
                    version,
                    VERSION);
        }
        return head;
    }

    private static JsonNode json(ZipFile zip, ZipEntry entry) throws IOException {
        try (InputStream in = new CheckedEntry(zip, entry)) {
            byte[] bytes = in.readNBytes(LARGEST_HEAD);
            if (in.read() >= 0) {
                throw new OverBound(
                        entry.getName() + " in it is longer than " + LARGEST_HEAD + " bytes.", LARGEST_HEAD);
            }
            JsonNode read = JSON.readTree(bytes);
            return read == null ? JSON.missingNode() : read;
        } catch (JsonProcessingException e) {
            throw new UnreadableInput(entry.getName() + " in it is no JSON that can be read.", e);
        }
    }

    private static void unpack(ZipFile zip, Path folder, TransferWatch watch) throws IOException {
        if (zip.size() > MOST_ENTRIES) {
            throw new OverBound(
                    "The file holds " + zip.size() + " entries; a workspace has at most " + MOST_ENTRIES + ".",
                    MOST_ENTRIES);
        }
        long free = Files.getFileStore(folder).getUsableSpace();
        long announced =
                zip.stream().mapToLong(each -> Math.max(0, each.getSize())).sum();
        if (announced < 0 || announced > free) {
            throw new OverBound(
                    "It holds " + announced + " bytes, and there are " + free + " free here; nothing was made of it.",
                    free);
        }
        for (Enumeration<? extends ZipEntry> all = zip.entries(); all.hasMoreElements(); ) {
            ZipEntry entry = all.nextElement();
            watch.goOnOrStop();
            if (entry.isDirectory()
                    || entry.getName().equals(HEAD)
                    || entry.getName().endsWith(MAP)) {
                continue;
            }
            if (LEFT_OUT.contains(entry.getName().split("/", 2)[0])) {
                continue;
            }
            Path target = place(folder, entry.getName());
            Files.createDirectories(target.getParent());
            ZipEntry map = entry.getName().endsWith(DATA)
                    ? zip.getEntry(entry.getName().replaceFirst("\\.data$", MAP))
                    : null;
            if (map == null) {
                plain(zip, entry, target, watch, announced);
            } else {
                sparse(zip, entry, map, target, watch, announced);
            }
        }
        for (Enumeration<? extends ZipEntry> all = zip.entries(); all.hasMoreElements(); ) {
            String name = all.nextElement().getName();
            if (name.endsWith(MAP) && zip.getEntry(name.replaceFirst("\\.stretches$", DATA)) == null) {
                throw new UnreadableInput(name + " in it has no bytes beside it.");
            }
        }
    }

    /** @throws UnreadableInput when a name leads anywhere but into a workspace */
    private static Path place(Path folder, String name) throws UnreadableInput {
        String plain = name.endsWith(DATA) && name.startsWith("drives/")
                ? name.substring(0, name.length() - DATA.length())
                : name;
        List<String> parts = List.of(plain.split("/", -1));
        boolean inside = parts.size() > 1
                && FOLDERS.contains(parts.get(0))
                && parts.stream()
                        .allMatch(part -> !part.isBlank()
                                && !part.equals("..")
                                && !part.equals(".")
                                && part.indexOf('\\') < 0
                                && part.chars().noneMatch(Character::isISOControl));
        if (!inside && !plain.equals(REGISTERS)) {
            throw new UnreadableInput("\"" + name.replaceAll("\\p{Cntrl}", "?")
                    + "\" in it has no place in a workspace; nothing was made of it.");
        }
        if (plain.equals(REGISTERS)) {
            return folder.resolve(INCOMING);
        }
        return folder.resolve(plain.startsWith(KEYS) ? KEYS_ASIDE + plain.substring(KEYS.length()) : plain);
    }

    private static void plain(ZipFile zip, ZipEntry entry, Path target, TransferWatch watch, long total)
            throws IOException {
        byte[] chunk = new byte[CHUNK];
        long left = entry.getSize();
        try (InputStream in = new CheckedEntry(zip, entry);
                OutputStream out =
                        Files.newOutputStream(target, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            for (int got = in.read(chunk); got >= 0; got = in.read(chunk)) {
                left -= got;
                requireAnnounced(entry, left);
                out.write(chunk, 0, got);
                told(watch, got, total);
            }
        }
    }

    private static void sparse(ZipFile zip, ZipEntry entry, ZipEntry map, Path target, TransferWatch watch, long total)
            throws IOException {
        JsonNode told = json(zip, map);
        long size = told.path("bytes").asLong(-1);
        if (size < 0 || size > LARGEST_DRIVE) {
            throw new UnreadableInput(map.getName() + " in it says no size that a drive can have.");
        }
        byte[] chunk = new byte[CHUNK];
        long last = 0;
        Files.createFile(target);
        try (InputStream in = new CheckedEntry(zip, entry);
                RandomAccessFile out = new RandomAccessFile(target.toFile(), "rw")) {
            out.setLength(size);
            for (JsonNode stretch : told.path("stretches")) {
                long at = stretch.path("at").asLong(-1);
                long bytes = stretch.path("bytes").asLong(-1);
                if (at < last || bytes < 0 || at > size || bytes > size - at) {
                    throw new UnreadableInput(map.getName() + " in it names bytes outside the drive.");
                }
                last = at + bytes;
                out.seek(at);
                for (long left = bytes; left > 0; ) {
                    int got = in.read(chunk, 0, (int) Math.min(chunk.length, left));
                    if (got < 0) {
                        throw new UnreadableInput(entry.getName() + " in it ends too early.");
                    }
                    out.write(chunk, 0, got);
                    left -= got;
                    told(watch, got, total);
                }
            }
            if (in.read() >= 0) {
                throw new UnreadableInput(entry.getName() + " in it holds more than it says.");
            }
        }
    }

    private static void requireAnnounced(ZipEntry entry, long left) throws UnreadableInput {
        if (left < 0) {
            throw new UnreadableInput(entry.getName() + " in it is longer than it says.");
        }
    }

    private static void told(TransferWatch watch, int bytes, long total) {
        watch.goOnOrStop();
        watch.moved(TransferWatch.Phase.COPYING, 0, bytes, 0, total);
    }
}

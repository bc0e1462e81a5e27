// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.PageJournal;
import exordium.core.block.StagedDevice;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A workspace from somebody else is as safe as a picture from somebody else. */
class HostileArchivesTest {
    private static final int ARCHIVES = Integer.getInteger("exordium.archives", 8);
    private static final long SEED = Long.getLong("exordium.seed", 29);
    private static final List<List<String>> COMMANDS = List.of(
            List.of("board", "list"),
            List.of("board", "show", "tide-clock"),
            List.of("medium", "list"),
            List.of("shelf", "list"),
            List.of("writes"),
            List.of("log"),
            List.of("log", "--csv"),
            List.of("due"),
            List.of("copy", "list"),
            List.of("copy", "check"),
            List.of("vault", "status"),
            List.of("vault", "check"),
            List.of("copy", "prune", "--dry-run"),
            List.of("firmware", "status", "tide-clock"),
            List.of("rehearse", "--board", "tide-clock"),
            List.of("profile", "list"),
            List.of("sets", "list", "tide-clock"),
            List.of("drives"),
            List.of("workspace", "list"),
            List.of("medium", "show", "card"));

    @TempDir
    Path folder;

    private static void ok(Terminal.Ran ran) {
        assertThat(ran.code()).as(ran.err()).isZero();
    }

    /** A board of one's own with a card that was written, and a copy of it. */
    private Path good() throws IOException {
        Terminal house = new Terminal(folder.resolve("house"));
        ok(house.run("workspace", "new", "--name", "House"));
        ok(house.run("board", "new", "Tide clock", "--profile", "plover-4", "--memory", "4 GB"));
        Path drives = folder.resolve("house/drives");
        ok(house.run("drive", "new", drives.resolve("card.img").toString(), "--bytes", "8000000", "--bus", "sd"));
        Path image = folder.resolve("image.img");
        byte[] bytes = new byte[1 << 20];
        new Random(3).nextBytes(bytes);
        Arrays.fill(bytes, 0, 512, (byte) 0);
        // One partition of kind 0c, from sector 64 on.
        bytes[446 + 4] = 0x0c;
        bytes[446 + 8] = 64;
        bytes[446 + 12] = 0;
        bytes[446 + 13] = 7;
        bytes[510] = 0x55;
        bytes[511] = (byte) 0xAA;
        Files.write(image, bytes);
        ok(house.run("medium", "take", "card.img", "--name", "Card", "--kind", "card-quick"));
        ok(house.run("board", "attach", "tide-clock", "card", "card"));
        ok(house.run("write", image.toString(), drives.resolve("card.img").toString(), "--confirm", "card.img"));
        ok(house.run("copy", "run", "tide-clock"));
        Path zip = folder.resolve("good.zip");
        ok(house.run("workspace", "export", zip.toString()));
        return zip;
    }

    private Map<String, String> outside() throws IOException {
        Map<String, String> all = new TreeMap<>();
        try (Stream<Path> files = Files.walk(folder.resolve("outside"))) {
            for (Path file : files.toList()) {
                all.put(
                        file.toString(),
                        Files.getLastModifiedTime(file)
                                + (Files.isRegularFile(file)
                                        ? Files.readString(file, StandardCharsets.ISO_8859_1)
                                        : ""));
            }
        }
        try (Stream<Path> files = Files.list(folder)) {
            files.filter(each -> !each.endsWith("in")).forEach(each -> all.put(each.toString(), ""));
        }
        return all;
    }

    @Test
    void nothingOutsideChangesAndNoCommandEndsInInternals() throws Exception {
        Path good = good();
        Path outside = Files.createDirectories(folder.resolve("outside"));
        // Were a vault said to be there, its half-made packs would be tidied up.
        Files.writeString(Files.createDirectories(outside.resolve("packs")).resolve("mine.part"), "somebody's");
        Path shell = Files.writeString(outside.resolve("rc"), "# a shell's start file\n".repeat(400));
        byte[] before = Arrays.copyOf(Files.readAllBytes(shell), 4096);
        byte[] after = before.clone();
        Arrays.fill(after, (byte) 'x');
        new PageJournal(
                        new PageJournal.Head(
                                PageJournal.Direction.FORWARD,
                                shell.toString(),
                                shell.toRealPath().toString(),
                                Files.size(shell),
                                1),
                        List.of(new StagedDevice.Page(0, before, after)))
                .save(outside.resolve("journal"));
        Random random = new Random(SEED);
        HostileArchives archives = new HostileArchives(good, outside, random);
        Path zip = Files.createFile(folder.resolve("hostile.zip"));
        Path in = folder.resolve("in");
        Terminal guest = new Terminal(in);
        Map<String, String> as = outside();
        int taken = 0;
        for (int i = 0; i < ARCHIVES; i++) {
            String what = "seed " + SEED + ", archive " + i + ": " + archives.make(zip, outside);
            as.putAll(Map.of(outside.toString(), outside().get(outside.toString())));
            Terminal.Ran import_ = guest.run("workspace", "import", zip.toString());
            requirePlain(what, import_);
            assertThat(outside()).as(what).isEqualTo(as);
            if (import_.code() == 0) {
                taken++;
                for (List<String> command : COMMANDS) {
                    requirePlain(what, guest.run(command.toArray(String[]::new)));
                }
                assertThat(outside()).as(what).isEqualTo(as);
                assertThat(guest.run("rules", "list").out()).doesNotContain("real-drives on");
                exordium.jobs.bench.Folders.delete(in);
            } else {
                assertThat(in).as(what).doesNotExist();
            }
        }
        assertThat(taken).isBetween(1, ARCHIVES - 1);
    }

    private static void requirePlain(String what, Terminal.Ran ran) {
        String said = ran.err() + (ran.code() == 0 ? "" : ran.out());
        assertThat(said)
                .as(what)
                .doesNotContain(
                        "inside the program",
                        "Exception",
                        "java.",
                        "exordium.core",
                        "exordium.jobs",
                        "exordium.store",
                        "Cannot construct",
                        "jdbi");
        assertThat(ran.code()).as(what + said).isNotEqualTo(1);
        assertThat(ran.out()).as(what).doesNotContain("\u001b");
    }
}

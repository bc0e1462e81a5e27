// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.locks.LockSupport;
import java.util.zip.CRC32;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What must not be written is not, by whatever name it is reached and by whatever deed: more than sixty attempts, each of which
 * must be refused with the target byte for byte as it was. All loop devices, mounts and namespaces are made here.
 */
class RefusedTargetsTest {
    private static final long LOOK_NANOS = 5_000_000L;
    private static final long MIB = DiskBuilder.MIB;
    private static final int REFUSED = 3;
    private static final int BAD_INPUT = 2;

    @TempDir
    Path folder;

    private final Deque<Runnable> undo = new ArrayDeque<>();
    private Terminal terminal;
    private Path image;
    private Path intents;
    private int attempts;

    @BeforeEach
    void made() throws IOException {
        terminal = new Terminal(folder.resolve("house"));
        assertThat(terminal.run("writes").code()).isZero();
        image = new DiskBuilder(folder).build("image.img");
        intents = Files.writeString(folder.resolve("intents.yaml"), "profile: plover-5\nremoteLogin: true\n");
    }

    @AfterEach
    void undone() {
        undo.forEach(Runnable::run);
    }

    private static void needsRoot() {
        Needs.here(System.getProperty("user.name").equals("root"), "loop devices need root");
    }

    private String loop(Path file, String... more) {
        List<String> words = new ArrayList<>(List.of("losetup", "-f", "--show"));
        words.addAll(List.of(more));
        words.add(file.toString());
        String loop = GeneralTools.run(words.toArray(String[]::new)).strip();
        undo.push(() -> GeneralTools.exitOf("losetup", "-d", loop));
        return loop;
    }

    private Path blank(String name, long mib) throws IOException {
        Path file = folder.resolve(name);
        DiskBuilder.blank(file, mib * MIB);
        return file;
    }

    private Path ext4(String name) throws IOException {
        Path file = blank(name, 16);
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", file.toString());
        return file;
    }

    private Path mounted(String loop, String name) throws IOException {
        Path place = Files.createDirectories(folder.resolve(name));
        // Read only, so that the file system itself changes nothing while the test looks at it.
        GeneralTools.run("mount", "-o", "ro", loop, place.toString());
        undo.push(() -> GeneralTools.exitOf("umount", place.toString()));
        return place;
    }

    /** Every deed that changes a drive; all of them confirmed with the name that is asked for. */
    private void refusedByAll(Path target) throws IOException {
        String name = String.valueOf(
                target.toRealPath().startsWith("/dev") ? target.toRealPath().getFileName() : target.getFileName());
        List<List<String>> deeds = List.of(
                List.of("write", image.toString(), target.toString(), "--confirm", name, "--allow-real-drives"),
                List.of("drive", "clear", target.toString(), "--confirm", name, "--allow-real-drives"),
                List.of("drive", "prove", target.toString(), "--confirm", name, "--allow-real-drives"),
                List.of("drive", "grow", target.toString(), "--confirm", name, "--allow-real-drives"),
                List.of("firststart", "apply", intents.toString(), target.toString(), "--allow-real-drives"));
        for (List<String> deed : deeds) {
            refused(target, deed.toArray(String[]::new));
        }
    }

    private void refused(Path target, String... words) throws IOException {
        long before = sum(target);
        Terminal.Ran ran = terminal.run(words);
        String what = String.join(" ", words) + " says " + ran.err() + ran.out();
        assertThat(ran.code()).as(what).isIn(REFUSED, BAD_INPUT);
        assertThat(ran.sentence()).as(what).isNotBlank().doesNotContain("inside the program");
        assertThat(sum(target)).as(what).isEqualTo(before);
        attempts++;
    }

    private static long sum(Path path) throws IOException {
        CRC32 sum = new CRC32();
        sum.update(Files.readAllBytes(path));
        return sum.getValue();
    }

    @Test
    void whatTheKernelUsesIsRefusedByEveryNameItHas() throws IOException {
        needsRoot();
        Path backing = ext4("backing");
        String loop = loop(backing);
        mounted(loop, "place");
        refusedByAll(Path.of(loop));
        // A link that a description beside it calls a virtual drive.
        Path link = Files.createSymbolicLink(folder.resolve("card.img"), Path.of(loop));
        Files.writeString(
                folder.resolve("card.img.drive.yaml"),
                "model: card\nbus: sd\nserial: ''\nbytes: 16777216\nfaults: []\n");
        refusedByAll(link);
        refused(link, "write", image.toString(), link.toString(), "--confirm", "card.img");
        refusedByAll(Path.of(loop(backing)));
        refusedByAll(backing);
        refusedByAll(Path.of(loop(Path.of(loop))));
        Path hard = Files.createLink(folder.resolve("hard"), backing);
        refusedByAll(hard);
        assertThat(attempts).isGreaterThanOrEqualTo(30);
    }

    @Test
    void aMountInAnotherNamespaceAndOneThatWasLetGoLazilyAreRefused() throws IOException {
        needsRoot();
        String other = loop(ext4("other"));
        Path place = Files.createDirectories(folder.resolve("elsewhere"));
        Path ready = folder.resolve("ready");
        Process holder = new ProcessBuilder(
                        "unshare",
                        "-m",
                        "sh",
                        "-c",
                        "mount -o ro " + other + " " + place + " && touch " + ready + " && exec sleep 600")
                .start();
        undo.push(() -> {
            holder.destroyForcibly();
            holder.onExit().join();
        });
        while (!Files.exists(ready)) {
            assertThat(holder.isAlive()).isTrue();
            LockSupport.parkNanos(LOOK_NANOS);
        }
        refusedByAll(Path.of(other));
        String lazy = loop(ext4("lazy"));
        Path used = mounted(lazy, "used");
        try (var open = Files.newDirectoryStream(used)) {
            assertThat(open.iterator()).isNotNull();
            GeneralTools.run("umount", "-l", used.toString());
            refusedByAll(Path.of(lazy));
        }
    }

    @Test
    void theJournalOfAMountedFileSystemIsRefused() throws IOException {
        needsRoot();
        String journal = loop(blank("journal", 16));
        GeneralTools.run("mke2fs", "-q", "-b", "4096", "-O", "journal_dev", journal);
        String data = loop(blank("data", 64));
        GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-b", "4096", "-J", "device=" + journal, data);
        mounted(data, "journalled");
        refusedByAll(Path.of(journal));
    }

    @Test
    void theSecondDriveOfAMountedFileSystemIsRefused() throws IOException {
        needsRoot();
        Needs.ofKernel(Files.readString(Path.of("/proc/filesystems")).contains("btrfs"), "this kernel has no btrfs");
        String first = loop(blank("first", 128));
        String second = loop(blank("second", 128));
        GeneralTools.run("mkfs.btrfs", "-q", "-f", first, second);
        mounted(first, "pool");
        refusedByAll(Path.of(second));
    }

    @Test
    void theImageItselfAndOneTargetTwiceAreRefused() throws IOException {
        needsRoot();
        String over = loop(image);
        refused(
                Path.of(over),
                "write",
                image.toString(),
                over,
                "--confirm",
                Path.of(over).getFileName().toString(),
                "--allow-real-drives");
        Path twice = blank("twice.img", 80);
        String same = loop(twice);
        refused(
                twice,
                "write",
                image.toString(),
                twice.toString(),
                "--also",
                same,
                "--confirm",
                "twice.img",
                "--confirm",
                Path.of(same).getFileName().toString(),
                "--allow-real-drives");
    }

    @Test
    void theProgramsOwnFilesAreRefusedByEveryName() throws IOException {
        Path house = folder.resolve("house");
        Path vault = Files.createDirectories(house.resolve("vault/clock"));
        Path copy = Files.write(vault.resolve("clock.img.zst"), new byte[100_000]);
        Path shelf = Files.write(house.resolve("images/marsh.img"), new byte[100_000]);
        Path journal =
                Files.write(Files.createDirectories(house.resolve("writes")).resolve("7.txt"), new byte[1000]);
        Path register = house.resolve("exordium.db");
        Path link = Files.createSymbolicLink(folder.resolve("link.img"), register);
        Path hard = Files.createLink(folder.resolve("hard.img"), register);
        for (Path own : List.of(register, link, hard, copy, shelf, journal)) {
            refusedByAll(own);
        }
        assertThat(attempts).isEqualTo(30);
        assertThat(terminal.run("log").code()).isZero();
        if (System.getProperty("user.name").equals("root")) {
            refusedByAll(Path.of(loop(register)));
            refusedByAll(Path.of(loop(copy, "-r")));
        }
        assertThat(terminal.run("writes").code()).isZero();
    }

    @Test
    void aNameIsTypedToTheLetter() throws IOException {
        Path drive = blank("card.img", 8);
        for (String typed : List.of(" card.img", "card.img ", "CARD.IMG", "card", "")) {
            refused(drive, "drive", "clear", drive.toString(), "--confirm", typed);
            refused(drive, "write", image.toString(), drive.toString(), "--confirm", typed);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.cli.common.ExitCode;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A user without rights at a drive only root may open: a loop device of this test's own, and a system bus, a policy and accounts of
 * its own in a mount namespace (unshare(1)). Held against udisks2 and pkexec of Debian; bytes are compared by root, from behind.
 */
class WithoutRootTest {
    /** Readable by everybody, as an installed program is; the user's own things lie below it. */
    @TempDir
    static Path shared;

    @TempDir
    Path folder;

    private static Path script;
    private static String classes;
    private Path card;
    private Path image;
    private String loop;

    private record Ran(int code, String out, String err) {}

    @BeforeAll
    static void installed() throws IOException {
        boolean root = GeneralTools.exitOf("losetup", "-f") == 0 && GeneralTools.exitOf("unshare", "-m", "true") == 0;
        // Outside CI this may be missing; where CI runs, the suite installs it.
        Needs.here(root && Files.exists(Path.of("/usr/bin/pkexec")), "no loop devices, namespaces or pkexec here");
        open(shared);
        List<String> path = new ArrayList<>();
        for (String entry : System.getProperty("java.class.path").split(File.pathSeparator)) {
            Path from = Path.of(entry);
            if (Files.exists(from) && !entry.contains("test-classes")) {
                Path to = shared.resolve(path.size() + "-" + from.getFileName());
                GeneralTools.run("cp", "-r", from.toString(), to.toString());
                path.add(to.toString());
            }
        }
        classes = String.join(File.pathSeparator, path);
        script = shared.resolve("private-bus.sh");
        Files.copy(Path.of("src/test/resources/private-bus.sh"), script);
        Path helper = shared.resolve("exordium-drive");
        Files.writeString(
                helper,
                "#!/bin/sh\nexec " + java() + " " + QUICK + " -cp '" + classes
                        + "' exordium.core.block.linux.DriveHelper \"$@\"\n");
        GeneralTools.run("chmod", "-R", "a+rX,u+x", shared.toString());
        Files.setPosixFilePermissions(helper, PosixFilePermissions.fromString("rwxr-xr-x"));
        // The action as the package brings it, at the place this helper has.
        String policy = Files.readString(Path.of("../packaging/org.exordium.policy"));
        assertThat(policy).contains("/usr/lib/exordium/bin/exordium-drive");
        Files.writeString(
                shared.resolve("org.exordium.policy"),
                policy.replace("/usr/lib/exordium/bin/exordium-drive", helper.toString()));
    }

    private static void open(Path folder) throws IOException {
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxr-xr-x"));
    }

    private static final String QUICK = "-XX:TieredStopAtLevel=1 -XX:+UseSerialGC";

    private static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    @BeforeEach
    void card() throws IOException {
        open(folder);
        card = folder.resolve("card");
        DiskBuilder.blank(card, 96L << 20);
        image = new DiskBuilder(folder).sizes(40, 20).build("marsh.img");
        open(Files.createDirectory(folder.resolve("home")));
        GeneralTools.run("chown", "7777:7777", folder.resolve("home").toString());
        loop = GeneralTools.run("losetup", "-f", "--show", card.toString()).strip();
        assertThat(GeneralTools.run("stat", "-c", "%U", loop).strip()).isEqualTo("root");
    }

    @AfterEach
    void letGo() {
        if (loop != null) {
            GeneralTools.exitOf("losetup", "-d", loop);
        }
    }

    private String name() {
        return loop.substring("/dev/".length());
    }

    /** Several commands, one after the other. Where way: udisks, pkexec or neither; leave: what the policy answers. */
    @SafeVarargs
    private Ran visitor(String way, boolean leave, List<String>... commands) throws IOException {
        String numbers = Files.readString(Path.of("/sys/block", name(), "dev")).strip();
        Path helper = way.equals("pkexec") ? shared.resolve("exordium-drive") : Path.of("/nowhere/exordium-drive");
        List<String> all = new ArrayList<>();
        for (List<String> words : commands) {
            all.add(String.join(
                    " ",
                    java(),
                    QUICK,
                    "-Dexordium.helper=" + helper,
                    "-cp '" + classes + "' exordium.cli.Main",
                    String.join(" ", words),
                    "--workspace " + folder.resolve("home/boards")));
        }
        Path out = folder.resolve("out");
        Path err = folder.resolve("err");
        Process process = new ProcessBuilder(
                        "bash",
                        script.toString(),
                        shared.toString(),
                        way,
                        leave ? "yes" : "no",
                        numbers,
                        "sh",
                        "-c",
                        String.join(" && ", all))
                .redirectOutput(out.toFile())
                .redirectError(err.toFile())
                .start();
        try {
            assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return new Ran(process.exitValue(), Files.readString(out), Files.readString(err));
    }

    private List<String> writing() {
        return List.of("write", image.toString(), loop, "--confirm", name(), "--allow-real-drives");
    }

    private Ran write(String way, boolean leave) throws IOException {
        return visitor(way, leave, writing());
    }

    /** From behind the loop device, so that nothing of what the program says is taken for it. */
    private boolean holdsTheImage() {
        return GeneralTools.exitOf(
                        "cmp", "-n", String.valueOf(image.toFile().length()), image.toString(), card.toString())
                == 0;
    }

    private void untouched() {
        assertThat(GeneralTools.exitOf(
                        "cmp", "-n", String.valueOf(card.toFile().length()), card.toString(), "/dev/zero"))
                .isZero();
    }

    private void carriedOut(String way) throws IOException {
        Path away = folder.resolve("home/away.img");
        Ran ran = visitor(
                way,
                true,
                writing(),
                List.of("inspect", loop, "--json"),
                List.of("medium", "take", name(), "--name", "Marsh", "--allow-real-drives"),
                List.of("medium", "read", "marsh", "--json"),
                List.of("write", loop, away.toString(), "--confirm", "away.img"));
        assertThat(ran.code()).as(ran.err()).isZero();
        assertThat(ran.out()).contains("verified").contains("\"table\" : \"mbr\"");
        assertThat(holdsTheImage()).isTrue();
        // From one drive to a file by the same way; the logbook and the workspace are the user's.
        assertThat(GeneralTools.exitOf("cmp", card.toString(), away.toString())).isZero();
        assertThat(GeneralTools.run("find", folder.resolve("home").toString(), "!", "-user", "7777"))
                .isEmpty();
    }

    @Test
    void theDiskServiceHandsTheDriveOver() throws IOException {
        carriedOut("udisks");
    }

    @Test
    void whereThereIsNoneTheHelperOpensItForOneDeed() throws IOException {
        carriedOut("pkexec");
    }

    @Test
    void withoutLeaveOrAnybodyToAskNothingIsTouchedAndOneSentenceSaysWhatToDo() throws IOException {
        for (String way : List.of("udisks", "pkexec", "neither")) {
            Ran ran = write(way, false);
            assertThat(ran.code()).as(way + ran.err()).isEqualTo(ExitCode.REFUSED);
            assertThat(ran.err()).doesNotContain("Exception");
            assertThat(ran.err())
                    .contains(way.equals("neither") ? "install the system's package udisks2" : "was not opened")
                    .contains(loop);
            untouched();
        }
    }

    /** Opened exclusively by another process, as by a mount in a namespace of its own (open(2), O_EXCL). */
    @Test
    void aDriveInUseIsRefusedByTheKernelWhoeverAsks() throws Exception {
        Path ready = folder.resolve("ready");
        Process other = new ProcessBuilder(
                        "python3",
                        "-c",
                        "import os,sys; f=os.open(sys.argv[1],os.O_RDWR|os.O_EXCL); open(sys.argv[2],'w'); sys.stdin.read()",
                        loop,
                        ready.toString())
                .start();
        try {
            while (Files.notExists(ready) && other.isAlive()) {
                TimeUnit.MILLISECONDS.sleep(20);
            }
            for (String way : List.of("udisks", "pkexec")) {
                Ran ran = write(way, true);
                assertThat(ran.code()).as(way + ran.err()).isEqualTo(ExitCode.REFUSED);
                assertThat(ran.err()).contains("in use");
                untouched();
            }
        } finally {
            other.getOutputStream().close();
            other.waitFor(1, TimeUnit.MINUTES);
        }
    }
}

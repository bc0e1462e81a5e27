// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.linux.LinuxDrives;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** Whole disks to set up first starts on, looked at from behind with mtools, debugfs, fsck.fat and e2fsck. */
abstract class WholeDisks {
    static final String KEY = "ssh-ed25519 AAAAC3NzaC1lZDI1NTE5AAAAIK0wmN/Cr3JXqmLW7u+g9pTh+wyqDHpSQEIQczXkVx9q keeper";
    static final long FAT = 4 * DiskBuilder.MIB;
    static final long ROOT = 44 * DiskBuilder.MIB;

    @TempDir
    Path folder;

    Workbench bench;
    FirstStartJob job;

    @BeforeEach
    void open() throws IOException {
        bench = Opening.at(folder.resolve("house"), Clock.systemUTC(), ZoneOffset.UTC);
        job = new FirstStartJob(bench);
    }

    @AfterEach
    void close() {
        bench.close();
    }

    Path disk(String name) throws IOException {
        return new DiskBuilder(folder)
                .root("etc/hostname", "marsh\n")
                .root("etc/hosts", "127.0.0.1\tlocalhost\n")
                .root("etc/machine-id", "0123456789abcdef0123456789abcdef\n")
                .root("etc/ssh/sshd_config", "Include /etc/ssh/sshd_config.d/*.conf\n")
                .root("etc/ssh/ssh_host_ed25519_key", "secret of the image\n")
                .root("etc/ssh/ssh_host_ed25519_key.pub", KEY + "\n")
                .root("etc/default/keyboard", "XKBLAYOUT=\"gb\"\n")
                .root("etc/NetworkManager/NetworkManager.conf", "[main]\n")
                .root("usr/sbin/sshd", "x")
                .root("usr/lib/systemd/systemd-growfs", "x")
                .start("A long name nobody touches.txt", "kept\n")
                .build(name);
    }

    Targets targets() {
        return new Targets(new ProfileReader(), new LinuxDrives(), bench.folder(), false);
    }

    FirstStartJob.Order order(Path disk, Map<String, ?> wanted) throws IOException {
        return new FirstStartJob.Order(
                targets().at(disk, ByteSize.ZERO),
                bench.profiles().require("plover-4"),
                IntentsReader.of(wanted),
                Optional.empty());
    }

    static Map<String, Object> everything() {
        return Map.of(
                "remoteLogin",
                true,
                "account",
                Map.of("name", "keeper", "keys", List.of(KEY)),
                "hostName",
                "tide-clock",
                "timeZone",
                "Europe/Lisbon",
                "keyboard",
                "de",
                "network",
                Map.of("kind", "wifi", "wifi", Map.of("name", "IEEE", "country", "PT", "passPhrase", "password")),
                "display",
                Map.of("borders", false),
                "logsInMemory",
                true,
                "ownIdentity",
                true);
    }

    String start(Path disk, String file) {
        return GeneralTools.run("mtype", "-i", disk + "@@" + FAT, "::" + file);
    }

    String root(Path disk, String request) {
        return GeneralTools.run("debugfs", "-R", request, disk + "?offset=" + ROOT);
    }

    void sound(Path disk) throws IOException {
        Path fat = folder.resolve("fat.part");
        Path ext = folder.resolve("ext.part");
        GeneralTools.run("dd", "if=" + disk, "of=" + fat, "bs=1M", "skip=4", "count=40", "status=none");
        GeneralTools.run("dd", "if=" + disk, "of=" + ext, "bs=1M", "skip=44", "count=16", "status=none");
        assertThat(GeneralTools.exitOf("fsck.fat", "-n", fat.toString())).isZero();
        assertThat(GeneralTools.exitOf("e2fsck", "-fn", ext.toString()))
                .as(() -> GeneralTools.said("e2fsck", "-fn", ext.toString()))
                .isZero();
    }

    /** Every file of both partitions with its content, by general tools. */
    Map<String, String> everyFile(Path disk) throws IOException {
        Map<String, String> all = new java.util.TreeMap<>();
        Path out = Files.createTempDirectory(folder, "out");
        Path ext = folder.resolve("ext.part");
        GeneralTools.run(
                "mcopy",
                "-s",
                "-Q",
                "-i",
                disk + "@@" + FAT,
                "::*",
                Files.createDirectory(out.resolve("start")).toString());
        GeneralTools.run("dd", "if=" + disk, "of=" + ext, "bs=1M", "skip=44", "count=16", "status=none");
        GeneralTools.said("debugfs", "-R", "rdump / " + Files.createDirectory(out.resolve("root")), ext.toString());
        try (var files = Files.walk(out)) {
            for (Path file : files.sorted().toList()) {
                if (Files.isSymbolicLink(file)) {
                    all.put(out.relativize(file).toString(), "-> " + Files.readSymbolicLink(file));
                } else if (Files.isRegularFile(file)) {
                    all.put(
                            out.relativize(file).toString(),
                            Files.readString(file, java.nio.charset.StandardCharsets.ISO_8859_1));
                }
            }
        }
        return all;
    }
}

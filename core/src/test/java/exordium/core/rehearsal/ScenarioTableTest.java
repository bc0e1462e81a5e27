// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.Supply;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The starts of scenarios.txt over disks made with sfdisk, mkfs.vfat, mtools and mke2fs; what they come to was written down before. */
class ScenarioTableTest {
    private static final int LEAST_SCENARIOS = 160;
    private static final int LEAST_A_CAUSE = 3;
    private static final Map<String, String> KINDS =
            Map.of("card", "card-quick", "usb1", "stick", "usb2", "stick", "nvme", "ssd-nvme", "emmc", "emmc");
    private static final List<String> FAMILIES = List.of("plover-3", "plover-4", "plover-5", "curlew-e", "dunlin-u");

    @TempDir
    private Path folder;

    private final Map<String, Path> disks = new HashMap<>();
    private final Map<String, MediumContents> contents = new HashMap<>();

    @Test
    void everyStartComesToWhatWasWrittenDown() throws IOException {
        List<String> lines;
        try (InputStream in = getClass().getResourceAsStream("/exordium/scenarios.txt")) {
            lines = new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.isBlank() && !line.startsWith("#"))
                    .toList();
        }
        assertThat(lines).hasSizeGreaterThanOrEqualTo(LEAST_SCENARIOS);
        assertThat(lines.stream().filter(line -> line.startsWith("!"))).hasSize(10);
        Map<Cause, Integer> causes = new EnumMap<>(Cause.class);
        SoftAssertions all = new SoftAssertions();
        for (String line : lines) {
            String[] parts = line.split("\\|");
            Trace trace = Rehearsal.of(bench(parts[0].replaceFirst("^!", "").strip(), parts[1].strip()));
            String came = trace.outcome().code() + " " + trace.startedFrom().orElse("-") + " "
                    + trace.rootFrom().orElse("-") + " " + trace.cause().code() + " "
                    + (trace.reachable() ? "yes" : "no");
            all.assertThat(came).as(line).isEqualTo(parts[2].strip());
            causes.merge(trace.cause(), 1, Integer::sum);
        }
        all.assertAll();
        for (Cause cause : Cause.values()) {
            assertThat(causes.getOrDefault(cause, 0)).as(cause.code()).isGreaterThanOrEqualTo(LEAST_A_CAUSE);
        }
        for (String family : FAMILIES) {
            assertThat(lines.stream().filter(line -> line.contains(family)).count())
                    .as(family)
                    .isGreaterThanOrEqualTo(15);
        }
    }

    private Bench bench(String board, String setUp) throws IOException {
        String family = board.split(" ")[0];
        String order = board.split(" ")[1].replace("_", " ").replaceFirst("^-$", "");
        Map<String, String> words = new HashMap<>();
        List<Bench.Attached> attached = new ArrayList<>();
        for (String word : setUp.split(" ")) {
            words.put(word.replaceFirst("=.*", ""), word.replaceFirst("^[^=]*=?", ""));
        }
        for (Map.Entry<String, String> word : words.entrySet()) {
            if (KINDS.containsKey(word.getKey())) {
                attached.add(medium(family, word.getKey(), word.getValue(), words));
            }
        }
        Bench bench = Benches.bench(family, order, attached.toArray(Bench.Attached[]::new))
                .withNetwork(network(words));
        BoardProfile.Power power = bench.profile().power();
        if (words.containsKey("amps")) {
            bench = bench.withSupply(new Supply(power.volts(), Double.parseDouble(words.get("amps")), "adapter"));
        }
        if (words.containsKey("cfg")) {
            bench = bench.withConfig(new FirmwareConfig(bench.config().text() + "\n" + words.get("cfg")));
        }
        if (words.containsKey("fw")) {
            bench = bench.withFirmware(
                    words.get("fw").equals("none") ? FirmwareChip.NONE : LocalDate.parse(words.get("fw")));
        }
        return words.containsKey("button") ? bench.withButtonHeld() : bench;
    }

    private Bench.Attached medium(String family, String port, String value, Map<String, String> words)
            throws IOException {
        String disk = value.replaceFirst(":.*", "");
        String kind = value.contains(":") ? value.replaceFirst(".*:", "") : KINDS.get(port);
        Optional<Enclosure> box = Optional.ofNullable(words.get("carrier"))
                .filter(each -> each.startsWith(port + ":"))
                .map(each -> MediaCatalogue.shipped().enclosures().stream()
                        .filter(one -> one.id().equals(each.replaceFirst(".*:", "")))
                        .findFirst()
                        .orElseThrow());
        String key = family + " " + disk;
        if (!contents.containsKey(key)) {
            try (FileDevice device = FileDevice.forReading(disk(disk))) {
                contents.put(
                        key, ContentsReader.read(device, Benches.profile(family).startFiles()));
            }
        }
        return new Bench.Attached(
                port,
                disk + " on " + port,
                Benches.kind(kind),
                port.equals(words.get("silent")),
                !port.equals(words.get("loose")),
                contents.get(key),
                box);
    }

    private Path disk(String kind) throws IOException {
        if (!disks.containsKey(kind)) {
            disks.put(kind, made(kind));
        }
        return disks.get(kind);
    }

    /** One disk for boards of all five families: each finds its own start files on it. */
    private Path made(String kind) throws IOException {
        Path file = folder.resolve(kind + ".img");
        if (kind.equals("bare")) {
            DiskBuilder.blank(file, 8 * DiskBuilder.MIB);
            return file;
        }
        if (kind.equals("rootonly")) {
            DiskBuilder.blank(file, 20 * DiskBuilder.MIB);
            GeneralTools.feed("label: dos\nstart=2048, type=83\n", "sfdisk", "-q", file.toString());
            GeneralTools.run("mke2fs", "-q", "-t", "ext4", "-E", "offset=1048576", file.toString(), "18m");
            return file;
        }
        String id = kind.equals("twin") || kind.equals("good") ? "5eed0001" : String.format("%08x", kind.hashCode());
        DiskBuilder disk = new DiskBuilder(folder)
                .id(id)
                .start("ssh", "")
                .start("kernel-32.img", "kernel")
                .start("plover-3-b.dtb", "tree")
                .start("curlew-e-b.dtb", "tree")
                .start("EFI/BOOT/BOOTAA64.EFI", "program")
                .root("sbin/init", "\u007fELF\u0001")
                .root("etc/passwd", "keeper:x:1000:1000::/home/keeper:/bin/sh\n")
                .root("etc/shadow", "keeper:$6$salt$" + "a".repeat(86) + ":20000:0:99999:7:::\n");
        String root = "root=PARTUUID=" + id + "-02";
        String line = "console=tty1 " + root + " rootwait";
        switch (kind) {
            case "mute" -> disk.without("ssh");
            case "noaccount" -> disk.without("etc/passwd").without("etc/shadow");
            case "wide" -> disk.root("sbin/init", "\u007fELF\u0002");
            case "doubled" -> disk.start("config.txt", "arm_64bit=0\narm_64bit=1\nno_such_key=1\n");
            case "recovery" -> disk.start("recovery.bin", "program").start("chip.upd", "payload");
            case "nofiles" -> disk.without("start.elf").without("config.txt").without("EFI/BOOT/BOOTAA64.EFI");
            case "nokernel" -> disk.without("kernel-64.img").without("kernel-32.img");
            case "notree" ->
                disk.without("plover-3-b.dtb")
                        .without("plover-4-b.dtb")
                        .without("plover-5-b.dtb")
                        .without("curlew-e-b.dtb");
            case "other", "treeofother" -> {
                boolean both = kind.equals("other");
                for (String each : List.of("plover-3-b.dtb", "plover-4-b.dtb", "plover-5-b.dtb", "curlew-e-b.dtb")) {
                    disk.without(each);
                }
                disk.start("another-board.dtb", "tree");
                if (both) {
                    disk.without("kernel-64.img").without("kernel-32.img").start("kernel-other.img", "kernel");
                }
            }
            case "utf16" -> disk.start("config.txt", "\u00ff\u00fea\0r\0m\0=\0001\0");
            case "zeroed" -> disk.start("config.txt", "\0\0\0\0\0\0\0\0");
            case "noline" -> line = "";
            case "cut" -> line = "console=tty1\n" + root + " rootwait";
            case "cutlate" -> line = root + "\nrootwait quiet";
            case "nfsroot" -> line = "root=/dev/nfs ip=dhcp";
            case "nfsnoip" -> line = "root=/dev/nfs nfsroot=10.0.0.1:/srv/one";
            case "netline" -> line = "root=/dev/nfs nfsroot=10.0.0.1:/srv/one ip=dhcp";
            case "moved", "movedgood" -> line = "root=/dev/mmcblk0p2 rootwait";
            case "gone" -> line = "root=PARTUUID=00000bad-02 rootwait";
            case "panics" -> line = "root=PARTUUID=00000bad-02 panic=10";
            case "byuuid" -> line = "root=UUID=0a0b0c0d-1111-2222-3333-444455556666";
            case "bydisk" -> line = "root=/dev/disk/by-partuuid/" + id + "-02";
            case "carriage" -> line = "console=tty1 " + root + "\r";
            case "capitals" -> line = "root=PARTUUID=" + id.toUpperCase(java.util.Locale.ROOT) + "-02";
            case "twice" -> line = "root=PARTUUID=00000bad-02 " + root;
            case "noinit" -> disk.without("sbin/init");
            case "fstabgone" -> disk.root("etc/fstab", "PARTUUID=00000bad-01 /data ext4 defaults 0 2\n");
            case "fstabsoft" -> disk.root("etc/fstab", "PARTUUID=00000bad-01 /data ext4 defaults,nofail 0 2\n");
            default -> {
                if (!List.of("good", "twin", "noroot").contains(kind)) {
                    throw new AssertionError("no such disk: " + kind);
                }
            }
        }
        menus(disk, kind, line);
        Path made = disk.build(kind + ".img");
        if (kind.equals("noroot")) {
            try (RandomAccessFile bytes = new RandomAccessFile(made.toFile(), "rw")) {
                bytes.seek(44 * DiskBuilder.MIB + 1024);
                bytes.write(new byte[1024]);
            }
        }
        return made;
    }

    /** The same line in each family's own file. */
    private static void menus(DiskBuilder disk, String kind, String line) {
        String kernel = kind.equals("other") ? "kernel-other.img" : "kernel-32.img";
        String flat = line.replace("\n", " ");
        disk.start("cmdline.txt", line + (line.isEmpty() ? "" : "\n"));
        if (!kind.equals("nofiles")) {
            disk.start(
                    "extlinux/extlinux.conf",
                    "label a\n  kernel /" + kernel + "\n" + (flat.isEmpty() ? "" : "  append " + flat + "\n"));
            disk.start(
                    "loader/entries/dunlin.conf",
                    "title a\nlinux /kernel-64.img\n" + (flat.isEmpty() ? "" : "options " + flat + "\n"));
        }
    }

    private Bench.Network network(Map<String, String> words) throws IOException {
        String net = words.getOrDefault("net", "usual");
        Optional<Path> tftp = words.containsKey("tftp") ? Optional.of(tftp(words.get("tftp"))) : Optional.empty();
        List<Bench.Export> exports = words.containsKey("export")
                ? List.of(new Bench.Export("/srv/one", Optional.of(root(words.get("export")))))
                : List.of();
        return new Bench.Network(
                !net.equals("none"),
                !net.equals("none") && !net.equals("nolease"),
                net.equals("internet"),
                tftp,
                exports);
    }

    private Path tftp(String kind) throws IOException {
        Path top = Files.createDirectories(folder.resolve("tftp-" + kind));
        Path own = Files.createDirectories(
                kind.equals("top") || kind.equals("nodirectory") ? top : top.resolve("c4a81d07"));
        if (kind.equals("good") || kind.equals("top")) {
            for (String name :
                    List.of("start.elf", "config.txt", "kernel-64.img", "plover-4-b.dtb", "plover-5-b.dtb", "ssh")) {
                Files.writeString(own.resolve(name), "x=1\n");
            }
            Files.writeString(own.resolve("cmdline.txt"), "root=/dev/nfs nfsroot=10.0.0.1:/srv/one,vers=3 ip=dhcp\n");
        }
        return top;
    }

    private Path root(String kind) throws IOException {
        Path root = Files.createDirectories(folder.resolve("root-" + kind));
        if (kind.equals("good")) {
            Files.createDirectories(root.resolve("sbin"));
            Files.write(root.resolve("sbin/init"), new byte[] {0x7f, 'E', 'L', 'F', 2});
            Files.createDirectories(root.resolve("etc"));
            Files.writeString(root.resolve("etc/passwd"), "keeper:x:1000:1000::/home/keeper:/bin/sh\n");
            Files.writeString(root.resolve("etc/shadow"), "keeper:$6$salt$" + "a".repeat(86) + ":20000:0:99999:7:::\n");
        }
        return root;
    }
}

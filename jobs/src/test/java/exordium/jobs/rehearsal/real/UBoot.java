// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.MediumContents;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.CRC32;

/** U-Boot under qemu: which targets it tries in which order, which entry of which menu it takes, and the line it hands over. */
public final class UBoot implements RealPeer {
    static final Path FIRMWARE = Path.of("/usr/lib/u-boot/qemu_arm64/u-boot.bin");
    /** Of this build (U-Boot documentation, environment: a checksum in front, then name=value, each ended by a zero). */
    private static final int ENVIRONMENT = 0x40000;

    private static final long FLASH = 64L << 20;
    private static final long SECONDS = 240;
    private static final Pattern TRIED = Pattern.compile("^TRY (\\w+)", Pattern.MULTILINE);
    private static final Pattern STARTED = Pattern.compile("PAYLOAD (?!bootargs|model|end|no-fdt|linux)(\\S+)");
    private static final Pattern LINE = Pattern.compile("PAYLOAD bootargs=(.*)");
    private static final Pattern RELEASE = Pattern.compile("U-Boot \\d{4}\\.\\d{2}");
    private static final Pattern OVER = Pattern.compile("PAYLOAD end|TRY none");

    @Override
    public String title() {
        return "U-Boot";
    }

    @Override
    public Optional<String> silent(RealBench real) {
        BoardProfile profile = real.bench().profile();
        if (!profile.order().form().list()
                || profile.startFiles().kernelLineForm() != BoardProfile.KernelLineForm.APPEND) {
            return Optional.of("The firmware of a " + profile.id() + " is none that U-Boot stands for.");
        }
        return Files.isReadable(FIRMWARE) && Files.isExecutable(EmulatedBoard.PROGRAM)
                ? Optional.empty()
                : Optional.of("U-Boot is not installed here: sudo apt-get install qemu-system-arm u-boot-qemu");
    }

    @Override
    public Compared compare(RealBench real) throws IOException {
        Bench bench = real.bench();
        EmulatedBoard machine = new EmulatedBoard("usb-ehci").with("-bios", FIRMWARE.toString());
        Map<String, String> targets = new LinkedHashMap<>();
        Map<String, Integer> count = new LinkedHashMap<>();
        for (Bench.Attached medium : real.seen()) {
            StartSource source =
                    bench.profile().port(medium.port()).orElseThrow().source();
            String kind = source == StartSource.CARD ? "virtio" : source == StartSource.USB ? "usb" : "nvme";
            Path copy = real.folder().resolve("uboot-" + medium.port() + ".img");
            try (BlockDevice drive = real.drives().get(medium.port()).open()) {
                DriveCopy.make(drive, medium.contents(), stands(medium), copy);
            }
            machine.drive(source, copy);
            targets.put(medium.port(), kind + (count.merge(kind, 1, Integer::sum) - 1));
        }
        List<String> order = new ArrayList<>();
        for (StartSource source :
                OrderDialect.of(bench.profile()).decode(bench.order()).sources()) {
            bench.mediaOn(source).forEach(medium -> order.add(targets.getOrDefault(medium.port(), "")));
        }
        order.removeIf(String::isEmpty);
        Path flash = real.folder().resolve("uboot-environment.img");
        Files.write(flash, environment(order));
        String log = Console.of(
                machine.flash(1, flash, false).command(), real.folder().resolve("uboot.log"), OVER, SECONDS);
        return compared(real, targets, log);
    }

    private static Compared compared(RealBench real, Map<String, String> targets, String log) {
        Map<String, String> ports = new LinkedHashMap<>();
        targets.forEach((port, target) -> ports.put(target, port));
        List<String> tried = TRIED.matcher(log)
                .results()
                .map(found -> found.group(1))
                .filter(ports::containsKey)
                .map(ports::get)
                .toList();
        Optional<String> started = first(STARTED, log);
        List<Compared.Point> points = new ArrayList<>();
        points.add(new Compared.Point("tried", String.join(", ", real.tried()), String.join(", ", tried)));
        points.add(new Compared.Point(
                "started from",
                real.trace().startedFrom().filter(targets::containsKey).orElse("nothing"),
                started.orElse("nothing")));
        real.trace()
                .startedFrom()
                .filter(targets::containsKey)
                .flatMap(port -> line(real, port))
                .ifPresent(line -> points.add(new Compared.Point(
                        "kernel line", line, first(LINE, log).orElse("none").strip())));
        return new Compared(
                RELEASE.matcher(log)
                        .results()
                        .map(found -> found.group())
                        .findFirst()
                        .orElse("U-Boot"),
                points,
                List.of(
                        "Its network targets were left out, and cards were put on virtio: this build has no card driver."),
                log);
    }

    private static Optional<String> first(Pattern pattern, String log) {
        Matcher found = pattern.matcher(log);
        return found.find() ? Optional.of(found.group(1)) : Optional.empty();
    }

    private static Optional<String> line(RealBench real, String port) {
        return real.bench().attached().stream()
                .filter(each -> each.port().equals(port))
                .flatMap(each -> each.contents().start().stream())
                .flatMap(start -> start.kernelLine().stream())
                .flatMap(content -> KernelLine.in(
                        new String(content, StandardCharsets.UTF_8),
                        real.bench().profile().startFiles().kernelLineForm())
                        .stream())
                .map(line -> line.text().strip())
                .findFirst();
    }

    /** The files of its menu that are there, replaced by ones that can be started here. */
    private static Map<String, byte[]> stands(Bench.Attached medium) throws IOException {
        Map<String, byte[]> stands = new LinkedHashMap<>();
        Optional<MediumContents.StartPartition> start = medium.contents().start();
        if (start.isEmpty() || start.get().kernelLine().isEmpty()) {
            return stands;
        }
        StartMenu menu = StartMenu.parse(
                new String(start.get().kernelLine().get(), StandardCharsets.UTF_8), BoardProfile.KernelLineForm.APPEND);
        for (StartMenu.Entry entry : menu.entries()) {
            if (entry.kernel().filter(start.get()::hasFile).isPresent()) {
                stands.put(plain(entry.kernel().get()), StandInFiles.kernel(medium.port()));
            }
            if (entry.tree().filter(start.get()::hasFile).isPresent()) {
                stands.put(plain(entry.tree().get()), StandInFiles.tree());
            }
        }
        return stands;
    }

    private static String plain(String path) {
        return path.replaceFirst("^/+", "");
    }

    /** Everything as this build has it, but what is tried, in the board's order; then it ends. */
    static byte[] environment(List<String> targets) {
        // This build has no place of its own for a menu's device tree, as boards have; without one it would not look at
        // it.
        String commands = "env default -f -a; setenv fdt_addr_r 0x43f00000; pci enum; for t in "
                + String.join(" ", targets) + "; do echo TRY ${t}; run bootcmd_${t}; done; echo TRY none; poweroff";
        return environment(commands);
    }

    static byte[] environment(String commands) {
        byte[] text = ("bootdelay=-2\0bootcmd=" + commands + "\0\0").getBytes(StandardCharsets.US_ASCII);
        ByteBuffer flash = ByteBuffer.allocate((int) FLASH).order(ByteOrder.LITTLE_ENDIAN);
        flash.position(4);
        flash.put(text);
        CRC32 sum = new CRC32();
        sum.update(flash.array(), 4, ENVIRONMENT - 4);
        flash.putInt(0, (int) sum.getValue());
        return flash.array();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import exordium.core.block.BlockDevice;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.inspection.PartitionContent;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.SeenDrive;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A Linux kernel as a process (User Mode Linux): whether it finds the root its line names, and on which drive. */
public final class LinuxKernel implements RealPeer {
    private static final Path PROGRAM = Path.of("/usr/bin/linux.uml");
    private static final long SECONDS = 240;
    private static final long LARGEST_KEPT = 32L << 30;
    private static final int NUMBERS_A_DRIVE = 16;
    private static final Pattern MOUNTED =
            Pattern.compile("VFS: Mounted root \\(\\w+ filesystem\\).* on device 98:(\\d+)");
    private static final Pattern RELEASE = Pattern.compile("Linux version (\\S+)");
    /** A panic ends it after a second; what comes then says nothing more. */
    private static final Pattern OVER = Pattern.compile("end Kernel panic|Kernel panic - not syncing");

    @Override
    public String title() {
        return "Linux kernel";
    }

    @Override
    public Optional<String> silent(RealBench real) {
        Optional<KernelLine> line = line(real);
        if (line.isEmpty()
                || line.get()
                        .value("root")
                        .filter(root -> !root.equals("/dev/nfs"))
                        .isEmpty()) {
            return Optional.of("It never comes to a kernel that looks for a root on a drive.");
        }
        return Files.isExecutable(PROGRAM)
                ? Optional.empty()
                : Optional.of(
                        "No kernel that runs as a process is installed here: sudo apt-get install user-mode-linux");
    }

    @Override
    public Compared compare(RealBench real) throws IOException {
        List<SeenDrive> drives = SeenDrive.of(real.bench()).stream()
                .filter(drive -> real.drives().containsKey(drive.medium().port()))
                .toList();
        List<String> command = new ArrayList<>(List.of(
                PROGRAM.toString(), "mem=128M", "con=null", "con0=fd:0,fd:1", "uml_dir=" + real.folder(), "panic=1"));
        for (int i = 0; i < drives.size(); i++) {
            Path disk = raw(real, drives.get(i).medium().port());
            // What this kernel keeps of changes to a drive grows with it; a large one is only read.
            command.add(
                    Files.size(disk) > LARGEST_KEPT
                            ? "ubd" + i + "r=" + disk
                            : "ubd" + i + "=" + real.folder().resolve("cow" + i) + "," + disk);
        }
        for (String word : line(real).orElseThrow().words()) {
            // It would wait for ever for a root that never comes, and speak where nobody listens.
            if (!word.equals("rootwait")
                    && !word.equals("rw")
                    && !word.startsWith("rootdelay=")
                    && !word.startsWith("console=")) {
                command.add(word.startsWith("root=/dev/") ? "root=" + here(word.substring(5), drives) : word);
            }
        }
        String log = Console.of(command, real.folder().resolve("kernel.log"), OVER, SECONDS);
        return new Compared(
                "Linux "
                        + RELEASE.matcher(log)
                                .results()
                                .map(found -> found.group(1))
                                .findFirst()
                                .orElse("kernel"),
                List.of(new Compared.Point("root", told(real), found(log, drives))),
                List.of(
                        "Its programs are for another processor, so it ends once the root is mounted; an initramfs is not loaded."),
                log);
    }

    private static Optional<KernelLine> line(RealBench real) {
        Bench bench = real.bench();
        return real.trace().startedFrom().flatMap(port -> bench.attached().stream()
                .filter(each -> each.port().equals(port))
                .findFirst()
                .flatMap(each -> each.contents().start())
                .flatMap(start -> start.kernelLine())
                .flatMap(content -> KernelLine.in(
                        new String(content, StandardCharsets.UTF_8),
                        bench.profile().startFiles().kernelLineForm())));
    }

    private static Path raw(RealBench real, String port) throws IOException {
        RealBench.Drive drive = real.drives().get(port);
        if (drive.raw().isPresent()) {
            return drive.raw().get();
        }
        Path copy = real.folder().resolve("whole-" + port + ".img");
        try (BlockDevice device = drive.open()) {
            DriveCopy.whole(device, copy);
        }
        return copy;
    }

    /** This kernel calls its drives ubda, ubdb and on. */
    private static String here(String name, List<SeenDrive> drives) {
        for (int i = 0; i < drives.size(); i++) {
            SeenDrive drive = drives.get(i);
            for (PartitionContent content :
                    drive.medium().contents().inspection().partitions()) {
                int number = content.partition().number();
                if (drive.partition(number).equals(name)) {
                    return "/dev/ubd" + (char) ('a' + i) + (number == 0 ? "" : number);
                }
            }
        }
        return "/dev/ubdp9";
    }

    private static String told(RealBench real) {
        Optional<String> root = real.trace().rootFrom();
        if (root.isPresent()) {
            return "mounted from " + root.get();
        }
        if (real.trace().cause() != Cause.ROOT_UNREADABLE) {
            return real.trace().cause() == Cause.ROOT_NOT_FOUND ? "not found" : "none";
        }
        // A root whose programs cannot run is mounted all the same.
        return real.trace().steps().stream()
                .filter(step -> step.stage() == Trace.Stage.ROOT)
                .flatMap(step -> step.port().stream())
                .filter(port -> real.bench().attached().stream()
                        .anyMatch(each -> each.port().equals(port)
                                && !each.contents().roots().isEmpty()))
                .findFirst()
                .map(port -> "mounted from " + port)
                .orElse("not readable");
    }

    private static String found(String log, List<SeenDrive> drives) {
        Matcher mounted = MOUNTED.matcher(log);
        if (mounted.find()) {
            int drive = Integer.parseInt(mounted.group(1)) / NUMBERS_A_DRIVE;
            return "mounted from "
                    + (drive < drives.size() ? drives.get(drive).medium().port() : "?");
        }
        if (log.contains("Can't open \"")) {
            return "a drive this kernel could not open";
        }
        return log.contains("Cannot open root device")
                ? "not found"
                : log.contains("Unable to mount root fs") ? "not readable" : "none";
    }
}

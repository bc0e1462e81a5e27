// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.LinuxDrives;
import exordium.core.block.MachineDrive;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.layout.Growth;
import exordium.core.layout.Partition;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The system's own tools around drives of the machine: unmount, read the table again, eject, grow a file system. */
public final class MachineTools {
    private static final long SECONDS = 60;
    private static final long FOR_EVER = Long.MAX_VALUE;
    /** e2fsck(8): nothing wrong, or something was and is repaired. */
    private static final int CHECKED = 0;

    private static final int REPAIRED = 1;

    private MachineTools() {}

    /** Has the kernel look at a new table. Only drives of the machine have one it keeps in mind. */
    public static void rereadTable(Targets.Target target) {
        if (ofMachine(target)) {
            run("blockdev", "--rereadpt", target.description().path().toString());
            // A kernel that reads no tables of its own is told what stands there.
            run("partx", "-u", target.description().path().toString());
            run("udevadm", "settle", "--timeout=5");
        }
    }

    /**
     * Grows an ext file system with the system's own tool, where it stands on a drive of the machine and the tool is there.
     *
     * @return what was done with the file system, as the rest of a sentence; empty where it is left to the first start
     */
    public static String growFileSystem(Targets.Target target, Growth growth) {
        if (!ofMachine(target) || !growth.changes()) {
            return "";
        }
        Path node = partitionNode(
                target.description().path(),
                growth.partition().map(Partition::number).orElse(0));
        if (!Files.exists(node)) {
            return "";
        }
        Ended checked = ended(FOR_EVER, "e2fsck", "-f", "-p", node.toString());
        if (!checked.isThere()) {
            return "";
        }
        if (checked.exit() != CHECKED && checked.exit() != REPAIRED) {
            return " Its file system was not grown: e2fsck says that it needs a check by hand first.";
        }
        Ended resized = ended(FOR_EVER, "resize2fs", node.toString());
        if (!resized.isThere()) {
            return "";
        }
        if (resized.exit() != 0) {
            return " Its file system was not grown: resize2fs ended with " + resized.exit() + ".";
        }
        return resized.output().contains("Nothing to do")
                ? " Its file system was as large already."
                : " Its file system was grown as well, by the system's own resize2fs.";
    }

    /** {@code sdb} has {@code sdb2}, {@code mmcblk0} has {@code mmcblk0p2} (Linux kernel, device naming). */
    public static Path partitionNode(Path drive, int number) {
        String name = String.valueOf(drive.getFileName());
        boolean digit = Character.isDigit(name.charAt(name.length() - 1));
        return drive.resolveSibling(name + (digit ? "p" : "") + number);
    }

    /**
     * Unmounts every partition of a drive that may be unmounted.
     *
     * @throws Refused when the drive holds the system, the workspace or swap space
     */
    public static void unmount(MachineDrive drive) throws IOException {
        Refused.ifAnyStops(drive.fixed());
        for (String node : drive.mounted()) {
            if (!run("umount", node)) {
                throw new UnreadableInput(node + " could not be unmounted: close what uses it, or do it as its owner.");
            }
        }
    }

    /** Lets a drive go, so that it can be unplugged. */
    public static String eject(MachineDrive drive, LinuxDrives machine, Path workspace) throws IOException {
        unmount(drive);
        boolean gone = run("eject", drive.node().toString())
                || run("udisksctl", "power-off", "-b", drive.node().toString());
        boolean free = machine.find(drive.node(), workspace)
                .map(now -> now.refusals().isEmpty())
                .orElse(true);
        if (!gone && !free) {
            throw new UnreadableInput(drive.id() + " is still in use and was not let go.");
        }
        return drive.id() + (gone ? " can be unplugged." : " is not mounted any more; it can be unplugged.");
    }

    /** What smartctl tells of a drive, as JSON; nothing where it is not there, or does not answer. Its exit says how the drive is. */
    public static byte[] smartReport(Path node) throws IOException {
        Path report = Files.createTempFile("drive", ".json");
        try {
            Process process = new ProcessBuilder("smartctl", "--json", "--all", node.toString())
                    .redirectErrorStream(true)
                    .redirectOutput(report.toFile())
                    .start();
            process.getOutputStream().close();
            if (!process.waitFor(SECONDS, TimeUnit.SECONDS)) {
                process.destroyForcibly();
                return new byte[0];
            }
            return Files.readAllBytes(report);
        } catch (IOException e) {
            return new byte[0];
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new byte[0];
        } finally {
            Files.deleteIfExists(report);
        }
    }

    private static boolean ofMachine(Targets.Target target) {
        return !target.simulated() && target.description().path().startsWith("/dev");
    }

    /** How a tool ended; exit is -1 where there is no such tool, or it was not waited for any more. */
    private record Ended(int exit, String output) {
        boolean isThere() {
            return exit >= 0;
        }
    }

    /** Whether the tool is there and says that it did it. */
    private static boolean run(String... command) {
        return ended(SECONDS, command).exit() == 0;
    }

    /**
     * Runs a tool. One that changes a file system is waited for however long it takes: killed half-way it would leave a damaged
     * one, and a slow card takes its time.
     */
    private static Ended ended(long seconds, String... command) {
        try {
            ProcessBuilder builder = new ProcessBuilder(List.of(command)).redirectErrorStream(true);
            builder.environment().put("LC_ALL", "C");
            boolean listens = seconds == FOR_EVER;
            Process process = listens
                    ? builder.start()
                    : builder.redirectOutput(ProcessBuilder.Redirect.DISCARD).start();
            process.getOutputStream().close();
            String output = listens ? new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8) : "";
            if (!process.waitFor(seconds, TimeUnit.SECONDS)) {
                process.destroyForcibly();
                return new Ended(-1, "");
            }
            return new Ended(process.exitValue(), output);
        } catch (IOException e) {
            return new Ended(-1, "");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return new Ended(-1, "");
        }
    }
}

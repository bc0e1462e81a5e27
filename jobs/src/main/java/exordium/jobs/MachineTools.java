// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.LinuxDrives;
import exordium.core.block.MachineDrive;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.layout.Growth;
import exordium.core.layout.Partition;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The system's own tools around drives of the machine: unmount, read the table again, eject, grow a file system. */
public final class MachineTools {
    private static final long SECONDS = 60;

    private MachineTools() {}

    /** Has the kernel look at a new table. Only drives of the machine have one it keeps in mind. */
    static void rereadTable(Targets.Target target) {
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
    static String growFileSystem(Targets.Target target, Growth growth) {
        if (!ofMachine(target) || !growth.changes()) {
            return "";
        }
        Path node = partitionNode(
                target.description().path(),
                growth.partition().map(Partition::number).orElse(0));
        if (!Files.exists(node) || !run("e2fsck", "-f", "-p", node.toString()) || !run("resize2fs", node.toString())) {
            return "";
        }
        return " Its file system was grown as well, by the system's own resize2fs.";
    }

    /** {@code sdb} has {@code sdb2}, {@code mmcblk0} has {@code mmcblk0p2} (Linux kernel, device naming). */
    static Path partitionNode(Path drive, int number) {
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

    private static boolean ofMachine(Targets.Target target) {
        return !target.simulated() && target.description().path().startsWith("/dev");
    }

    /** Whether the tool is there and says that it did it. */
    private static boolean run(String... command) {
        try {
            Process process = new ProcessBuilder(List.of(command))
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            process.getOutputStream().close();
            if (!process.waitFor(SECONDS, TimeUnit.SECONDS)) {
                process.destroyForcibly();
                return false;
            }
            return process.exitValue() == 0;
        } catch (IOException e) {
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
    }
}

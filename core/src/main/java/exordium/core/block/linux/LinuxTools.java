// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.MachineTools;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** By util-linux, udev, e2fsprogs, eject, udisks2 and smartmontools, each where it is there. */
final class LinuxTools implements MachineTools {
    private static final long SECONDS = 60;
    private static final long FOR_EVER = Long.MAX_VALUE;
    /** e2fsck(8): nothing wrong, or something was and is repaired. */
    private static final int CHECKED = 0;

    private static final int REPAIRED = 1;

    @Override
    public void rereadTable(Path node) {
        run("blockdev", "--rereadpt", node.toString());
        // A kernel that reads no tables of its own is told what stands there.
        run("partx", "-u", node.toString());
        run("udevadm", "settle", "--timeout=5");
    }

    @Override
    public String grow(Path partition) {
        if (!Files.exists(partition)) {
            return "";
        }
        Ended checked = ended(FOR_EVER, "e2fsck", "-f", "-p", partition.toString());
        if (!checked.isThere()) {
            return "";
        }
        if (checked.exit() != CHECKED && checked.exit() != REPAIRED) {
            return " Its file system was not grown: e2fsck says that it needs a check by hand first.";
        }
        Ended resized = ended(FOR_EVER, "resize2fs", partition.toString());
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
    @Override
    public Path partition(Path drive, int number) {
        String name = String.valueOf(drive.getFileName());
        boolean digit = Character.isDigit(name.charAt(name.length() - 1));
        return drive.resolveSibling(name + (digit ? "p" : "") + number);
    }

    @Override
    public boolean unmount(String node) {
        return run("umount", node);
    }

    @Override
    public boolean letGo(Path node) {
        return run("eject", node.toString()) || run("udisksctl", "power-off", "-b", node.toString());
    }

    /** Its exit says how the drive is, and not whether it answered. */
    @Override
    public byte[] smartReport(Path node) throws IOException {
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

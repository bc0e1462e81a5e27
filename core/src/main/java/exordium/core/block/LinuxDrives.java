// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The whole drives of a Linux machine, read from sysfs and procfs (kernel documentation, ABI/stable/sysfs-block).
 * Nothing is hidden: a drive that must not be written is listed with its reasons. On other systems the list is empty.
 */
public final class LinuxDrives {
    private static final Pattern OCTAL = Pattern.compile("\\\\([0-7]{3})");
    private static final int MOST_UP = 8;
    private static final Basis SYSTEM = Basis.computed("the system's own tables (sysfs, procfs)");

    private final Path sys;
    private final Path proc;
    private final Path dev;

    public LinuxDrives() {
        this(Path.of("/"));
    }

    /** Whether this system tells of its drives in the way Linux does; on others the list is empty. */
    public static boolean readable() {
        return Files.isDirectory(Path.of("/sys/block"));
    }

    /** Another root than the machine's own, with {@code sys}, {@code proc} and {@code dev} below it. */
    public LinuxDrives(Path root) {
        this.sys = root.resolve("sys");
        this.proc = root.resolve("proc");
        this.dev = root.resolve("dev");
    }

    /**
     * One line of mountinfo (proc(5)): a root that is mounted as {@code /dev/root} still tells its drive by the numbers.
     *
     * @param numbers major and minor, as sysfs writes them in {@code dev}
     */
    private record Mount(String numbers, String node, String place) {}

    /** Where workspace: whose drive is refused as a target. */
    public List<MachineDrive> list(Path workspace) throws IOException {
        Path blocks = sys.resolve("block");
        if (!Files.isDirectory(blocks)) {
            return List.of();
        }
        List<Mount> mounts = mounts();
        Set<String> swaps = firstColumn(proc.resolve("swaps"));
        Optional<Mount> workspaceMount = mountHolding(workspace, mounts);
        List<MachineDrive> drives = new ArrayList<>();
        try (DirectoryStream<Path> entries = Files.newDirectoryStream(blocks)) {
            for (Path entry : entries) {
                long bytes = Long.parseLong(text(entry.resolve("size")).orElse("0")) * 512;
                if (bytes > 0) {
                    drives.add(describe(entry, ByteSize.of(bytes), mounts, swaps, workspaceMount));
                }
            }
        }
        drives.sort(Comparator.comparing(MachineDrive::id));
        return drives;
    }

    /** The drive behind a device node, or empty when the path is no whole drive of the machine. */
    public Optional<MachineDrive> find(Path node, Path workspace) throws IOException {
        if (!Files.exists(node)) {
            return Optional.empty();
        }
        String id = node.toRealPath().getFileName().toString();
        if (!node.toRealPath().startsWith(dev)) {
            return Optional.empty();
        }
        return list(workspace).stream().filter(drive -> drive.id().equals(id)).findFirst();
    }

    private MachineDrive describe(
            Path entry, ByteSize size, List<Mount> mounts, Set<String> swaps, Optional<Mount> workspaceMount)
            throws IOException {
        String id = entry.getFileName().toString();
        List<String> parts = new ArrayList<>(List.of(id));
        try (Stream<Path> children = Files.list(entry)) {
            children.filter(child -> Files.exists(child.resolve("partition")))
                    .forEach(child -> parts.add(child.getFileName().toString()));
        }
        List<Finding> refusals = new ArrayList<>();
        List<String> mounted = new ArrayList<>();
        for (String part : parts) {
            String node = "/dev/" + part;
            Path files = part.equals(id) ? entry : entry.resolve(part);
            String numbers = text(files.resolve("dev")).orElse("none");
            for (Mount mount : mounts) {
                if (mount.numbers().equals(numbers) || mount.node().equals(node)) {
                    refusals.add(mountedRefusal(id, node, mount.place()));
                    mounted.add(node);
                }
            }
            boolean workspaceHere = workspaceMount
                    .filter(mount ->
                            mount.numbers().equals(numbers) || mount.node().equals(node))
                    .isPresent();
            if (swaps.contains(node)) {
                refusals.add(Finding.stop("target-is-swap", node + " is in use as swap space.", SYSTEM));
            }
            if (hasChildren(files.resolve("holders"))) {
                refusals.add(Finding.stop("target-held", node + " is part of another device that is in use.", SYSTEM));
            }
            if (workspaceHere) {
                refusals.add(Finding.stop("target-holds-workspace", "/dev/" + id + " holds the workspace.", SYSTEM));
            }
        }
        boolean readOnly = text(entry.resolve("ro")).orElse("0").equals("1");
        if (readOnly) {
            refusals.add(Finding.stop("target-read-only", "/dev/" + id + " is read-only.", SYSTEM));
        }
        if (id.startsWith("loop") && Files.notExists(entry.resolve("loop/backing_file"))) {
            refusals.add(Finding.stop("target-absent", "/dev/" + id + " has no file behind it.", SYSTEM));
        }
        return new MachineDrive(
                id,
                dev.resolve(id),
                bus(entry, id),
                text(entry.resolve("device/model")).orElse(""),
                serial(entry).orElse(""),
                size,
                Integer.parseInt(text(entry.resolve("queue/logical_block_size")).orElse("512")),
                text(entry.resolve("removable")).orElse("0").equals("1"),
                readOnly,
                List.copyOf(mounted),
                List.copyOf(refusals));
    }

    /** Of the drive itself, else of what it hangs on: a USB stick's stands with its USB device, some folders up. */
    private static Optional<String> serial(Path entry) throws IOException {
        Optional<String> own = text(entry.resolve("device/serial"));
        Path at = entry.toRealPath();
        for (int up = 0; own.isEmpty() && up < MOST_UP && at != null; up++) {
            boolean usb = String.valueOf(at.getParent()).contains("/usb");
            own = usb ? text(at.resolve("serial")) : own;
            at = at.getParent();
        }
        return own;
    }

    private static String bus(Path entry, String id) throws IOException {
        String route = entry.toRealPath().toString();
        if (id.startsWith("loop")) {
            return "loop";
        }
        if (id.startsWith("nvme")) {
            return "nvme";
        }
        if (id.startsWith("mmcblk")) {
            return "mmc";
        }
        return route.contains("/usb") ? "usb" : route.contains("/ata") ? "sata" : "other";
    }

    private static Finding mountedRefusal(String id, String node, String place) {
        boolean system = place.equals("/") || place.startsWith("/boot") || place.equals("/usr");
        return system
                ? Finding.stop("target-holds-system", "/dev/" + id + " holds the running system.", SYSTEM)
                : Finding.stop("target-mounted", node + " is mounted at " + place + "; unmount it first.", SYSTEM);
    }

    private List<Mount> mounts() throws IOException {
        List<Mount> mounts = new ArrayList<>();
        for (String line : lines(proc.resolve("self/mountinfo"))) {
            String[] halves = line.split(" - ", 2);
            String[] fields = halves[0].split(" ");
            String[] source = halves.length == 2 ? halves[1].split(" ") : new String[0];
            if (fields.length > 4 && source.length > 1) {
                String node = source[1].startsWith("/") ? resolved(source[1]) : source[1];
                mounts.add(new Mount(fields[2], node, unescaped(fields[4])));
            }
        }
        return mounts;
    }

    /** Spaces and the like stand in mountinfo as a backslash and three octal digits. */
    private static String unescaped(String field) {
        return OCTAL.matcher(field)
                .replaceAll(
                        match -> Matcher.quoteReplacement(String.valueOf((char) Integer.parseInt(match.group(1), 8))));
    }

    private static String resolved(String node) {
        try {
            return Path.of(node).toRealPath().toString();
        } catch (IOException e) {
            return node;
        }
    }

    /** The mount with the longest mount point above the path; of several at one place the last covers the others. */
    private static Optional<Mount> mountHolding(Path path, List<Mount> mounts) {
        Path where = path.toAbsolutePath().normalize();
        return mounts.stream()
                .filter(mount -> where.startsWith(Path.of(mount.place())))
                .reduce((best, next) -> next.place().length() >= best.place().length() ? next : best);
    }

    private static Set<String> firstColumn(Path file) throws IOException {
        Set<String> column = new HashSet<>();
        for (String line : lines(file)) {
            column.add(line.split("\\s+")[0]);
        }
        return column;
    }

    private static boolean hasChildren(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return false;
        }
        try (Stream<Path> children = Files.list(folder)) {
            return children.findAny().isPresent();
        }
    }

    private static List<String> lines(Path file) throws IOException {
        return Files.isReadable(file) ? Files.readAllLines(file) : List.of();
    }

    private static Optional<String> text(Path file) {
        try {
            return Optional.of(Files.readString(file).trim()).filter(text -> !text.isEmpty());
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.DriveKeeper;
import exordium.core.block.FileIdentity;
import exordium.core.block.Machine;
import exordium.core.block.MachineDrive;
import exordium.core.block.MachineDrives;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * The whole drives of a Linux machine, read from sysfs and procfs (kernel documentation, ABI/stable/sysfs-block).
 */
public final class LinuxDrives implements MachineDrives {
    private static final String TABLE_ID = "E:ID_PART_TABLE_UUID=";
    private static final int MOST_UP = 8;
    private static final int WRITTEN_SECTORS = 6;
    private static final Basis SYSTEM = Basis.computed("the system's own tables (sysfs, procfs)");

    private final Path sys;
    private final Path proc;
    private final Path dev;
    /** Whether the kernel of this machine is asked as well; it is not where a machine is played by files. */
    private final boolean asksKernel;

    public LinuxDrives() {
        this(Path.of("/"));
    }

    @Override
    public Optional<Finding> notReached() {
        return Files.isDirectory(sys.resolve("block")) ? Optional.empty() : Optional.of(NOT_REACHED);
    }

    /** Another root than the machine's own, with {@code sys}, {@code proc} and {@code dev} below it. */
    public LinuxDrives(Path root) {
        this(root.resolve("sys"), root.resolve("proc"), root.resolve("dev"), root.equals(Path.of("/")));
    }

    private LinuxDrives(Path sys, Path proc, Path dev, boolean asksKernel) {
        this.sys = sys;
        this.proc = proc;
        this.dev = dev;
        this.asksKernel = asksKernel;
    }

    @Override
    public LinuxDrives untouched() {
        return new LinuxDrives(sys, proc, dev, false);
    }

    /**
     * What the system's tables say of use.
     *
     * @param told false where they could not be read: then nobody knows what is in use
     * @param members drives and partitions that belong to a mounted file system of several (sysfs, fs/btrfs)
     */
    private record InUse(
            boolean told, List<Mount> mounts, Set<String> swaps, Set<String> members, Optional<Mount> workspace) {
        boolean anyPool() {
            return mounts.stream().anyMatch(mount -> mount.type().equals("zfs"));
        }
    }

    @Override
    public List<MachineDrive> list(Path workspace) throws IOException {
        Path blocks = sys.resolve("block");
        if (!Files.isDirectory(blocks)) {
            return List.of();
        }
        InUse use = inUse(workspace);
        List<MachineDrive> drives = new ArrayList<>();
        try (DirectoryStream<Path> entries = Files.newDirectoryStream(blocks)) {
            for (Path entry : entries) {
                long bytes = Long.parseLong(text(entry.resolve("size")).orElse("0")) * 512;
                if (bytes > 0) {
                    drives.add(describe(entry, ByteSize.of(bytes), use));
                }
            }
        }
        drives.sort(Comparator.comparing(MachineDrive::id));
        return drives;
    }

    private InUse inUse(Path workspace) throws IOException {
        Set<String> members = new HashSet<>();
        Path pools = sys.resolve("fs/btrfs");
        if (Files.isDirectory(pools)) {
            try (DirectoryStream<Path> found = Files.newDirectoryStream(pools)) {
                for (Path pool : found) {
                    members.addAll(names(pool.resolve("devices")));
                }
            }
        }
        try {
            List<Mount> mounts = Mount.all(proc);
            Path swaps = proc.resolve("swaps");
            Set<String> swapped = Files.exists(swaps) ? firstColumn(swaps) : Set.of();
            return new InUse(!mounts.isEmpty(), mounts, swapped, members, Mount.holding(workspace, mounts));
        } catch (IOException e) {
            return new InUse(false, List.of(), Set.of(), members, Optional.empty());
        }
    }

    /** By the number of the device and not by its name. */
    @Override
    public Optional<MachineDrive> find(Path node, Path workspace) throws IOException {
        if (!Files.exists(node)) {
            return Optional.empty();
        }
        Path real = node.toRealPath();
        FileIdentity identity = FileIdentity.of(real);
        if (!identity.device() && !real.startsWith(dev)) {
            return Optional.empty();
        }
        String id = real.getFileName().toString();
        return list(workspace).stream()
                .filter(drive -> identity.device()
                        ? drive.identity().equals(Optional.of(identity))
                        : drive.id().equals(id))
                .findFirst();
    }

    private MachineDrive describe(Path entry, ByteSize size, InUse use) throws IOException {
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
            for (Mount mount : mountsOf(files, node, use)) {
                refusals.add(mountedRefusal(id, node, mount.place()));
                mounted.add(node);
            }
            if (use.members().contains(part) && mounted.isEmpty()) {
                refusals.add(
                        fixed("target-in-use", node + " belongs to a mounted file system on several drives.", SYSTEM));
            }
            if (use.workspace().filter(mount -> isOn(mount, files, node)).isPresent()) {
                refusals.add(fixed("target-holds-workspace", "/dev/" + id + " holds the workspace.", SYSTEM));
            }
            if (use.swaps().contains(node)) {
                refusals.add(fixed("target-is-swap", node + " is in use as swap space.", SYSTEM));
            }
            refusals.addAll(heldRefusals(id, node, files, use));
        }
        if (!use.told()) {
            refusals.add(fixed(
                    "target-not-told",
                    "What is mounted on this machine cannot be read, so nobody knows whether /dev/" + id
                            + " is in use.",
                    SYSTEM));
        }
        boolean removable = text(entry.resolve("removable")).orElse("0").equals("1");
        boolean readOnly = text(entry.resolve("ro")).orElse("0").equals("1");
        if (readOnly) {
            refusals.add(Finding.stop("target-read-only", "/dev/" + id + " is read-only.", SYSTEM));
        }
        if (id.startsWith("loop") && Files.notExists(entry.resolve("loop/backing_file"))) {
            refusals.add(fixed("target-absent", "/dev/" + id + " has no file behind it.", SYSTEM));
        } else if (refusals.isEmpty()) {
            kernelRefusal(id, use).ifPresent(refusals::add);
        }
        return new MachineDrive(
                id,
                dev.resolve(id),
                bus(entry, id),
                text(entry.resolve("device/model")).orElse(""),
                serial(entry, removable).orElse(""),
                size,
                Integer.parseInt(text(entry.resolve("queue/logical_block_size")).orElse("512")),
                removable,
                readOnly,
                List.copyOf(mounted),
                List.copyOf(refusals),
                identity(entry),
                text(entry.resolve("diskseq")).orElse(""),
                tableId(entry));
    }

    /** It belongs to the machine, not to the drawer; no unmounting lifts it. */
    private static Finding fixed(String code, String words, Basis basis) {
        return Finding.stop(code, words, basis).about(Subject.BELONGS_ELSEWHERE);
    }

    private static Optional<FileIdentity> identity(Path entry) {
        return text(entry.resolve("dev"))
                .filter(numbers -> numbers.matches("\\d+:\\d+"))
                .map(DeviceNumbers::of);
    }

    /** As udev found it when the medium came (its database, a file a device; ID_PART_TABLE_UUID as blkid(8) writes it). */
    private Optional<String> tableId(Path entry) throws IOException {
        Optional<String> numbers = text(entry.resolve("dev"));
        Path file = sys.resolveSibling("run/udev/data").resolve("b" + numbers.orElse(""));
        if (numbers.isEmpty() || !Files.isReadable(file)) {
            return Optional.empty();
        }
        try (Stream<String> lines = Files.lines(file)) {
            return lines.filter(line -> line.startsWith(TABLE_ID))
                    .map(line -> line.substring(TABLE_ID.length()).strip().toLowerCase(Locale.ROOT))
                    .findFirst();
        } catch (UncheckedIOException e) {
            return Optional.empty();
        }
    }

    private static boolean isOn(Mount mount, Path files, String node) {
        return mount.numbers().equals(text(files.resolve("dev")).orElse("none"))
                || mount.node().equals(node);
    }

    private static List<Mount> mountsOf(Path files, String node, InUse use) {
        return use.mounts().stream().filter(mount -> isOn(mount, files, node)).toList();
    }

    /** What stands on it, one on the other: a mapped volume, an array, another loop device; and what is mounted up there. */
    private List<Finding> heldRefusals(String id, String node, Path files, InUse use) throws IOException {
        List<Finding> refusals = new ArrayList<>();
        Set<String> seen = new HashSet<>();
        List<String> next = new ArrayList<>(names(files.resolve("holders")));
        if (!next.isEmpty()) {
            refusals.add(fixed("target-held", node + " is part of another device that is in use.", SYSTEM));
        }
        for (int i = 0; i < next.size(); i++) {
            if (seen.add(next.get(i))) {
                Path above = sys.resolve("block").resolve(next.get(i));
                for (Mount mount : mountsOf(above, "/dev/" + next.get(i), use)) {
                    refusals.add(mountedRefusal(id, node, mount.place()));
                }
                next.addAll(names(above.resolve("holders")));
            }
        }
        return refusals;
    }

    /**
     * The kernel itself knows best: it refuses an exclusive opening while anything uses the drive, in whatever namespace. Where
     * it cannot be asked, a pool whose drives no table names keeps all drives from being written.
     */
    private Optional<Finding> kernelRefusal(String id, InUse use) {
        Machine.Use told = asksKernel ? SystemCalls.use(dev.resolve(id)) : Machine.Use.NOT_TOLD;
        return switch (told) {
            case FREE -> Optional.empty();
            case IN_USE ->
                Optional.of(Finding.stop(
                                "target-in-use",
                                "/dev/" + id
                                        + " is in use: mounted where this program does not see it, or part of something else.",
                                Basis.computed("opening it exclusively"))
                        .about(Subject.OPEN_NOW));
            case NOT_ALLOWED ->
                SystemKeeper.HERE.there() ? Optional.empty() : Optional.of(DriveKeeper.nobody("/dev/" + id));
            case NOT_TOLD ->
                use.anyPool()
                        ? Optional.of(fixed(
                                "target-not-told",
                                "A pool of drives is mounted, and nobody here can tell whether /dev/" + id
                                        + " is one of it.",
                                SYSTEM))
                        : Optional.empty();
        };
    }

    /**
     * Of the drive itself, else of what it hangs on: a USB stick's stands with its USB device, some folders up. A reader that
     * takes cards in and out tells its own, which is none of the card's.
     */
    private static Optional<String> serial(Path entry, boolean removable) throws IOException {
        Optional<String> own = text(entry.resolve("device/serial"));
        Path at = entry.toRealPath();
        if (removable && at.toString().contains("/usb")) {
            return Optional.empty();
        }
        for (int up = 0; own.isEmpty() && up < MOST_UP && at != null; up++) {
            boolean usb = String.valueOf(at.getParent()).contains("/usb");
            own = usb ? text(at.resolve("serial")) : own;
            at = at.getParent();
        }
        return own;
    }

    /** Kernel documentation, mmc: life_time, pre_eol_info. */
    @Override
    public Optional<OwnWords> ownWords(MachineDrive drive) throws IOException {
        Path device = sys.resolve("block").resolve(drive.id()).resolve("device");
        Optional<String> life = text(device.resolve("life_time"));
        Optional<String> reserve = text(device.resolve("pre_eol_info"));
        return life.isEmpty() && reserve.isEmpty()
                ? Optional.empty()
                : Optional.of(new OwnWords(life.orElse(""), reserve.orElse("")));
    }

    /** How many sectors were written since the machine started (kernel documentation, block/stat). */
    @Override
    public String changeMark(String id) throws IOException {
        Path counts = sys.resolve("class/block").resolve(id).resolve("stat");
        return Files.isReadable(counts) ? Files.readString(counts).strip().split("\\s+")[WRITTEN_SECTORS] : "";
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
                ? fixed("target-holds-system", "/dev/" + id + " holds the running system.", SYSTEM)
                : Finding.stop("target-mounted", node + " is mounted at " + place + "; unmount it first.", SYSTEM);
    }

    private static Set<String> firstColumn(Path file) throws IOException {
        Set<String> column = new HashSet<>();
        for (String line : Files.readAllLines(file)) {
            column.add(line.split("\\s+")[0]);
        }
        return column;
    }

    private static List<String> names(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> children = Files.list(folder)) {
            return children.map(child -> child.getFileName().toString()).toList();
        }
    }

    private static Optional<String> text(Path file) {
        try {
            return Optional.of(Files.readString(file).trim()).filter(text -> !text.isEmpty());
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}

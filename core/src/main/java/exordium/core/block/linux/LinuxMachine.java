// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.Claim;
import exordium.core.block.DriveKeeper;
import exordium.core.block.FileExtents;
import exordium.core.block.FileIdentity;
import exordium.core.block.MachineTools;
import exordium.core.block.PlainMachine;
import exordium.core.block.XzUnpacker;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** A machine with a Linux kernel. Where its library of calls cannot be loaded, what Java has must do, and drives are listed all the same. */
public final class LinuxMachine extends PlainMachine {
    private static final Path BOOT = Path.of("/proc/sys/kernel/random/boot_id");
    private static final int START_FIELD = 19;

    private final LinuxDrives drives;

    public LinuxMachine() {
        this(Path.of("/"));
    }

    /** A machine whose drives stand in a tree of files, with {@code sys}, {@code proc} and {@code dev} in it. */
    public LinuxMachine(Path root) {
        this.drives = new LinuxDrives(root);
    }

    @Override
    public boolean isThis() {
        return System.getProperty("os.name", "").startsWith("Linux");
    }

    @Override
    public LinuxDrives drives() {
        return drives;
    }

    @Override
    public Claim claim(Path path, Optional<FileIdentity> expected) throws IOException {
        return SystemCalls.there() ? LinuxClaim.of(path, expected) : super.claim(path, expected);
    }

    @Override
    public List<FileExtents.Extent> extents(Path file) throws IOException {
        return SystemCalls.there() ? SystemCalls.extents(file) : super.extents(file);
    }

    @Override
    public Set<FileIdentity> sameBytes(FileIdentity one) throws IOException {
        return LoopDevices.now().sameBytes(one);
    }

    @Override
    public List<Path> nodes(Set<FileIdentity> same) throws IOException {
        return LoopDevices.now().nodes(same);
    }

    @Override
    public Use use(Path node) {
        return SystemCalls.use(node);
    }

    @Override
    public Optional<DriveKeeper> keeper() {
        return SystemKeeper.HERE.there() ? Optional.of(SystemKeeper.HERE) : Optional.empty();
    }

    @Override
    public MachineTools tools() {
        return new LinuxTools();
    }

    /** Told by the kernel in clock ticks since the machine started (proc(5), stat), for processes of other users as well. */
    @Override
    public Optional<String> began(long process) {
        Path stat = Path.of("/proc", Long.toString(process), "stat");
        try {
            if (Files.isReadable(stat)) {
                String line = Files.readString(stat);
                // The name in brackets may hold anything; what counts stands behind the last of them.
                String[] fields = line.substring(line.lastIndexOf(')') + 2).split(" ");
                boolean over = fields[0].equals("Z") || fields[0].equals("X");
                return over ? Optional.empty() : Optional.of(fields[START_FIELD] + "@" + sinceStart());
            }
        } catch (IOException e) {
            return Optional.empty();
        }
        return super.began(process);
    }

    @Override
    public String sinceStart() {
        try {
            return Files.isReadable(BOOT) ? Files.readString(BOOT).strip() : "";
        } catch (IOException e) {
            return "";
        }
    }

    @Override
    public void makePrivate() {
        SystemCalls.makePrivate();
    }

    @Override
    public boolean notice(String title, String words) {
        return Notices.show(title, words);
    }

    /** Namespaces of its own (namespaces(7)), which the system's administrator may make. */
    @Override
    public boolean makesNetworks() {
        return "root".equals(System.getProperty("user.name"));
    }

    @Override
    public Optional<XzUnpacker.Maker> xz() {
        return LinuxXz.isThere() ? Optional.of(LinuxXz::new) : Optional.empty();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.FileIdentity;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Which loop devices stand on which files or devices: two of them over one file, or one over another, are the same bytes.
 * Asked of the devices themselves; where that is not allowed, of the path sysfs keeps.
 */
final class LoopDevices {
    private final List<Loop> loops;

    /** A loop device, and what stands behind it. */
    record Loop(Path node, FileIdentity self, FileIdentity behind) {}

    private LoopDevices(List<Loop> loops) {
        this.loops = loops;
    }

    private static final Path SYS = Path.of("/sys");
    private static final Path DEV = Path.of("/dev");

    static LoopDevices now() throws IOException {
        return now(SYS, DEV);
    }

    private static LoopDevices now(Path sys, Path dev) throws IOException {
        List<Loop> loops = new ArrayList<>();
        Path blocks = sys.resolve("block");
        if (!Files.isDirectory(blocks)) {
            return new LoopDevices(List.of());
        }
        try (DirectoryStream<Path> entries = Files.newDirectoryStream(blocks, "loop*")) {
            for (Path entry : entries) {
                Path backing = entry.resolve("loop/backing_file");
                if (Files.exists(backing)) {
                    loop(entry, dev, backing).ifPresent(loops::add);
                }
            }
        }
        return new LoopDevices(loops);
    }

    private static Optional<Loop> loop(Path entry, Path dev, Path backing) {
        try {
            Path node = dev.resolve(entry.getFileName().toString());
            FileIdentity self =
                    DeviceNumbers.of(Files.readString(entry.resolve("dev")).trim());
            Optional<SystemCalls.LoopStatus> status = SystemCalls.loopStatus(node);
            if (status.isPresent()) {
                SystemCalls.LoopStatus told = status.get();
                FileIdentity behind = told.deviceNumber() != 0
                        ? FileIdentity.ofDevice(told.deviceNumber())
                        : new FileIdentity(false, told.device(), told.inode());
                return Optional.of(new Loop(node, self, behind));
            }
            return Optional.of(new Loop(
                    node,
                    self,
                    FileIdentity.of(Path.of(Files.readString(backing).trim()))));
        } catch (IOException | NumberFormatException e) {
            // Let go of between two looks, or its file is not to be found by that path any more.
            return Optional.empty();
        }
    }

    /** Everything whose bytes are those of this one, itself first: up and down through loop devices. */
    Set<FileIdentity> sameBytes(FileIdentity one) {
        Set<FileIdentity> same = new LinkedHashSet<>(Set.of(one));
        boolean grows = true;
        while (grows) {
            grows = false;
            for (Loop loop : loops) {
                if (same.contains(loop.self())) {
                    grows |= same.add(loop.behind());
                }
                if (same.contains(loop.behind())) {
                    grows |= same.add(loop.self());
                }
            }
        }
        return same;
    }

    /** The loop devices among these. */
    List<Path> nodes(Set<FileIdentity> same) {
        return loops.stream()
                .filter(loop -> same.contains(loop.self()))
                .map(Loop::node)
                .toList();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.Claim;
import exordium.core.block.Closing;
import exordium.core.block.FileIdentity;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.Set;

/**
 * A device is opened exclusively (open(2), O_EXCL):
 * the kernel refuses that while it is mounted anywhere, in whatever namespace, in use as swap or part of another device, and
 * refuses all those as long as the claim lasts. A file is locked by an open file description lock, which no other opening or
 * closing in this process undoes. What has the same bytes by way of loop devices is claimed with it.
 */
final class LinuxClaim implements Claim {
    private static final Basis KERNEL = Basis.computed("opening it exclusively");

    private final Path path;
    private final Deque<Closeable> held = new ArrayDeque<>();

    private LinuxClaim(Path path) {
        this.path = path;
    }

    static Claim of(Path path, Optional<FileIdentity> expected) throws IOException {
        Path real = path.toRealPath();
        FileIdentity planned = FileIdentity.of(real);
        int descriptor = opened(real, true, planned.device());
        LinuxClaim claim = new LinuxClaim(Path.of("/proc/self/fd/" + descriptor));
        claim.held.push(() -> SystemCalls.close(descriptor));
        try {
            FileIdentity opened = FileIdentity.of(claim.path);
            if (!opened.equals(expected.orElse(planned))) {
                throw FileIdentity.changed(path, KERNEL);
            }
            if (!opened.device() && !SystemCalls.lock(descriptor)) {
                throw Claim.busy(path, KERNEL);
            }
            LoopDevices loops = LoopDevices.now();
            Set<FileIdentity> same = loops.sameBytes(opened);
            for (Path node : loops.nodes(same)) {
                if (!FileIdentity.of(node).equals(opened)) {
                    int other = opened(node, false, true);
                    claim.held.push(() -> SystemCalls.close(other));
                }
            }
            claim.lockBehind(real, same, opened);
            return claim;
        } catch (IOException | RuntimeException e) {
            claim.close();
            throw e;
        }
    }

    /** A file behind the loop device that is claimed may itself be a target of somebody else: it is locked as well. */
    private void lockBehind(Path real, Set<FileIdentity> same, FileIdentity opened) throws IOException {
        if (!opened.device()) {
            return;
        }
        Path named = Path.of("/sys/block", real.getFileName().toString(), "loop", "backing_file");
        if (!Files.isReadable(named)) {
            return;
        }
        Path behind = Path.of(Files.readString(named).trim());
        try {
            if (!Files.isRegularFile(behind) || !same.contains(FileIdentity.of(behind))) {
                return;
            }
        } catch (IOException e) {
            // What stands behind it does not answer; the device itself will say so when it is used.
            return;
        }
        if (!Files.isWritable(behind)) {
            return;
        }
        int descriptor = opened(behind, true, false);
        held.push(() -> SystemCalls.close(descriptor));
        if (!SystemCalls.lock(descriptor)) {
            throw Claim.busy(behind, KERNEL);
        }
    }

    private static int opened(Path path, boolean writing, boolean exclusive) throws IOException {
        try {
            return SystemCalls.open(path, writing, exclusive);
        } catch (SystemCalls.CallRefused e) {
            if (e.number() == SystemCalls.BUSY) {
                throw refused(
                        "target-in-use",
                        path
                                + " is in use at this moment: mounted somewhere, or part of something else. Nothing was touched.");
            }
            if (e.number() == SystemCalls.ACCESS || e.number() == SystemCalls.NO_PERMISSION) {
                throw refused("target-read-only", path + " may not be written by this user. Nothing was touched.");
            }
            throw e;
        }
    }

    private static Refused refused(String code, String words) {
        return new Refused(Finding.stop(code, words, KERNEL));
    }

    @Override
    public Path path() {
        return path;
    }

    @Override
    public void close() throws IOException {
        try {
            Closing.all(held);
        } finally {
            held.clear();
        }
    }
}

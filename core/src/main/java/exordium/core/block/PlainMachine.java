// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import exordium.core.finding.Basis;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** A machine of which no more is known than Java tells: files, locks and processes, and no drives. */
public class PlainMachine implements Machine {
    @Override
    public boolean isThis() {
        return true;
    }

    @Override
    public MachineDrives drives() {
        return MachineDrives.NONE;
    }

    /** By the lock Java has. */
    @Override
    public Claim claim(Path path, Optional<FileIdentity> expected) throws IOException {
        if (expected.isPresent() && !FileIdentity.of(path).equals(expected.get())) {
            throw FileIdentity.changed(path, Basis.computed("looking again"));
        }
        FileChannel channel = FileChannel.open(path, StandardOpenOption.WRITE);
        FileLock lock;
        try {
            lock = channel.tryLock();
        } catch (OverlappingFileLockException e) {
            lock = null;
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
        if (lock == null) {
            channel.close();
            throw Claim.busy(path, Basis.computed("its lock"));
        }
        return new Claim() {
            @Override
            public Path path() {
                return path;
            }

            @Override
            public void close() throws IOException {
                channel.close();
            }
        };
    }

    @Override
    public List<FileExtents.Extent> extents(Path file) throws IOException {
        long size = Files.size(file);
        return size == 0 ? List.of() : List.of(new FileExtents.Extent(0, size));
    }

    @Override
    public Set<FileIdentity> sameBytes(FileIdentity one) throws IOException {
        return Set.of(one);
    }

    @Override
    public List<Path> nodes(Set<FileIdentity> same) throws IOException {
        return List.of();
    }

    @Override
    public Use use(Path node) {
        return Use.NOT_TOLD;
    }

    @Override
    public Optional<DriveKeeper> keeper() {
        return Optional.empty();
    }

    @Override
    public MachineTools tools() {
        return MachineTools.NONE;
    }

    @Override
    public Optional<String> began(long process) {
        return ProcessHandle.of(process)
                .filter(ProcessHandle::isAlive)
                .map(handle ->
                        handle.info().startInstant().map(Instant::toString).orElse("alive"));
    }

    @Override
    public String sinceStart() {
        return "";
    }

    @Override
    public void makePrivate() {
        // Each file is closed to others where it is made.
    }

    @Override
    public boolean notice(String title, String words) {
        return false;
    }

    @Override
    public boolean makesNetworks() {
        return false;
    }

    @Override
    public Optional<XzUnpacker.Maker> xz() {
        return Optional.empty();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import java.util.SplittableRandom;

/**
 * Who may be at a vault together: any number that add copies or read them, or one that takes something away. Each that shares holds a
 * byte of the lock file, the one that is alone holds all; so it holds between processes and within one. A share whose file system
 * has no locks refuses the one that wants to be alone.
 */
public final class VaultLock implements Closeable {
    private static final String FILE = ".lock";
    private static final long SEATS = 1L << 40;
    private static final int TRIES = 64;

    private final FileChannel channel;
    private final FileLock lock;

    private VaultLock(FileChannel channel, FileLock lock) {
        this.channel = channel;
        this.lock = lock;
    }

    /** What is done while the lock is held. */
    public interface Work<T> {
        T run() throws IOException;
    }

    /** Does it beside others. @throws Refused when somebody is tidying the vault at this moment */
    static <T> T sharing(Path vault, Work<T> work) throws IOException {
        try (VaultLock held = shared(vault)) {
            held.requireValid();
            return work.run();
        }
    }

    /**
     * Reads the vault beside others, so that nobody takes out what is being read. A vault that cannot be written to is read without.
     *
     * @throws Refused when somebody is tidying the vault at this moment
     */
    public static <T> T reading(Path vault, Work<T> work) throws IOException {
        if (Files.isDirectory(vault) && !Files.isWritable(vault)) {
            return work.run();
        }
        return sharing(vault, work);
    }

    /** Does it with nobody else at the vault. @throws Refused when anybody is */
    static <T> T beingAlone(Path vault, Work<T> work) throws IOException {
        try (VaultLock held = alone(vault)) {
            held.requireValid();
            return work.run();
        }
    }

    void requireValid() {
        if (lock != null && !lock.isValid()) {
            throw new IllegalStateException("the lock of the vault was lost");
        }
    }

    /** @throws Refused when somebody is tidying the vault at this moment */
    public static VaultLock shared(Path vault) throws IOException {
        SplittableRandom random = new SplittableRandom();
        for (int i = 0; i < TRIES; i++) {
            Optional<VaultLock> held = take(vault, random.nextLong(SEATS), 1);
            if (held.isPresent()) {
                return held.get();
            }
        }
        throw busy("Somebody is tidying it");
    }

    /** @throws Refused when anybody else is at the vault */
    public static VaultLock alone(Path vault) throws IOException {
        return tryAlone(vault).orElseThrow(() -> busy("A copy is being made, read or checked"));
    }

    static Optional<VaultLock> tryAlone(Path vault) throws IOException {
        return take(vault, 0, SEATS);
    }

    private static Refused busy(String what) {
        return new Refused(Finding.stop(
                "vault-busy",
                what + "; the vault is in other hands until then. Nothing was changed: wait, and try again.",
                Basis.computed("the lock of the vault")));
    }

    private static Optional<VaultLock> take(Path vault, long from, long length) throws IOException {
        FileChannel channel = opened(vault);
        try {
            FileLock lock = channel.tryLock(from, length, false);
            if (lock != null) {
                return Optional.of(new VaultLock(channel, lock));
            }
        } catch (OverlappingFileLockException e) {
            channel.close();
            return Optional.empty();
        } catch (IOException e) {
            // No locks on this file system: copies are added all the same, nothing is taken out.
            if (length == 1) {
                return Optional.of(new VaultLock(channel, null));
            }
        }
        channel.close();
        return Optional.empty();
    }

    private static FileChannel opened(Path vault) throws IOException {
        try {
            Files.createDirectories(vault);
            return FileChannel.open(
                    vault.resolve(FILE),
                    StandardOpenOption.CREATE,
                    StandardOpenOption.READ,
                    StandardOpenOption.WRITE,
                    LinkOption.NOFOLLOW_LINKS);
        } catch (FileSystemException e) {
            if (e instanceof AccessDeniedException
                    || String.valueOf(e.getReason()).contains("Read-only")) {
                throw new IOException(
                        "The vault in " + vault
                                + " can only be read, so nothing is put into it or taken out; nothing was"
                                + " changed. See how its drive or share is mounted.",
                        e);
            }
            throw e;
        }
    }

    @Override
    public void close() throws IOException {
        try (FileChannel held = channel) {
            if (held.isOpen() && lock != null) {
                lock.release();
            }
        }
    }
}

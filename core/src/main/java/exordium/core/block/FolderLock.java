// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;

/**
 * Held while a small file of a folder is changed by a function of what is there: one thread of one process at a time in that folder.
 * What is done meanwhile is short, so whoever comes waits. A process that is killed lets go of it.
 */
public final class FolderLock {
    /** The lock of a folder; nobody's file. */
    public static final String FILE = ".lock";

    private static final Map<Path, ReentrantLock> HERE = new ConcurrentHashMap<>();

    private FolderLock() {}

    /** What is done while the lock is held. */
    public interface Work<T> {
        T run() throws IOException;
    }

    /** Does it with nobody else changing a file of the folder. */
    public static <T> T holding(Path folder, Work<T> work) throws IOException {
        Path whole = folder.toAbsolutePath().normalize();
        // The kernel's locks are a process's: closing one opening of the file would let go of them all.
        ReentrantLock here = HERE.computeIfAbsent(whole, key -> new ReentrantLock());
        if (here.isHeldByCurrentThread()) {
            throw new IllegalStateException("a change in a folder within another one of it");
        }
        here.lock();
        try (FileChannel channel =
                FileChannel.open(whole.resolve(FILE), StandardOpenOption.CREATE, StandardOpenOption.WRITE)) {
            channel.lock();
            return work.run();
        } finally {
            here.unlock();
        }
    }

    /** Takes away what a kill left half-made in a folder whose files are changed under its lock only. */
    public static void sweep(Path folder) throws IOException {
        if (!Files.isDirectory(folder) || halfMade(folder).isEmpty()) {
            return;
        }
        holding(folder, () -> {
            for (Path each : halfMade(folder)) {
                Files.deleteIfExists(each);
            }
            return null;
        });
    }

    private static List<Path> halfMade(Path folder) throws IOException {
        List<Path> found = new ArrayList<>();
        try (DirectoryStream<Path> half = Files.newDirectoryStream(folder, "*" + Durable.HALF)) {
            half.forEach(found::add);
        }
        return found;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.stream.Stream;

/** Something that takes long to make, made once for the tests of all modules and used by each as a pattern to copy. */
public final class SharedFolder {
    private SharedFolder() {}

    /** Makes it in a folder that is not there yet. */
    public interface Maker {
        void make(Path folder) throws IOException;
    }

    /** The folder of that name, made by this or another process from the classes as they are now; nobody changes it. */
    public static synchronized Path of(String name, Maker maker) throws IOException {
        Path shared = Files.createDirectories(
                Path.of("..", "target", "shared").toAbsolutePath().normalize());
        Path folder = shared.resolve(name + "-" + newestClass());
        try (FileChannel channel = FileChannel.open(
                        shared.resolve(name + ".lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                FileLock lock = channel.lock()) {
            if (lock.isValid() && !Files.isDirectory(folder)) {
                Path working = Files.createTempDirectory(shared, name + ".making");
                maker.make(working.resolve("it"));
                Files.move(working.resolve("it"), folder, StandardCopyOption.ATOMIC_MOVE);
                Files.delete(working);
                forgetOlder(shared, name, folder);
            }
        }
        return folder;
    }

    /** Patterns of earlier builds; one that was made within the hour may still be copied from. */
    private static void forgetOlder(Path shared, String name, Path kept) throws IOException {
        FileTime hourAgo = FileTime.from(Instant.now().minus(Duration.ofHours(1)));
        try (Stream<Path> all = Files.list(shared)) {
            for (Path each : all.filter(Files::isDirectory).toList()) {
                boolean old = each.getFileName().toString().startsWith(name + "-")
                        && !each.equals(kept)
                        && Files.getLastModifiedTime(each).compareTo(hourAgo) < 0;
                if (old) {
                    GeneralTools.run("rm", "-r", each.toString());
                }
            }
        }
    }

    /** When the newest class of the modules it may be made by was compiled. */
    private static long newestClass() throws IOException {
        long newest = 0;
        for (String module : new String[] {"core", "store", "sim", "jobs"}) {
            Path classes = Path.of("..", module, "target", "classes");
            if (Files.isDirectory(classes)) {
                try (Stream<Path> all = Files.walk(classes)) {
                    for (Path each : all.filter(Files::isRegularFile).toList()) {
                        newest =
                                Math.max(newest, Files.getLastModifiedTime(each).toMillis());
                    }
                }
            }
        }
        return newest;
    }
}

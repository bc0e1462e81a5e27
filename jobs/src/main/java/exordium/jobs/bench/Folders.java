// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** Whole folders. */
public final class Folders {
    private Folders() {}

    /** Whether a name leads to something in a folder, and not out of it. */
    public static boolean isInside(Path folder, String name) {
        try {
            Path whole = folder.toAbsolutePath().normalize();
            Path file = whole.resolve(name).normalize();
            return file.startsWith(whole) && !file.equals(whole);
        } catch (InvalidPathException e) {
            return false;
        }
    }

    /** A folder for what is made on the way; closing takes it away with all that is in it. */
    public record Working(Path path) implements Closeable {
        public static Working in(Path room) throws IOException {
            return new Working(Files.createTempDirectory(Files.createDirectories(room), "exordium-work"));
        }

        @Override
        public void close() throws IOException {
            delete(path);
        }
    }

    /** Deletes it with everything in it. */
    public static void delete(Path folder) throws IOException {
        List<Path> paths;
        try (Stream<Path> all = Files.walk(folder)) {
            paths = all.sorted(Comparator.reverseOrder()).toList();
        }
        for (Path path : paths) {
            Files.deleteIfExists(path);
        }
    }
}

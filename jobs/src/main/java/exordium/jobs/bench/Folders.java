// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import java.io.Closeable;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
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
        private static final String NAME = "exordium-work-";
        private static final long A_MOMENT = 2;
        private static final Pattern OF_PROCESS = Pattern.compile(NAME + "(\\d{1,10})-.*");

        /** Whatever a process that was killed left in the same room goes first. */
        public static Working in(Path room) throws IOException {
            Files.createDirectories(room);
            sweep(room);
            return new Working(Files.createTempDirectory(
                    room, NAME + ProcessHandle.current().pid() + "-"));
        }

        private static void sweep(Path room) throws IOException {
            String user = System.getProperty("user.name");
            try (DirectoryStream<Path> all = Files.newDirectoryStream(room, NAME + "*")) {
                for (Path each : all) {
                    boolean ours = Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS)
                            && Files.getOwner(each, LinkOption.NOFOLLOW_LINKS)
                                    .getName()
                                    .equals(user);
                    if (ours && isNobodys(each)) {
                        delete(each);
                    }
                }
            } catch (NoSuchFileException e) {
                // Another process sweeps as well.
                return;
            }
        }

        /** Numbers of processes are given again: one that began after the folder was made is another. */
        private static boolean isNobodys(Path folder) throws IOException {
            Matcher name = OF_PROCESS.matcher(String.valueOf(folder.getFileName()));
            if (!name.matches()) {
                return false;
            }
            Optional<ProcessHandle> process = ProcessHandle.of(Long.parseLong(name.group(1)));
            Instant made = Files.readAttributes(folder, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS)
                    .creationTime()
                    .toInstant();
            return process.isEmpty()
                    || process.get()
                            .info()
                            .startInstant()
                            .filter(began -> began.isAfter(made.plusSeconds(A_MOMENT)))
                            .isPresent();
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

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Set;

/** Files that only their owner reads: what lies in them are hashes, keys and whole drives. Where a file system knows no such thing, nothing is done. */
public final class PrivateFiles {
    private static final Set<PosixFilePermission> OF_OTHERS = EnumSet.of(
            PosixFilePermission.GROUP_READ,
            PosixFilePermission.GROUP_WRITE,
            PosixFilePermission.GROUP_EXECUTE,
            PosixFilePermission.OTHERS_READ,
            PosixFilePermission.OTHERS_WRITE,
            PosixFilePermission.OTHERS_EXECUTE);

    private PrivateFiles() {}

    /** Whatever this process and those it starts make from now on is its user's alone (umask(2)). */
    public static void fromNowOn() {
        Machine.here().makePrivate();
    }

    /** Makes a folder private, made where it is not there. */
    public static Path folder(Path folder) throws IOException {
        Files.createDirectories(folder);
        close(folder);
        return folder;
    }

    /** Makes a folder and all that is in it private, except what lies below some folders; links are not followed. */
    public static void all(Path folder, Set<Path> except) throws IOException {
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path each, BasicFileAttributes attributes) throws IOException {
                if (except.contains(each)) {
                    return FileVisitResult.SKIP_SUBTREE;
                }
                close(each);
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path each, BasicFileAttributes attributes) throws IOException {
                close(each);
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path each, IOException failure) {
                // It went away meanwhile, or is somebody else's.
                return FileVisitResult.CONTINUE;
            }
        });
    }

    /** Whether nobody else may read, write or enter it. */
    public static boolean isClosed(Path each) throws IOException {
        try {
            return Files.getPosixFilePermissions(each, LinkOption.NOFOLLOW_LINKS).stream()
                    .noneMatch(OF_OTHERS::contains);
        } catch (UnsupportedOperationException e) {
            return true;
        }
    }

    private static void close(Path each) throws IOException {
        if (Files.isSymbolicLink(each) || isClosed(each)) {
            return;
        }
        Set<PosixFilePermission> own = EnumSet.noneOf(PosixFilePermission.class);
        own.addAll(Files.getPosixFilePermissions(each));
        own.removeAll(OF_OTHERS);
        try {
            Files.setPosixFilePermissions(each, own);
        } catch (FileSystemException e) {
            // Somebody else's, or a file system that only looks as if it knew owners.
            return;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Who may read what of a kit once it stands on a server: dnsmasq runs as a user of its own and hands start files out to whoever asks, so those
 * and its settings are everybody's; roots and what boards keep are for root alone, who serves them. Here the workspace around it is closed.
 */
final class KitModes {
    private static final Set<PosixFilePermission> FOLDER = PosixFilePermissions.fromString("rwxr-xr-x");
    private static final Set<PosixFilePermission> FILE = PosixFilePermissions.fromString("rw-r--r--");
    private static final Set<PosixFilePermission> CLOSED = PosixFilePermissions.fromString("rwx------");
    private static final List<String> OPEN = List.of("tftp", "dnsmasq.d", "exports.d", "clients");

    private KitModes() {}

    /** Where kit: all of it, or what of a board is made before it goes in. */
    static void ofServer(Path kit) throws IOException {
        if (!Files.getFileStore(kit).supportsFileAttributeView("posix")) {
            return;
        }
        Files.setPosixFilePermissions(kit, FOLDER);
        for (Path each : listed(kit)) {
            if (Files.isRegularFile(each, LinkOption.NOFOLLOW_LINKS)) {
                Files.setPosixFilePermissions(each, FILE);
            }
        }
        for (String name : OPEN) {
            if (Files.isDirectory(kit.resolve(name), LinkOption.NOFOLLOW_LINKS)) {
                open(kit.resolve(name));
            }
        }
        for (String name : List.of("roots", "state")) {
            if (Files.isDirectory(kit.resolve(name), LinkOption.NOFOLLOW_LINKS)) {
                Files.setPosixFilePermissions(kit.resolve(name), CLOSED);
            }
        }
    }

    private static List<Path> listed(Path folder) throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.toList();
        }
    }

    private static void open(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path each : all.toList()) {
                if (Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS)) {
                    Files.setPosixFilePermissions(each, FOLDER);
                } else if (Files.isRegularFile(each, LinkOption.NOFOLLOW_LINKS)) {
                    Files.setPosixFilePermissions(each, FILE);
                }
            }
        }
    }
}

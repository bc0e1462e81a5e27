// SPDX-License-Identifier: Apache-2.0
package exordium.core.inspection;

import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * Which packages a system has, with their versions, where it keeps that in files: the status file of deb packages (Debian policy,
 * deb-control), the one of apk packages, and the folders of pacman's local database (both from memory).
 */
public final class PackageList {
    private static final String DEB = "/var/lib/dpkg/status";
    private static final String APK = "/lib/apk/db/installed";
    private static final String PACMAN = "/var/lib/pacman/local";
    private static final int MOST = 100_000;

    private PackageList() {}

    /** By name; empty where the system keeps no such list. */
    public static Map<String, String> of(FileSystemReader root) throws IOException {
        Map<String, String> packages = new TreeMap<>();
        Optional<byte[]> deb = root.read(DEB);
        if (deb.isPresent()) {
            read(deb.get(), "Package: ", "Version: ", "Status: ", packages);
        }
        Optional<byte[]> apk = root.read(APK);
        if (apk.isPresent()) {
            read(apk.get(), "P:", "V:", "S:never", packages);
        }
        for (FileEntry entry : root.entries(PACMAN)) {
            // NAME-VERSION-RELEASE: the name may have dashes of its own.
            int release = entry.name().lastIndexOf('-');
            int version = release > 0 ? entry.name().lastIndexOf('-', release - 1) : -1;
            if (version > 0 && packages.size() < MOST) {
                packages.put(entry.name().substring(0, version), entry.name().substring(version + 1));
            }
        }
        return packages;
    }

    /** Paragraphs of lines; one whose state says that it is not installed is none. */
    private static void read(byte[] file, String name, String version, String state, Map<String, String> packages) {
        String named = null;
        String versioned = "";
        boolean there = true;
        for (String line : List.of((new String(file, StandardCharsets.UTF_8) + "\n\n").split("\n", -1))) {
            if (line.isBlank()) {
                if (named != null && there && packages.size() < MOST) {
                    packages.put(named, versioned);
                }
                named = null;
                versioned = "";
                there = true;
            } else if (line.startsWith(name)) {
                named = line.substring(name.length()).strip();
            } else if (line.startsWith(version)) {
                versioned = line.substring(version.length()).strip();
            } else if (line.startsWith(state)) {
                there = line.endsWith(" installed");
            }
        }
    }
}

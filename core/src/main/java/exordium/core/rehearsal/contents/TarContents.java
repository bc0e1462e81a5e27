// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;

/** The little that is asked of a root, of one that is still a tar: names of all, the settings whole, of programs their heads. */
final class TarContents implements RootFacts.Contents {
    private static final int HEAD = 64;
    private static final long LARGEST = 256 << 10;
    private static final long MOST_KEPT = 64L << 20;
    private static final int MOST_NAMES = 4_000_000;

    private final NavigableMap<String, Entry> entries;

    private record Entry(boolean folder, String target, byte[] content) {}

    private TarContents(NavigableMap<String, Entry> entries) {
        this.entries = entries;
    }

    static TarContents of(Path file) throws IOException {
        NavigableMap<String, Entry> entries = new TreeMap<>();
        long kept = 0;
        try (TarArchiveInputStream tar =
                new TarArchiveInputStream(new BufferedInputStream(Files.newInputStream(file)), "UTF-8")) {
            for (TarArchiveEntry each = tar.getNextEntry();
                    each != null && entries.size() < MOST_NAMES;
                    each = tar.getNextEntry()) {
                String path = plain(each.getName());
                boolean settings = path.startsWith("/etc/") || path.endsWith("/authorized_keys");
                byte[] content = new byte[0];
                if (each.isFile() && !each.isLink()) {
                    boolean whole = settings && each.getSize() <= LARGEST && kept < MOST_KEPT;
                    content = tar.readNBytes((int) Math.min(each.getSize(), whole ? LARGEST : HEAD));
                    kept += content.length;
                }
                // Two names of one file lead to the same.
                String target =
                        each.isSymbolicLink() ? each.getLinkName() : each.isLink() ? plain(each.getLinkName()) : "";
                entries.put(path, new Entry(each.isDirectory(), target, content));
            }
        }
        entries.remove("/");
        return new TarContents(entries);
    }

    private static String plain(String name) {
        return "/" + name.replaceFirst("^\\./", "").replaceFirst("/+$", "");
    }

    boolean isEmpty() {
        return entries.isEmpty();
    }

    @Override
    public Optional<byte[]> read(String path) {
        return resolve(path)
                .map(entries::get)
                .filter(each -> each != null && !each.folder())
                .map(Entry::content);
    }

    @Override
    public boolean has(String path) {
        int slash = path.lastIndexOf('/');
        return resolve(path.substring(0, slash))
                .filter(folder -> entries.containsKey((folder.equals("/") ? "" : folder) + path.substring(slash)))
                .isPresent();
    }

    @Override
    public List<String> list(String folder) {
        List<String> names = new ArrayList<>();
        resolve(folder).ifPresent(found -> {
            String top = found.endsWith("/") ? found : found + "/";
            for (String path : entries.tailMap(top, false).keySet()) {
                if (!path.startsWith(top)) {
                    break;
                }
                if (path.indexOf('/', top.length()) < 0) {
                    names.add(path.substring(top.length()));
                }
            }
        });
        return names;
    }

    /** With links followed within the root. */
    private Optional<String> resolve(String path) {
        Deque<String> left = new ArrayDeque<>(List.of(path.split("/")));
        String at = "";
        for (int links = 0; !left.isEmpty(); ) {
            String name = left.pop();
            if (name.isEmpty() || name.equals(".")) {
                continue;
            }
            if (name.equals("..")) {
                at = at.substring(0, Math.max(0, at.lastIndexOf('/')));
                continue;
            }
            Entry entry = entries.get(at + "/" + name);
            if (entry == null) {
                return Optional.empty();
            }
            if (entry.target().isEmpty()) {
                at += "/" + name;
                continue;
            }
            links++;
            if (links > RootFacts.MOST_LINKS) {
                return Optional.empty();
            }
            at = entry.target().startsWith("/") ? "" : at;
            String[] parts = entry.target().split("/");
            for (int i = parts.length - 1; i >= 0; i--) {
                left.push(parts[i]);
            }
        }
        return Optional.of(at.isEmpty() ? "/" : at);
    }
}

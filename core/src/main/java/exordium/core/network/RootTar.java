// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.ext.ExtTree;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.apache.commons.compress.archivers.tar.TarConstants;

/**
 * A root as a tar (POSIX.1-2017, pax, extended header) with owners, permissions, links and devices; extended attributes stand in
 * records called SCHILY.xattr, where tar programs look for them.
 */
public final class RootTar {
    private static final int HEAD_NAME = 100;
    private static final long HEAD_NUMBER = 07777777L;
    private static final long HEAD_SIZE = 077777777777L;
    private static final int NEW_FOLDER = 0755;

    private final TarArchiveOutputStream out;
    private final Part part;
    private final Map<String, Optional<FileBody>> changes;
    private final Map<Long, String> named = new HashMap<>();
    private final Set<String> there = new HashSet<>();
    private final List<String> left = new ArrayList<>();
    private long files;
    private long bytes;
    private Instant newest = Instant.EPOCH;

    private RootTar(OutputStream out, Part part, Map<String, Optional<FileBody>> changes) {
        this.out = new TarArchiveOutputStream(out, "UTF-8");
        this.out.setLongFileMode(TarArchiveOutputStream.LONGFILE_TRUNCATE);
        this.out.setBigNumberMode(TarArchiveOutputStream.BIGNUMBER_STAR);
        this.part = part;
        this.changes = new TreeMap<>(changes);
    }

    /**
     * What of a root is wanted.
     *
     * @param folder without a slash in front; empty for all of it
     * @param inside whether only what is in the folder is, with its path cut off, or everything but that
     */
    public record Part(String folder, boolean inside) {
        public static final Part ALL = new Part("", true);

        Optional<String> path(String path) {
            if (folder.isEmpty()) {
                return Optional.of(path);
            }
            boolean within = path.startsWith(folder + "/");
            if (inside) {
                return within
                        ? Optional.of(path.substring(folder.length() + 1))
                        : path.equals(folder) ? Optional.of("") : Optional.empty();
            }
            return within ? Optional.empty() : Optional.of(path);
        }
    }

    /** What was written; left: things no tar can hold, such as sockets. */
    public record Written(long files, long bytes, List<String> left) {}

    /** Writes it to a stream, which stays open. Where changes: files by their paths without a slash in front, empty for one that goes. */
    public static Written write(
            FileSystemReader root, Part part, Map<String, Optional<FileBody>> changes, OutputStream out)
            throws IOException {
        RootTar tar = new RootTar(out, part, changes);
        ExtTree.walk(root, tar::node);
        tar.added();
        tar.out.finish();
        return new Written(tar.files, tar.bytes, List.copyOf(tar.left));
    }

    private void node(ExtTree.Node node, ExtTree.Body body) throws IOException {
        Optional<String> path = part.path(node.path());
        Optional<FileBody> change = changes.getOrDefault(node.path(), null);
        if (path.isEmpty() || (change != null && change.isEmpty())) {
            return;
        }
        if (node.kind() == ExtTree.NodeKind.SOCKET) {
            left.add("/" + node.path());
            return;
        }
        newest = node.changed().isAfter(newest) ? node.changed() : newest;
        there.add(node.path());
        String name = path.get().isEmpty() ? "./" : "./" + path.get();
        if (change != null) {
            put(name, change.get(), node.owner(), node.group(), node.mode(), node.changed());
            return;
        }
        String first = node.kind() == ExtTree.NodeKind.FOLDER || node.names() < 2 ? null : named.get(node.number());
        if (first != null) {
            TarArchiveEntry link = new TarArchiveEntry(cut(name), TarConstants.LF_LINK, true);
            link.setLinkName(cut(first));
            put(link, node.owner(), node.group(), node.mode(), node.changed(), pax(name, first, 0, node, false));
            out.closeArchiveEntry();
            files++;
            return;
        }
        if (node.kind() != ExtTree.NodeKind.FOLDER && node.names() > 1) {
            named.put(node.number(), name);
        }
        TarArchiveEntry entry = new TarArchiveEntry(
                cut(node.kind() == ExtTree.NodeKind.FOLDER && !name.endsWith("/") ? name + "/" : name),
                flag(node.kind()),
                true);
        entry.setLinkName(cut(node.target()));
        entry.setSize(node.size());
        entry.setDevMajor(node.major());
        entry.setDevMinor(node.minor());
        put(
                entry,
                node.owner(),
                node.group(),
                node.mode(),
                node.changed(),
                pax(
                        node.kind() == ExtTree.NodeKind.FOLDER && !name.endsWith("/") ? name + "/" : name,
                        node.target(),
                        node.size(),
                        node,
                        true));
        if (node.kind() == ExtTree.NodeKind.FILE) {
            body.copy(out);
            bytes += node.size();
        }
        out.closeArchiveEntry();
        files++;
    }

    /** What was not there before, with the folders it needs. */
    private void added() throws IOException {
        for (Map.Entry<String, Optional<FileBody>> each : changes.entrySet()) {
            Optional<String> path = part.path(each.getKey());
            if (each.getValue().isEmpty() || there.contains(each.getKey()) || path.isEmpty()) {
                continue;
            }
            for (int slash = each.getKey().indexOf('/');
                    slash > 0;
                    slash = each.getKey().indexOf('/', slash + 1)) {
                String folder = each.getKey().substring(0, slash);
                Optional<String> place = part.path(folder);
                if (there.add(folder) && place.isPresent() && !place.get().isEmpty()) {
                    TarArchiveEntry entry =
                            new TarArchiveEntry(cut("./" + place.get() + "/"), TarConstants.LF_DIR, true);
                    put(entry, 0, 0, NEW_FOLDER, newest, named("./" + place.get() + "/", ""));
                    out.closeArchiveEntry();
                }
            }
            put(
                    "./" + path.get(),
                    each.getValue().get(),
                    0,
                    0,
                    each.getValue().get().mode(),
                    newest);
        }
    }

    private void put(String name, FileBody body, long owner, long group, int mode, Instant changed) throws IOException {
        TarArchiveEntry entry =
                new TarArchiveEntry(cut(name), body.link() ? TarConstants.LF_SYMLINK : TarConstants.LF_NORMAL, true);
        entry.setSize(body.link() ? 0 : body.bytes().length);
        entry.setLinkName(body.link() ? cut(body.text()) : "");
        put(entry, owner, group, mode, changed, named(name, body.link() ? body.text() : ""));
        if (!body.link()) {
            out.write(body.bytes());
            bytes += body.bytes().length;
        }
        out.closeArchiveEntry();
        files++;
    }

    private void put(TarArchiveEntry entry, long owner, long group, int mode, Instant changed, Map<String, byte[]> pax)
            throws IOException {
        Map<String, byte[]> records = new TreeMap<>(pax);
        if (owner > HEAD_NUMBER) {
            records.put("uid", text(Long.toString(owner)));
        }
        if (group > HEAD_NUMBER) {
            records.put("gid", text(Long.toString(group)));
        }
        if (changed.getNano() != 0 || changed.getEpochSecond() < 0) {
            records.put("mtime", text(seconds(changed)));
        }
        if (!records.isEmpty()) {
            byte[] content = records(records);
            TarArchiveEntry head = new TarArchiveEntry("./PaxHeaders/entry", TarConstants.LF_PAX_EXTENDED_HEADER_LC);
            head.setSize(content.length);
            out.putArchiveEntry(head);
            out.write(content);
            out.closeArchiveEntry();
        }
        entry.setIds((int) Math.min(owner, HEAD_NUMBER), (int) Math.min(group, HEAD_NUMBER));
        entry.setUserName("");
        entry.setGroupName("");
        entry.setMode(mode);
        entry.setModTime(Math.max(0, changed.getEpochSecond()) * 1000);
        out.putArchiveEntry(entry);
    }

    private static Map<String, byte[]> pax(
            String name, String target, long size, ExtTree.Node node, boolean attributes) {
        Map<String, byte[]> records = named(name, target);
        if (size > HEAD_SIZE) {
            records.put("size", text(Long.toString(size)));
        }
        if (attributes) {
            node.attributes().forEach((key, value) -> records.put("SCHILY.xattr." + key, value));
        }
        return records;
    }

    private static Map<String, byte[]> named(String name, String target) {
        Map<String, byte[]> records = new TreeMap<>();
        if (!name.equals(cut(name))) {
            records.put("path", text(name));
        }
        if (!target.equals(cut(target))) {
            records.put("linkpath", text(target));
        }
        return records;
    }

    /** What the head of an entry can hold; the record before it holds all of it. */
    private static String cut(String name) {
        byte[] whole = text(name);
        boolean plain = name.chars().allMatch(each -> each < 0x80);
        if (plain && whole.length <= HEAD_NAME) {
            return name;
        }
        String ascii = name.replaceAll("[^\\x20-\\x7e]", "_");
        return ascii.substring(0, Math.min(ascii.length(), HEAD_NAME));
    }

    private static String seconds(Instant instant) {
        return java.math.BigDecimal.valueOf(instant.getEpochSecond())
                .add(java.math.BigDecimal.valueOf(instant.getNano(), 9))
                .stripTrailingZeros()
                .toPlainString();
    }

    /** Each as "LENGTH KEY=VALUE" with a line break, its length counting itself. */
    private static byte[] records(Map<String, byte[]> records) throws IOException {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (Map.Entry<String, byte[]> each : records.entrySet()) {
            int rest = text(each.getKey()).length + each.getValue().length + 3;
            int length = rest + Integer.toString(rest).length();
            length = rest + Integer.toString(length).length();
            all.write(text(length + " " + each.getKey() + "="));
            all.write(each.getValue());
            all.write('\n');
        }
        return all.toByteArray();
    }

    private static byte[] text(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static byte flag(ExtTree.NodeKind kind) {
        return switch (kind) {
            case FOLDER -> TarConstants.LF_DIR;
            case FILE -> TarConstants.LF_NORMAL;
            case LINK -> TarConstants.LF_SYMLINK;
            case CHARACTER_DEVICE -> TarConstants.LF_CHR;
            case BLOCK_DEVICE -> TarConstants.LF_BLK;
            case PIPE, SOCKET -> TarConstants.LF_FIFO;
        };
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.OverBound;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Everything in an ext file system with its owners, permissions, links and extended attributes, from the top down (Linux kernel
 * documentation, filesystems/ext4, "Index nodes").
 */
public final class ExtTree {
    /** More than any root of such a board holds. */
    private static final int MOST = 4_000_000;

    private static final int DEEPEST = 200;

    private static final int CHARACTER_DEVICE = 0x2000;
    private static final int BLOCK_DEVICE = 0x6000;
    private static final int PIPE = 0x1000;
    private static final int MODE_BITS = 07777;
    /** i_mtime_extra: two bits more of the seconds, then nanoseconds. */
    private static final int MODIFIED_EXTRA = 136;

    private static final int EXTRA_SIZE = 128;

    private final ExtReader reader;
    private final Set<Long> above = new HashSet<>();
    private int seen;

    private ExtTree(ExtReader reader) {
        this.reader = reader;
    }

    /** What a thing in a file system can be. */
    public enum NodeKind {
        FOLDER,
        FILE,
        LINK,
        CHARACTER_DEVICE,
        BLOCK_DEVICE,
        PIPE,
        SOCKET
    }

    /**
     * One thing in it.
     *
     * @param path without a slash in front; empty for the top
     * @param number the same for two names of one file
     * @param names how many it has
     * @param mode its permissions with set-user, set-group and sticky bits
     * @param size in bytes, for files alone
     * @param target where a link leads
     * @param major and minor of a device
     * @param attributes extended ones by their full names, as listxattr(2) and getxattr(2) give them
     */
    public record Node(
            String path,
            long number,
            int names,
            NodeKind kind,
            int mode,
            long owner,
            long group,
            long size,
            Instant changed,
            String target,
            int major,
            int minor,
            Map<String, byte[]> attributes) {}

    /** A file's content, to be written out where it is wanted. */
    public interface Body {
        void copy(OutputStream out) throws IOException;
    }

    /** Told of everything, a folder before what is in it. */
    public interface Visitor {
        void node(Node node, Body body) throws IOException;
    }

    /**
     * @throws FileSystemException when its structures are broken
     * @throws OverBound when more is in it than any root holds
     */
    public static void walk(FileSystemReader reader, Visitor visitor) throws IOException {
        if (!(reader instanceof ExtReader ext)) {
            throw new FileSystemException("Only an ext file system keeps owners and permissions", -1);
        }
        new ExtTree(ext).folder("", ext.inode(ExtReader.ROOT_INODE), 0, visitor);
    }

    private void folder(String path, ExtReader.Inode folder, int depth, Visitor visitor) throws IOException {
        if (depth > DEEPEST || !above.add(folder.number())) {
            throw new FileSystemException("/" + path + " leads in a circle", -1);
        }
        visitor.node(node(path, folder), out -> {});
        List<ExtReader.Entry> entries = reader.entries(folder).stream()
                .filter(each -> !each.name().equals(".") && !each.name().equals(".."))
                .sorted(Comparator.comparing(ExtReader.Entry::name))
                .toList();
        for (ExtReader.Entry entry : entries) {
            if (entry.name().indexOf('/') >= 0 || entry.name().indexOf('\0') >= 0) {
                throw new FileSystemException("/" + path + " has a broken name in it", -1);
            }
            if (++seen > MOST) {
                throw new OverBound("More than " + MOST + " files are in it: that is no root of a board.", seen);
            }
            String below = path.isEmpty() ? entry.name() : path + "/" + entry.name();
            ExtReader.Inode inode = reader.inode(entry.inode());
            if (inode.is(ExtReader.FOLDER)) {
                folder(below, inode, depth + 1, visitor);
            } else {
                visitor.node(node(below, inode), out -> reader.copy(inode, out));
            }
        }
        above.remove(folder.number());
    }

    private Node node(String path, ExtReader.Inode inode) throws IOException {
        byte[] raw = inode.raw();
        NodeKind kind = kind(inode, path);
        int[] device = device(kind, raw);
        return new Node(
                path,
                inode.number(),
                LittleEndian.u16(raw, 26),
                kind,
                inode.mode() & MODE_BITS,
                LittleEndian.u16(raw, 2) | (long) LittleEndian.u16(raw, 120) << 16,
                LittleEndian.u16(raw, 24) | (long) LittleEndian.u16(raw, 122) << 16,
                kind == NodeKind.FILE ? inode.size() : 0,
                changed(raw),
                kind == NodeKind.LINK ? new String(reader.content(inode), StandardCharsets.UTF_8) : "",
                device[0],
                device[1],
                ExtAttributes.of(reader, raw));
    }

    private static NodeKind kind(ExtReader.Inode inode, String path) throws FileSystemException {
        return switch (inode.mode() & 0xF000) {
            case ExtReader.FOLDER -> NodeKind.FOLDER;
            case ExtReader.REGULAR -> NodeKind.FILE;
            case ExtReader.SYMBOLIC_LINK -> NodeKind.LINK;
            case CHARACTER_DEVICE -> NodeKind.CHARACTER_DEVICE;
            case BLOCK_DEVICE -> NodeKind.BLOCK_DEVICE;
            case PIPE -> NodeKind.PIPE;
            case 0xC000 -> NodeKind.SOCKET;
            default -> throw new FileSystemException("/" + path + " is of no kind there is", -1);
        };
    }

    /** The old form in the first block pointer, else the new one in the second (Linux kernel, fs/ext4/inode.c, ext4_iget). */
    private static int[] device(NodeKind kind, byte[] raw) {
        if (kind != NodeKind.CHARACTER_DEVICE && kind != NodeKind.BLOCK_DEVICE) {
            return new int[] {0, 0};
        }
        int old = LittleEndian.u16(raw, 40);
        if (old != 0) {
            return new int[] {old >> 8, old & 0xFF};
        }
        int wide = (int) LittleEndian.u32(raw, 44);
        return new int[] {(wide & 0xFFF00) >> 8, (wide & 0xFF) | (wide >> 12 & 0xFFF00)};
    }

    private static Instant changed(byte[] raw) {
        long seconds = (int) LittleEndian.u32(raw, 16);
        boolean extra = raw.length >= MODIFIED_EXTRA + 4 && LittleEndian.u16(raw, EXTRA_SIZE) >= 12;
        long more = extra ? LittleEndian.u32(raw, MODIFIED_EXTRA) : 0;
        long nanos = more >>> 2;
        return Instant.ofEpochSecond(seconds + ((more & 3) << 32), nanos < 1_000_000_000 ? nanos : 0);
    }
}

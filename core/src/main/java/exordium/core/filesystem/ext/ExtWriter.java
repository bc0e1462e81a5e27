// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Changes small files of ext2, ext3 and ext4 in place: made, replaced, linked, taken out (Linux kernel documentation,
 * filesystems/ext4). Only file systems that were let go cleanly and have no feature that is not followed here are touched;
 * everything else is refused before its first byte changes. Meant to work on a staged device, so that a change is carried out
 * whole or not at all.
 */
public final class ExtWriter {
    private static final int REGULAR = 0x8000;
    private static final int LINK = 0xA000;
    private static final int FOLDER = 0x4000;
    private static final int EXTENTS = 0x80000;
    private static final int HASHED = 0x1000;
    private static final int FILE_TYPES = 0x2;
    private static final int EXTENT_MAPS = 0x40;
    private static final int SHORT_LINK = 60;
    private static final int DIRECT = 12;
    private static final int EXTENTS_IN_INODE = 4;
    private static final int EXTENT_MAGIC = 0xF30A;
    private static final int LARGEST = 1 << 20;
    private static final int FOLDER_MODE = 0755;
    /** Features of incompatible kind that are followed: file types, meta groups, extents, 64 bits, flexible groups, a seed. */
    private static final long FOLLOWED = 0x2 | 0x10 | 0x40 | 0x80 | 0x200 | 0x2000;
    /** The same of those that bind writers only: sparse copies, large files, tree folders, huge files, sums, links, room. */
    private static final long FOLLOWED_WRITING = 0x1 | 0x2 | 0x4 | 0x8 | 0x10 | 0x20 | 0x40 | 0x400;

    private final BlockDevice slice;
    private final ExtSuperblock layout;
    private final byte[] superblock;
    private final ExtChecksums sums;
    private final ExtSpace space;
    private final ExtReader reader;
    private final ExtBlockMap map;
    private final long time;

    private ExtWriter(BlockDevice slice, byte[] superblock) throws IOException {
        this.slice = slice;
        this.superblock = superblock;
        this.layout = ExtSuperblock.parse(superblock);
        this.sums = new ExtChecksums(superblock);
        this.space = new ExtSpace(slice, layout, superblock, sums);
        this.reader = new ExtReader(slice);
        this.map = new ExtBlockMap(slice, layout.blockSize(), layout.blocks());
        this.time = LittleEndian.u32(superblock, 48);
    }

    /** @throws FileSystemException when it cannot be changed here, saying why; nothing was */
    public static ExtWriter of(BlockDevice slice) throws IOException {
        byte[] superblock = slice.bytes(ExtSuperblock.OFFSET, 1024);
        long incompatible = LittleEndian.u32(superblock, 96);
        long writing = LittleEndian.u32(superblock, 100);
        ExtWriter writer = new ExtWriter(slice, superblock);
        if (writer.layout.needsRecovery() || (LittleEndian.u16(superblock, 58) & 3) != 1) {
            throw new FileSystemException(
                    slice.name() + " was not let go cleanly; start it once, or have it checked, before it is changed",
                    -1);
        }
        if ((incompatible & ~FOLLOWED) != 0 || (writing & ~FOLLOWED_WRITING) != 0) {
            throw new FileSystemException(
                    slice.name() + " has features that are not followed when writing (incompatible "
                            + Long.toHexString(incompatible & ~FOLLOWED) + ", writing "
                            + Long.toHexString(writing & ~FOLLOWED_WRITING) + ")",
                    -1);
        }
        return writer;
    }

    /** Makes the file with the folders above it, or replaces its content; owner and permissions of one that is there stay. */
    public void write(String path, FileBody body) throws IOException {
        if (body.bytes().length > LARGEST) {
            throw new FileSystemException(path + " is larger than is written here", -1);
        }
        Optional<ExtReader.Inode> there = reader.at(path);
        boolean fits = there.isPresent()
                && (there.get().mode() & 0xF000) == (body.link() ? LINK : REGULAR)
                && !reader.isInline(there.get());
        if (fits) {
            byte[] raw = there.get().raw();
            giveBlocks(there.get());
            fill(raw, body);
            put(there.get().number(), raw);
        } else {
            if (there.isPresent()) {
                remove(path);
            }
            make(path, body);
        }
        space.write();
    }

    /** @throws FileSystemException when it is no file and no link */
    public void remove(String path) throws IOException {
        ExtReader.Inode inode = reader.at(path).orElseThrow(() -> new FileSystemException("There is no " + path, -1));
        int kind = inode.mode() & 0xF000;
        if (kind != REGULAR && kind != LINK) {
            throw new FileSystemException(path + " is no file", -1);
        }
        ExtReader.Inode above = folder(parent(path));
        ExtFolder entries = entries(above);
        entries.remove(name(path));
        byte[] raw = inode.raw();
        int links = LittleEndian.u16(raw, 26);
        if (links > 1) {
            LittleEndian.putU16(raw, 26, links - 1);
            put(inode.number(), raw);
        } else {
            if (LittleEndian.u32(raw, 104) != 0) {
                throw new FileSystemException(path + " has attributes of its own that are not followed here", -1);
            }
            giveBlocks(inode);
            space.giveInode(inode.number(), false);
            slice.write(reader.place(inode.number()), ByteBuffer.wrap(new byte[raw.length]));
        }
        putFolder(above, entries.bytes(), false);
        space.write();
    }

    private static String parent(String path) {
        int slash = path.lastIndexOf('/');
        return slash <= 0 ? "/" : path.substring(0, slash);
    }

    private static String name(String path) {
        return path.substring(path.lastIndexOf('/') + 1);
    }

    /** The folder at a path, made where it is not there. */
    private ExtReader.Inode folder(String path) throws IOException {
        Optional<ExtReader.Inode> there = reader.resolved(path);
        if (there.isPresent()) {
            if ((there.get().mode() & 0xF000) != FOLDER) {
                throw new FileSystemException(path + " is no folder", -1);
            }
            return there.get();
        }
        ExtReader.Inode above = folder(parent(path));
        long number = space.takeInode(true);
        byte[] raw = fresh(FOLDER | FOLDER_MODE, 2);
        byte[] block = ExtFolder.empty(
                        number, above.number(), layout.blockSize(), sums.tail(), type(ExtFolder.FOLDER_TYPE))
                .bytes();
        long place = space.takeBlocks(1);
        mapTo(raw, List.of(new ExtBlockMap.Run(0, place, 1)), block.length);
        sums.folder(number, raw, block);
        slice.write(place * layout.blockSize(), ByteBuffer.wrap(block));
        put(number, raw);
        LittleEndian.putU16(above.raw(), 26, LittleEndian.u16(above.raw(), 26) + 1);
        enter(above, name(path), number, ExtFolder.FOLDER_TYPE);
        return reader.resolved(path).orElseThrow();
    }

    private void make(String path, FileBody body) throws IOException {
        ExtReader.Inode above = folder(parent(path));
        long number = space.takeInode(false);
        byte[] raw = fresh((body.link() ? LINK : REGULAR) | body.mode(), 1);
        fill(raw, body);
        put(number, raw);
        enter(above, name(path), number, body.link() ? ExtFolder.LINK_TYPE : ExtFolder.FILE_TYPE);
    }

    private byte[] fresh(int mode, int links) {
        byte[] raw = new byte[layout.inodeSize()];
        LittleEndian.putU16(raw, 0, mode);
        LittleEndian.putU16(raw, 26, links);
        for (int at : new int[] {8, 12, 16}) {
            LittleEndian.putU32(raw, at, time);
        }
        if (raw.length > 128) {
            LittleEndian.putU16(raw, 128, Math.min(32, raw.length - 128));
            LittleEndian.putU32(raw, 144, time);
        }
        return raw;
    }

    /** Puts a content where there is room for it, and the inode's map and size after it. */
    private void fill(byte[] raw, FileBody body) throws IOException {
        byte[] bytes = body.bytes();
        LittleEndian.putU32(raw, 16, time);
        if (body.link() && bytes.length < SHORT_LINK) {
            Arrays.fill(raw, 40, 100, (byte) 0);
            System.arraycopy(bytes, 0, raw, 40, bytes.length);
            LittleEndian.putU32(raw, 32, LittleEndian.u32(raw, 32) & ~(long) EXTENTS);
            size(raw, bytes.length, 0);
            return;
        }
        int count = (bytes.length + layout.blockSize() - 1) / layout.blockSize();
        if (count == 0) {
            mapTo(raw, List.of(), 0);
            return;
        }
        List<ExtBlockMap.Run> runs = taken(count);
        map.overwrite(runs, Arrays.copyOf(bytes, count * layout.blockSize()));
        mapTo(raw, runs, bytes.length);
    }

    /** Together where there is such room, else in as few pieces as an inode holds by itself. */
    private List<ExtBlockMap.Run> taken(int count) throws IOException {
        List<ExtBlockMap.Run> runs = new ArrayList<>();
        int most = count;
        for (int done = 0; done < count; ) {
            int wanted = Math.min(most, count - done);
            OptionalLong block = space.together(wanted);
            if (block.isPresent()) {
                runs.add(new ExtBlockMap.Run(done, block.getAsLong(), wanted));
                done += wanted;
            } else if (most == 1 || runs.size() == EXTENTS_IN_INODE) {
                throw new FileSystemException(
                        slice.name() + " has no room left for " + (long) count * layout.blockSize() + " bytes", -1);
            } else {
                most = (most + 1) / 2;
            }
        }
        return runs;
    }

    private void size(byte[] raw, long bytes, long blocks) {
        LittleEndian.putU32(raw, 4, bytes);
        LittleEndian.putU32(raw, 108, 0);
        long attributes = LittleEndian.u32(raw, 104) == 0 ? 0 : 1;
        LittleEndian.putU32(raw, 28, (blocks + attributes) * layout.blockSize() / 512);
    }

    private void mapTo(byte[] raw, List<ExtBlockMap.Run> runs, long bytes) throws IOException {
        Arrays.fill(raw, 40, 100, (byte) 0);
        long blocks = runs.stream().mapToLong(ExtBlockMap.Run::count).sum();
        long flags = LittleEndian.u32(raw, 32) & ~(long) EXTENTS;
        if ((LittleEndian.u32(superblock, 96) & EXTENT_MAPS) != 0) {
            LittleEndian.putU32(raw, 32, flags | EXTENTS);
            putExtents(raw, runs);
        } else {
            LittleEndian.putU32(raw, 32, flags);
            blocks += putPointers(raw, runs, (int) blocks);
        }
        size(raw, bytes, blocks);
    }

    private static void putExtents(byte[] raw, List<ExtBlockMap.Run> runs) throws FileSystemException {
        if (runs.size() > EXTENTS_IN_INODE) {
            throw new FileSystemException("A file lies in more pieces than are followed here", -1);
        }
        LittleEndian.putU16(raw, 40, EXTENT_MAGIC);
        LittleEndian.putU16(raw, 42, runs.size());
        LittleEndian.putU16(raw, 44, EXTENTS_IN_INODE);
        for (int i = 0; i < runs.size(); i++) {
            int at = 52 + i * 12;
            LittleEndian.putU32(raw, at, runs.get(i).logical());
            LittleEndian.putU16(raw, at + 4, runs.get(i).count());
            LittleEndian.putU16(raw, at + 6, (int) (runs.get(i).block() >>> 32));
            LittleEndian.putU32(raw, at + 8, runs.get(i).block() & 0xFFFF_FFFFL);
        }
    }

    /** Twelve in the inode, the next by a table, those behind by a table of tables; gives how many blocks the tables take. */
    private long putPointers(byte[] raw, List<ExtBlockMap.Run> runs, int count) throws IOException {
        long[] pointers = new long[count];
        for (ExtBlockMap.Run run : runs) {
            for (int i = 0; i < run.count(); i++) {
                pointers[(int) run.logical() + i] = run.block() + i;
            }
        }
        int each = layout.blockSize() / 4;
        for (int i = 0; i < Math.min(DIRECT, count); i++) {
            LittleEndian.putU32(raw, 40 + i * 4, pointers[i]);
        }
        if (count <= DIRECT) {
            return 0;
        }
        LittleEndian.putU32(raw, 40 + DIRECT * 4, table(pointers, DIRECT, Math.min(count, DIRECT + each)));
        if (count <= DIRECT + each) {
            return 1;
        }
        List<Long> tables = new ArrayList<>();
        for (int from = DIRECT + each; from < count; from += each) {
            tables.add(table(pointers, from, Math.min(count, from + each)));
        }
        long[] second = tables.stream().mapToLong(Long::longValue).toArray();
        LittleEndian.putU32(raw, 44 + DIRECT * 4, table(second, 0, second.length));
        return 2L + second.length;
    }

    private long table(long[] pointers, int from, int to) throws IOException {
        byte[] table = new byte[layout.blockSize()];
        if (to - from > table.length / 4) {
            throw new FileSystemException("A file is larger than is written on an old file system here", -1);
        }
        for (int i = from; i < to; i++) {
            LittleEndian.putU32(table, (i - from) * 4, pointers[i]);
        }
        long block = space.takeBlocks(1);
        slice.write(block * layout.blockSize(), ByteBuffer.wrap(table));
        return block;
    }

    private void giveBlocks(ExtReader.Inode inode) throws IOException {
        if (reader.isShortLink(inode)) {
            return;
        }
        List<Long> own = new ArrayList<>();
        for (ExtBlockMap.Run run : reader.runs(inode, own)) {
            space.giveBlocks(run.block(), run.count());
        }
        for (long block : own) {
            space.giveBlocks(block, 1);
        }
    }

    /** A folder whose map needs blocks of its own holds more names than any this writes to. */
    private void requireShallow(ExtReader.Inode inode) throws FileSystemException {
        byte[] raw = inode.raw();
        boolean extents = (LittleEndian.u32(raw, 32) & EXTENTS) != 0;
        boolean deep = extents
                ? LittleEndian.u16(raw, 46) != 0
                : !Arrays.equals(raw, 40 + DIRECT * 4, 100, new byte[12], 0, 12);
        if (deep) {
            throw new FileSystemException("A folder is in more pieces than are followed here", -1);
        }
    }

    private ExtFolder entries(ExtReader.Inode folder) throws IOException {
        if (reader.content(folder).length < layout.blockSize()
                || reader.content(folder).length % layout.blockSize() != 0) {
            throw new FileSystemException("A folder does not end with a block", -1);
        }
        ExtFolder entries = new ExtFolder(reader.content(folder), layout.blockSize(), sums.tail());
        long flags = LittleEndian.u32(folder.raw(), 32);
        if ((flags & HASHED) != 0) {
            entries.unhash();
            LittleEndian.putU32(folder.raw(), 32, flags & ~(long) HASHED);
        }
        return entries;
    }

    /** Without the feature of file types that byte of an entry is the upper half of its name's length. */
    private int type(int type) {
        return (LittleEndian.u32(superblock, 96) & FILE_TYPES) == 0 ? 0 : type;
    }

    private void enter(ExtReader.Inode folder, String name, long number, int type) throws IOException {
        int kind = type(type);
        ExtFolder entries = entries(folder);
        if (entries.add(name, number, kind)) {
            putFolder(folder, entries.bytes(), false);
            return;
        }
        ExtFolder larger = entries.larger();
        larger.add(name, number, kind);
        putFolder(folder, larger.bytes(), true);
    }

    private void putFolder(ExtReader.Inode folder, byte[] content, boolean larger) throws IOException {
        byte[] raw = folder.raw();
        List<ExtBlockMap.Run> runs = new ArrayList<>(reader.runs(folder));
        if (larger) {
            requireShallow(folder);
            long block = space.takeBlocks(1);
            ExtBlockMap.Run last = runs.get(runs.size() - 1);
            if (last.block() + last.count() == block) {
                runs.set(runs.size() - 1, new ExtBlockMap.Run(last.logical(), last.block(), last.count() + 1));
            } else {
                runs.add(new ExtBlockMap.Run(content.length / layout.blockSize() - 1L, block, 1));
            }
            mapTo(raw, runs, content.length);
        }
        LittleEndian.putU32(raw, 16, time);
        for (int at = 0; at < content.length; at += layout.blockSize()) {
            byte[] block = Arrays.copyOfRange(content, at, at + layout.blockSize());
            sums.folder(folder.number(), raw, block);
            System.arraycopy(block, 0, content, at, block.length);
        }
        map.overwrite(runs, content);
        put(folder.number(), raw);
    }

    private void put(long number, byte[] raw) throws IOException {
        sums.inode(number, raw);
        slice.write(reader.place(number), ByteBuffer.wrap(raw));
    }
}

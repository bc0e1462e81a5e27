// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.BlockDevice;
import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystemSummary;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Files of ext2, ext3 and ext4, read-only (Linux kernel documentation, filesystems/ext4). Folders are read in order of
 * their blocks, which hashed folders keep valid. The journal is not replayed: a drive pulled out while it was in use
 * shows what was last put in its place.
 */
public final class ExtReader implements FileSystemReader {
    static final int ROOT_INODE = 2;

    private static final int MOST_LINKS = 16;
    private static final int MOST_NAMES = 100_000;
    /** A file with holes may be larger than its file system, but not without end. */
    private static final long MOST_SPARSE = 16;

    static final int FOLDER = 0x4000;
    static final int REGULAR = 0x8000;
    static final int SYMBOLIC_LINK = 0xA000;

    private static final int FORMAT_MASK = 0xF000;
    private static final int EXTENTS_FLAG = 0x80000;
    private static final int MODIFIED = 0x10;
    private static final int INLINE_FLAG = 0x10000000;

    private final BlockDevice slice;
    private final ExtSuperblock superblock;
    private final ExtBlockMap map;

    public ExtReader(BlockDevice slice) throws IOException {
        this.slice = slice;
        this.superblock = ExtSuperblock.parse(slice.bytes(ExtSuperblock.OFFSET, 1024));
        this.map = new ExtBlockMap(slice, superblock.blockSize(), superblock.blocks());
    }

    @Override
    public FileSystemSummary summary() {
        long used = (superblock.blocks() - superblock.freeBlocks()) * superblock.blockSize();
        // One that says it is larger than what it lies on says nothing of what is in use there.
        boolean told = extent().compareTo(slice.size()) <= 0;
        return new FileSystemSummary(
                superblock.kind(),
                superblock.label(),
                superblock.uuid(),
                told ? Optional.of(ByteSize.of(used)) : Optional.empty());
    }

    @Override
    public ByteSize extent() {
        return ByteSize.of(superblock.blocks() * superblock.blockSize());
    }

    @Override
    public void allocated(Allocation allocation) throws IOException {
        if (superblock.needsRecovery()) {
            throw new FileSystemException("Its journal was not played back, so its maps are not to be trusted", -1);
        }
        int blockSize = superblock.blockSize();
        // Before the first block stand the boot sectors of old times.
        allocation.taken(0, (long) (superblock.firstDataBlock() + 1) * blockSize);
        for (long group = 0; group < superblock.groups(); group++) {
            byte[] descriptor = descriptor(group);
            long first = superblock.firstDataBlock() + group * superblock.blocksPerGroup();
            long count = Math.min(superblock.blocksPerGroup(), superblock.blocks() - first);
            byte[] bitmap;
            if (superblock.bitmapMissing(descriptor)) {
                bitmap = superblock.structuresOf(group, descriptor);
            } else {
                long place = wide(descriptor, 0, 32);
                if (place <= 0 || place >= superblock.blocks()) {
                    throw new FileSystemException("Group " + group + " names no block bitmap", -1);
                }
                bitmap = at(place * blockSize, blockSize);
            }
            tell(bitmap, first, count, allocation);
        }
    }

    private void tell(byte[] bitmap, long first, long count, Allocation allocation) {
        int blockSize = superblock.blockSize();
        long begin = -1;
        for (int i = 0; i <= count; i++) {
            boolean taken = i < count && (bitmap[i >> 3] & 1 << (i & 7)) != 0;
            if (taken && begin < 0) {
                begin = i;
            } else if (!taken && begin >= 0) {
                allocation.taken((first + begin) * blockSize, (i - begin) * blockSize);
                begin = -1;
            }
        }
    }

    private long wide(byte[] descriptor, int low, int high) {
        return LittleEndian.u32(descriptor, low)
                | (superblock.descriptorSize() >= 64 ? LittleEndian.u32(descriptor, high) << 32 : 0);
    }

    private byte[] descriptor(long group) throws IOException {
        return at(superblock.descriptorPlace(group), superblock.descriptorSize());
    }

    @Override
    public List<String> list(String folder) throws IOException {
        Optional<Inode> inode = resolve(folder, 0);
        if (inode.isEmpty() || !inode.get().is(FOLDER)) {
            return List.of();
        }
        return entries(inode.get()).stream()
                .map(Entry::name)
                .filter(name -> !name.equals(".") && !name.equals(".."))
                .toList();
    }

    @Override
    public Optional<byte[]> read(String path) throws IOException {
        Optional<Inode> inode = resolve(path, 0);
        return inode.isPresent() && inode.get().is(REGULAR) ? Optional.of(content(inode.get())) : Optional.empty();
    }

    /** Seconds since 1970 (ext4 documentation, inode table: i_mtime). */
    @Override
    public Optional<Instant> changed(String path) throws IOException {
        return resolve(path, 0).map(inode -> Instant.ofEpochSecond(LittleEndian.u32(inode.raw(), MODIFIED)));
    }

    record Inode(long number, int mode, long size, long flags, byte[] raw) {
        boolean is(int format) {
            return (mode & FORMAT_MASK) == format;
        }
    }

    record Entry(long inode, String name) {}

    private Optional<Inode> resolve(String path, int links) throws IOException {
        if (links > MOST_LINKS) {
            throw new FileSystemException(path + ": too many symbolic links", -1);
        }
        Inode at = inode(ROOT_INODE);
        String walked = "";
        String[] names = path.split("/");
        for (int i = 0; i < names.length; i++) {
            String name = names[i];
            if (name.isEmpty() || name.equals(".")) {
                continue;
            }
            if (!at.is(FOLDER)) {
                return Optional.empty();
            }
            Optional<Entry> entry = entries(at).stream()
                    .filter(candidate -> candidate.name().equals(name))
                    .findFirst();
            if (entry.isEmpty()) {
                return Optional.empty();
            }
            at = inode(entry.get().inode());
            if (at.is(SYMBOLIC_LINK)) {
                String target = new String(content(at), StandardCharsets.UTF_8);
                String rest = String.join("/", List.of(names).subList(i + 1, names.length));
                String base = target.startsWith("/") ? target : walked + "/" + target;
                return resolve(base + "/" + rest, links + 1);
            }
            walked += "/" + name;
        }
        return Optional.of(at);
    }

    List<Entry> entries(Inode folder) throws IOException {
        byte[] content = content(folder);
        List<Entry> entries = new ArrayList<>();
        int at = 0;
        while (at + 8 <= content.length && entries.size() < MOST_NAMES) {
            int length = LittleEndian.u16(content, at + 4);
            int nameLength = LittleEndian.u8(content, at + 6);
            if (length < 8 || at + length > content.length || nameLength > length - 8) {
                throw new FileSystemException("Folder in inode " + folder.number() + " has a broken entry", -1);
            }
            long inode = LittleEndian.u32(content, at);
            if (inode != 0 && nameLength > 0) {
                entries.add(new Entry(inode, new String(content, at + 8, nameLength, StandardCharsets.UTF_8)));
            }
            at += length;
        }
        return entries;
    }

    Inode inode(long number) throws IOException {
        if (number < 1 || number > superblock.inodes()) {
            throw new FileSystemException("There is no inode " + number, -1);
        }
        byte[] raw = at(place(number), superblock.inodeSize());
        int mode = LittleEndian.u16(raw, 0);
        long size = LittleEndian.u32(raw, 4);
        if ((mode & FORMAT_MASK) == REGULAR) {
            size |= LittleEndian.u32(raw, 108) << 32;
        }
        return new Inode(number, mode, size, LittleEndian.u32(raw, 32), raw);
    }

    /** Where an inode stands, in bytes. */
    long place(long number) throws IOException {
        long group = (number - 1) / superblock.inodesPerGroup();
        long index = (number - 1) % superblock.inodesPerGroup();
        long table = wide(descriptor(group), 8, 40);
        if (table <= 0 || table >= superblock.blocks()) {
            throw new FileSystemException(
                    "Group " + group + " names no inode table", superblock.descriptorPlace(group));
        }
        return table * superblock.blockSize() + index * superblock.inodeSize();
    }

    /** What is at a path, a link itself where it is one; links above it are followed. */
    Optional<Inode> at(String path) throws IOException {
        int slash = path.lastIndexOf('/');
        Optional<Inode> folder = resolve(path.substring(0, Math.max(0, slash)), 0);
        if (folder.isEmpty() || !folder.get().is(FOLDER)) {
            return Optional.empty();
        }
        String name = path.substring(slash + 1);
        for (Entry entry : entries(folder.get())) {
            if (entry.name().equals(name)) {
                return Optional.of(inode(entry.inode()));
            }
        }
        return Optional.empty();
    }

    /** What is at a path, with links followed. */
    Optional<Inode> resolved(String path) throws IOException {
        return resolve(path, 0);
    }

    boolean isInline(Inode inode) {
        return (inode.flags() & INLINE_FLAG) != 0;
    }

    boolean isShortLink(Inode inode) {
        return inode.is(SYMBOLIC_LINK) && inode.size() < 60;
    }

    @Override
    public Optional<FileBody> body(String path) throws IOException {
        Optional<Inode> inode = at(path);
        boolean whole =
                inode.isPresent() && (inode.get().is(REGULAR) || inode.get().is(SYMBOLIC_LINK));
        return whole
                ? Optional.of(new FileBody(
                        content(inode.get()),
                        inode.get().mode() & 07777,
                        inode.get().is(SYMBOLIC_LINK)))
                : Optional.empty();
    }

    byte[] content(Inode inode) throws IOException {
        if (inode.size() < 0 || inode.size() > LARGEST_FILE) {
            throw new FileSystemException("The file in inode " + inode.number() + " is too large to be read whole", -1);
        }
        int size = (int) inode.size();
        if (inode.is(SYMBOLIC_LINK) && size < 60) {
            return java.util.Arrays.copyOfRange(inode.raw(), 40, 40 + size);
        }
        if ((inode.flags() & INLINE_FLAG) != 0) {
            if (size > 60) {
                throw new FileSystemException("Inode " + inode.number() + " keeps data where it is not read", -1);
            }
            return java.util.Arrays.copyOfRange(inode.raw(), 40, 40 + size);
        }
        return map.read(runs(inode), size);
    }

    List<ExtBlockMap.Run> runs(Inode inode) throws IOException {
        return runs(inode, new ArrayList<>());
    }

    /** The blocks that hold the map itself go to a list. */
    List<ExtBlockMap.Run> runs(Inode inode, List<Long> own) throws IOException {
        byte[] root = java.util.Arrays.copyOfRange(inode.raw(), 40, 100);
        return map.runs(root, (inode.flags() & EXTENTS_FLAG) != 0, inode.size(), own);
    }

    @Override
    public List<FileEntry> entries(String folder) throws IOException {
        Optional<Inode> inode = resolve(folder, 0);
        if (inode.isEmpty() || !inode.get().is(FOLDER)) {
            return List.of();
        }
        List<FileEntry> found = new ArrayList<>();
        for (Entry entry : entries(inode.get())) {
            if (entry.name().equals(".") || entry.name().equals("..")) {
                continue;
            }
            Inode each = inode(entry.inode());
            FileEntry.EntryKind kind = each.is(FOLDER)
                    ? FileEntry.EntryKind.FOLDER
                    : each.is(REGULAR)
                            ? FileEntry.EntryKind.FILE
                            : each.is(SYMBOLIC_LINK) ? FileEntry.EntryKind.LINK : FileEntry.EntryKind.OTHER;
            found.add(new FileEntry(entry.name(), kind, kind == FileEntry.EntryKind.FILE ? each.size() : 0));
        }
        return found;
    }

    @Override
    public boolean copy(String path, OutputStream out) throws IOException {
        Optional<Inode> inode = resolve(path, 0);
        if (inode.isEmpty() || !inode.get().is(REGULAR)) {
            return false;
        }
        copy(inode.get(), out);
        return true;
    }

    void copy(Inode file, OutputStream out) throws IOException {
        if (file.size() < 0 || file.size() > superblock.blocks() * superblock.blockSize() * MOST_SPARSE) {
            throw new FileSystemException("The file in inode " + file.number() + " has an impossible size", -1);
        }
        if ((file.flags() & INLINE_FLAG) != 0) {
            out.write(content(file));
        } else {
            map.copy(runs(file), file.size(), out);
        }
    }

    /** A block of the file system, whole. */
    byte[] block(long number) throws IOException {
        if (number <= 0 || number >= superblock.blocks()) {
            throw new FileSystemException("A block number is past the end of the file system", -1);
        }
        return at(number * superblock.blockSize(), superblock.blockSize());
    }

    /**
     * Writes other content of the very same length into a file's own blocks; nothing else of the file system changes.
     *
     * @throws FileSystemException when there is no such file of that length, its data are not in blocks of its own, or the file
     *     system was not let go cleanly; nothing is changed then
     */
    public void overwrite(String path, byte[] content) throws IOException {
        Inode inode = resolve(path, 0)
                .filter(each -> each.is(REGULAR) && each.size() == content.length)
                .orElseThrow(() -> new FileSystemException("There is no " + path + " of that length", -1));
        if ((inode.flags() & INLINE_FLAG) != 0) {
            throw new FileSystemException(path + " is kept where it cannot be changed in place", -1);
        }
        if (superblock.needsRecovery()) {
            throw new FileSystemException(
                    slice.name() + " was not let go cleanly; start it once, or have it checked, before it is changed",
                    -1);
        }
        map.overwrite(runs(inode), content);
    }

    private byte[] at(long position, int length) throws IOException {
        if (position < 0 || position > slice.size().bytes() - length) {
            throw new FileSystemException("A structure would be past the end of the file system", position);
        }
        return slice.bytes(position, length);
    }
}

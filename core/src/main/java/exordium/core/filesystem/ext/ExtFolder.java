// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * The blocks of a folder and the entries in them (Linux kernel documentation, filesystems/ext4, "Directory entries"). A hashed
 * folder is made a plain one before a name comes to it: its leaves are plain already, and every kernel reads both.
 */
final class ExtFolder {
    private static final int HEAD = 8;
    private static final int DOTS = 24;

    private final byte[] content;
    private final int blockSize;
    private final int tail;

    ExtFolder(byte[] content, int blockSize, int tail) {
        this.content = content;
        this.blockSize = blockSize;
        this.tail = tail;
    }

    /** A folder with nothing in it but the ways to itself and up. Where type: of a folder, as this file system writes it. */
    static ExtFolder empty(long self, long above, int blockSize, int tail, int type) {
        ExtFolder made = new ExtFolder(new byte[blockSize], blockSize, tail);
        made.entry(0, 12, self, ".", type);
        made.entry(12, blockSize - tail - 12, above, "..", type);
        return made;
    }

    static final int FILE_TYPE = 1;
    static final int FOLDER_TYPE = 2;
    static final int LINK_TYPE = 7;

    private void entry(int at, int length, long inode, String name, int type) {
        byte[] letters = name.getBytes(StandardCharsets.UTF_8);
        LittleEndian.putU32(content, at, inode);
        LittleEndian.putU16(content, at + 4, length);
        content[at + 6] = (byte) letters.length;
        content[at + 7] = (byte) type;
        System.arraycopy(letters, 0, content, at + HEAD, letters.length);
    }

    byte[] bytes() {
        return content;
    }

    private int length(int at) throws FileSystemException {
        int length = LittleEndian.u16(content, at + 4);
        int end = at / blockSize * blockSize + blockSize;
        if (length < HEAD || length % 4 != 0 || at + length > end) {
            throw new FileSystemException("A folder has a broken entry", -1);
        }
        return length;
    }

    /** What a name takes, up to the next multiple of four. */
    private static int room(int letters) {
        return (HEAD + letters + 3) / 4 * 4;
    }

    /** Makes the blocks of the hash tree plain ones: without files, since none of their names stand there. */
    void unhash() {
        for (int block = 0; block < content.length; block += blockSize) {
            boolean index = block == 0
                    || (LittleEndian.u32(content, block) == 0 && LittleEndian.u16(content, block + 4) == blockSize);
            if (index) {
                int from = block == 0 ? 12 : 0;
                int named = block == 0 ? DOTS : HEAD;
                Arrays.fill(content, block + named, block + blockSize, (byte) 0);
                LittleEndian.putU16(content, block + from + 4, blockSize - tail - from);
            }
        }
    }

    /** Puts a name where there is room for it; false where there is none. */
    boolean add(String name, long inode, int type) throws FileSystemException {
        int needed = room(name.getBytes(StandardCharsets.UTF_8).length);
        for (int block = 0; block < content.length; block += blockSize) {
            int end = block + blockSize - tail;
            for (int at = block; at < end; ) {
                int length = length(at);
                boolean free = LittleEndian.u32(content, at) == 0;
                int used = free ? 0 : room(LittleEndian.u8(content, at + 6));
                if (length - used >= needed) {
                    if (!free) {
                        LittleEndian.putU16(content, at + 4, used);
                    }
                    entry(at + used, length - used, inode, name, type);
                    return true;
                }
                at += length;
            }
        }
        return false;
    }

    /** The same folder with one block more. */
    ExtFolder larger() {
        ExtFolder larger = new ExtFolder(Arrays.copyOf(content, content.length + blockSize), blockSize, tail);
        LittleEndian.putU16(larger.content, content.length + 4, blockSize - tail);
        return larger;
    }

    /** Takes a name out; its room goes to the entry before it in the same block. */
    void remove(String name) throws FileSystemException {
        byte[] letters = name.getBytes(StandardCharsets.UTF_8);
        for (int block = 0; block < content.length; block += blockSize) {
            int before = -1;
            for (int at = block; at < block + blockSize - tail; at += length(at)) {
                boolean found = LittleEndian.u32(content, at) != 0
                        && LittleEndian.u8(content, at + 6) == letters.length
                        && Arrays.equals(content, at + HEAD, at + HEAD + letters.length, letters, 0, letters.length);
                if (found) {
                    if (before < 0) {
                        LittleEndian.putU32(content, at, 0);
                    } else {
                        LittleEndian.putU16(content, before + 4, length(before) + length(at));
                    }
                    return;
                }
                before = at;
            }
        }
        throw new FileSystemException("There is no " + name + " to take out", -1);
    }
}

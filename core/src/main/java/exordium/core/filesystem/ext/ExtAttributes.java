// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.ext;

import exordium.core.block.LittleEndian;
import exordium.core.filesystem.FileSystemException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.TreeMap;

/**
 * Extended attributes of an inode: behind its own fields, and in a block of their own (Linux kernel documentation, filesystems/ext4,
 * "Extended Attributes"). Access lists are given in the form programs see them in (Linux kernel, posix_acl_xattr.h).
 */
final class ExtAttributes {
    private static final long MAGIC = 0xEA020000L;
    private static final int OWN_FIELDS = 128;
    private static final int BLOCK_LOW = 104;
    private static final int BLOCK_HIGH = 118;
    private static final int BLOCK_HEAD = 32;
    private static final int ENTRY = 16;
    private static final int MOST = 1000;
    private static final int ACL_STORED = 1;
    private static final int ACL_SEEN = 2;
    private static final int SOMEBODY = 0x02;
    private static final int SOME_GROUP = 0x08;
    private static final Map<Integer, String> PREFIXES = Map.of(
            1,
            "user.",
            2,
            "system.posix_acl_access",
            3,
            "system.posix_acl_default",
            4,
            "trusted.",
            6,
            "security.",
            7,
            "system.");

    private ExtAttributes() {}

    static Map<String, byte[]> of(ExtReader reader, byte[] inode) throws IOException {
        Map<String, byte[]> found = new TreeMap<>();
        if (inode.length > OWN_FIELDS + 4) {
            int head = OWN_FIELDS + LittleEndian.u16(inode, OWN_FIELDS);
            if (head + 4 <= inode.length && LittleEndian.u32(inode, head) == MAGIC) {
                entries(inode, head + 4, head + 4, found);
            }
        }
        long block = LittleEndian.u32(inode, BLOCK_LOW) | (long) LittleEndian.u16(inode, BLOCK_HIGH) << 32;
        if (block != 0) {
            byte[] bytes = reader.block(block);
            if (LittleEndian.u32(bytes, 0) != MAGIC) {
                throw new FileSystemException("A block of extended attributes is broken", -1);
            }
            entries(bytes, BLOCK_HEAD, 0, found);
        }
        // The rest of a short file that is kept in its inode is content, no attribute.
        found.remove("system.data");
        return found;
    }

    private static void entries(byte[] bytes, int first, int base, Map<String, byte[]> found)
            throws FileSystemException {
        int at = first;
        for (int i = 0; i < MOST; i++) {
            if (at + 4 > bytes.length || LittleEndian.u32(bytes, at) == 0) {
                return;
            }
            if (at + ENTRY > bytes.length) {
                break;
            }
            int nameLength = LittleEndian.u8(bytes, at);
            int offset = base + LittleEndian.u16(bytes, at + 2);
            long length = LittleEndian.u32(bytes, at + 8);
            boolean elsewhere = LittleEndian.u32(bytes, at + 4) != 0;
            boolean inside = at + ENTRY + nameLength <= bytes.length && offset + length <= bytes.length;
            if (elsewhere || !inside) {
                break;
            }
            int kind = LittleEndian.u8(bytes, at + 1);
            String name =
                    PREFIXES.getOrDefault(kind, "") + new String(bytes, at + ENTRY, nameLength, StandardCharsets.UTF_8);
            byte[] value = Arrays.copyOfRange(bytes, offset, offset + (int) length);
            found.put(name, kind == 2 || kind == 3 ? seen(value) : value);
            at += (ENTRY + nameLength + 3) & ~3;
        }
        throw new FileSystemException("Extended attributes are broken, or of a kind that is not read", -1);
    }

    /** From the stored form, short where nobody is named, to that of getxattr(2). */
    private static byte[] seen(byte[] stored) throws FileSystemException {
        if (stored.length < 4 || LittleEndian.u32(stored, 0) != ACL_STORED) {
            throw new FileSystemException("An access list is broken", -1);
        }
        ByteBuffer out = ByteBuffer.allocate(stored.length * 2 + 8).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(ACL_SEEN);
        int at = 4;
        while (at + 4 <= stored.length) {
            int tag = LittleEndian.u16(stored, at);
            out.putShort((short) tag).putShort((short) LittleEndian.u16(stored, at + 2));
            boolean named = tag == SOMEBODY || tag == SOME_GROUP;
            if (named && at + 8 > stored.length) {
                throw new FileSystemException("An access list is broken", -1);
            }
            out.putInt(named ? (int) LittleEndian.u32(stored, at + 4) : -1);
            at += named ? 8 : 4;
        }
        return Arrays.copyOf(out.array(), out.position());
    }
}

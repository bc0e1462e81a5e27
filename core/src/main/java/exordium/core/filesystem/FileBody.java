// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * A file whole, or a symbolic link.
 *
 * @param bytes its content, or where the link leads
 * @param mode its permissions, such as 0644; a FAT volume keeps none
 */
public record FileBody(byte[] bytes, int mode, boolean link) {
    private static final int READABLE = 0644;
    private static final int OWN = 0600;
    private static final int ALL = 0777;

    public static FileBody of(byte[] bytes) {
        return new FileBody(bytes, READABLE, false);
    }

    public static FileBody of(String text) {
        return of(text.getBytes(StandardCharsets.UTF_8));
    }

    /** For its owner's eyes only. */
    public static FileBody secret(String text) {
        return new FileBody(text.getBytes(StandardCharsets.UTF_8), OWN, false);
    }

    public static FileBody linkTo(String target) {
        return new FileBody(target.getBytes(StandardCharsets.UTF_8), ALL, true);
    }

    /** The same file with another content. */
    public FileBody with(byte[] content) {
        return new FileBody(content, mode, link);
    }

    public String text() {
        return new String(bytes, StandardCharsets.UTF_8);
    }

    /** Permissions aside: whether a reader finds the same. */
    public boolean same(FileBody other) {
        return link == other.link && Arrays.equals(bytes, other.bytes);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof FileBody body && same(body) && mode == body.mode;
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(bytes) * 31 + mode;
    }

    @Override
    public String toString() {
        return (link ? "link to " : "file of ") + (link ? text() : bytes.length + " bytes");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/** Small files and names that are on the disk when a call returns. */
public final class Durable {
    /** Behind the name of what is half-made. */
    public static final String HALF = ".new";

    private Durable() {}

    public static void write(Path file, String text) throws IOException {
        write(file, text.getBytes(StandardCharsets.UTF_8));
    }

    /** Puts a file down, new or in the place of what was there: cut off at any moment, it is the old or the new. */
    public static void replace(Path file, String text) throws IOException {
        replace(file, text.getBytes(StandardCharsets.UTF_8));
    }

    public static void replace(Path file, byte[] content) throws IOException {
        Path working = file.resolveSibling(file.getFileName() + HALF);
        write(working, content);
        Files.move(working, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        folder(file.toAbsolutePath().getParent());
    }

    private static void write(Path file, byte[] content) throws IOException {
        try (FileChannel channel = FileChannel.open(
                file, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
            ByteBuffer bytes = ByteBuffer.wrap(content);
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
            channel.force(true);
        }
    }

    /** The names in a folder; where the file system knows no such thing, as on some shares, they are there when it says so. */
    public static void folder(Path folder) throws IOException {
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        } catch (java.nio.file.AccessDeniedException | UnsupportedOperationException e) {
            return;
        }
    }
}

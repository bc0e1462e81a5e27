// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.multiboot;

import exordium.core.block.BlockDevice;
import exordium.core.finding.NotPossible;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;

/** Roots made to measure in a file of their own, by the file system's own tools: e2fsck(8), resize2fs(8), tune2fs(8), mke2fs(8). */
final class FittedRoot {
    private static final int PIECE = 1 << 20;
    private static final List<String> TOOLS = List.of("e2fsck", "resize2fs", "tune2fs", "mke2fs");

    private FittedRoot() {}

    static boolean here() {
        return TOOLS.stream().allMatch(each -> tool(each) != null);
    }

    private static String tool(String name) {
        for (String folder : List.of("/usr/sbin/", "/sbin/")) {
            if (Files.isExecutable(Path.of(folder + name))) {
                return folder + name;
            }
        }
        return null;
    }

    /** Copies a root into a new file, has it fill the size it is to have, and gives it an identifier of its own. */
    static void put(BlockDevice root, Path file, ByteSize size) throws IOException {
        copy(root, file, Math.max(root.size().bytes(), size.bytes()));
        if (!here()) {
            return;
        }
        run(1, "e2fsck", "-f", "-y", file.toString());
        // In whole blocks of 4 KiB, which every size of block divides.
        run(0, "resize2fs", file.toString(), size.bytes() / 4096 * 4 + "K");
        run(0, "tune2fs", "-U", UUID.randomUUID().toString(), file.toString());
        run(1, "e2fsck", "-f", "-y", file.toString());
        try (RandomAccessFile made = new RandomAccessFile(file.toFile(), "rw")) {
            made.setLength(size.bytes());
        }
    }

    /** An empty file system where shared data goes. */
    static void empty(Path drive, LayoutPlan.Part part, Path room) throws IOException {
        if (!here()) {
            return;
        }
        Path file = room.resolve("data.ext4");
        run(
                0,
                "mke2fs",
                "-q",
                "-F",
                "-t",
                "ext4",
                "-L",
                "data",
                file.toString(),
                part.size().bytes() / 1024 + "k");
        try (FileChannel from = FileChannel.open(file, StandardOpenOption.READ);
                FileChannel to = FileChannel.open(drive, StandardOpenOption.WRITE)) {
            ByteBuffer piece = ByteBuffer.allocate(PIECE);
            byte[] zero = new byte[PIECE];
            for (long at = 0; at < from.size(); at += PIECE) {
                piece.clear();
                int got = from.read(piece, at);
                if (got > 0 && !Arrays.equals(piece.array(), 0, got, zero, 0, got)) {
                    to.write(piece.flip(), part.start() + at);
                }
            }
        }
        Files.delete(file);
    }

    private static void copy(BlockDevice root, Path file, long size) throws IOException {
        try (RandomAccessFile out = new RandomAccessFile(file.toFile(), "rw")) {
            out.setLength(size);
            byte[] zero = new byte[PIECE];
            for (long at = 0; at < root.size().bytes(); at += PIECE) {
                byte[] piece = root.bytes(at, (int) Math.min(PIECE, root.size().bytes() - at));
                if (!Arrays.equals(piece, 0, piece.length, zero, 0, piece.length)) {
                    out.seek(at);
                    out.write(piece);
                }
            }
        }
    }

    /** Where worst: the highest exit that is well; e2fsck ends with 1 where it mended something. */
    private static void run(int worst, String name, String... rest) throws IOException {
        List<String> words = new java.util.ArrayList<>(List.of(tool(name)));
        words.addAll(Arrays.asList(rest));
        Process process = new ProcessBuilder(words).redirectErrorStream(true).start();
        process.getOutputStream().close();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        try {
            int exit = process.waitFor();
            if (exit > worst) {
                throw new NotPossible(name + " could not fit a root: "
                        + (said.isEmpty() ? "it ended with " + exit : said.substring(said.lastIndexOf('\n') + 1))
                        + ".");
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new NotPossible("It was stopped.", e);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultRun;
import exordium.core.image.ImageFile;
import exordium.core.testing.GeneralTools;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Drives of many kinds through generations of changes made by general tools. Each copy, put together again, is held to the drive as it
 * was: e2image(8) takes every block that is in use out of both, and cmp(1) finds no difference; e2fsck(8) and fsck.fat(8) find nothing
 * wrong; the files of the FAT are the same.
 */
class VaultImagesTest {
    private static final int IMAGES = Integer.getInteger("exordium.images", 3);
    private static final int GENERATIONS = Integer.getInteger("exordium.generations", 3);
    private static final long FAT_AT = 1 << 20;
    private static final long MIB = 1 << 20;
    private static final List<String> KINDS = List.of("ext4", "ext3", "ext2");
    private static final int[] BLOCKS = {4096, 1024, 2048};

    @TempDir
    private Path folder;

    @Test
    void everyGenerationOfEveryKindComesBackOnEveryUsedByte() throws IOException {
        for (int image = 0; image < IMAGES; image++) {
            Path work = Files.createDirectory(folder.resolve("image-" + image));
            new Drive(work, image).live();
            GeneralTools.run("rm", "-r", work.toString());
        }
    }

    /** One drive and what befalls it, drawn from its number. */
    private static final class Drive {
        private final Path work;
        private final Random random;
        private final String kind;
        private final int block;
        private final boolean gpt;
        private final long fat;
        private final long root;
        private final Path disk;
        private final List<String> files = new ArrayList<>();

        Drive(Path work, int number) {
            this.work = work;
            this.random = new Random(number);
            this.kind = KINDS.get(number % 3);
            this.block = BLOCKS[number / 3 % 3];
            this.gpt = number % 2 == 1;
            this.fat = (16 + random.nextInt(20)) * MIB;
            this.root = (24 + random.nextInt(24)) * MIB;
            this.disk = work.resolve("disk.img");
        }

        void live() throws IOException {
            make();
            List<Path> was = new ArrayList<>();
            List<Path> copies = new ArrayList<>();
            Path vault = work.resolve("vault");
            for (int generation = 0; generation < GENERATIONS; generation++) {
                change(generation);
                Path then = work.resolve("then-" + generation + ".img");
                GeneralTools.run("cp", "--sparse=always", disk.toString(), then.toString());
                was.add(then);
                Path copy = vault.resolve("board")
                        .resolve(String.format(Locale.ROOT, "board-2026-11-%02dT080000Z.copy", generation + 1));
                try (BlockDevice drive = FileDevice.forReading(disk)) {
                    VaultRun.execute(drive, vault, copy, Map.of("board", "board"), TransferWatch.NONE);
                }
                copies.add(copy);
            }
            for (int generation = 0; generation < GENERATIONS; generation++) {
                same(was.get(generation), copies.get(generation), generation);
            }
        }

        private void make() throws IOException {
            long rootAt = FAT_AT + fat;
            try (var empty = new java.io.RandomAccessFile(disk.toFile(), "rw")) {
                empty.setLength(rootAt + root + 2 * MIB);
            }
            String linux = gpt ? "0FC63DAF-8483-4772-8E79-3D69D8477DE4" : "83";
            String start = gpt ? "EBD0A0A2-B9E5-4433-87C0-68B6B72699C7" : "c";
            GeneralTools.feed(
                    "label: " + (gpt ? "gpt" : "dos") + "\nstart=" + FAT_AT / 512 + ", size=" + fat / 512 + ", type="
                            + start + "\nstart=" + rootAt / 512 + ", size=" + root / 512 + ", type=" + linux + "\n",
                    "sfdisk",
                    "-q",
                    "--no-tell-kernel",
                    "--no-reread",
                    disk.toString());
            GeneralTools.run("mkfs.vfat", "--offset", String.valueOf(FAT_AT / 512), disk.toString(), "" + fat / 1024);
            GeneralTools.run(
                    "mke2fs",
                    "-q",
                    "-t",
                    kind,
                    "-b",
                    "" + block,
                    "-E",
                    "offset=" + rootAt,
                    disk.toString(),
                    root / 1024 + "k");
        }

        /** Some files come, some go, one in each partition at the least. */
        private void change(int generation) throws IOException {
            for (int i = 0; i < 3; i++) {
                byte[] bytes = new byte[random.nextInt(700_000)];
                random.nextBytes(bytes);
                Path file = Files.write(work.resolve("some"), bytes);
                String name = "f" + generation + "-" + i;
                inRoot("write " + file + " " + name);
                files.add(name);
            }
            if (files.size() > 5) {
                inRoot("rm " + files.remove(random.nextInt(files.size())));
            }
            byte[] note = new byte[1 + random.nextInt(90_000)];
            random.nextBytes(note);
            Path file = Files.write(work.resolve("note"), note);
            GeneralTools.run(
                    "mcopy", "-o", "-i", disk + "@@" + FAT_AT, file.toString(), "::n" + generation % 4 + ".bin");
        }

        private void inRoot(String request) {
            GeneralTools.run("debugfs", "-w", "-R", request, disk + "?offset=" + (FAT_AT + fat));
        }

        private void same(Path was, Path copy, int generation) throws IOException {
            Path back = work.resolve("back.img");
            try (InputStream stream = ImageFile.open(copy).stream()) {
                Files.copy(stream, back);
            }
            String what = kind + " of " + block + (gpt ? ", gpt" : ", mbr") + ", generation " + generation;
            Path first = root(was, "first");
            Path second = root(back, "second");
            GeneralTools.run("e2fsck", "-fn", second.toString());
            Path used = work.resolve("first.used");
            Path usedBack = work.resolve("second.used");
            GeneralTools.run("e2image", "-ra", first.toString(), used.toString());
            GeneralTools.run("e2image", "-ra", second.toString(), usedBack.toString());
            assertThat(GeneralTools.exitOf("cmp", used.toString(), usedBack.toString()))
                    .as(what)
                    .isZero();
            // The table and the FAT's own structures, byte for byte; then its files.
            assertThat(GeneralTools.exitOf("cmp", "-n", String.valueOf(FAT_AT + 512), was.toString(), back.toString()))
                    .as(what)
                    .isZero();
            Path notes = Files.createDirectory(work.resolve("notes"));
            Path notesBack = Files.createDirectory(work.resolve("notes-back"));
            GeneralTools.run("mcopy", "-i", was + "@@" + FAT_AT, "::*", notes.toString());
            GeneralTools.run("mcopy", "-i", back + "@@" + FAT_AT, "::*", notesBack.toString());
            assertThat(GeneralTools.exitOf("diff", "-r", notes.toString(), notesBack.toString()))
                    .as(what)
                    .isZero();
            Path volume = work.resolve("back.fat");
            GeneralTools.run(
                    "dd", "if=" + back, "of=" + volume, "bs=1M", "skip=1", "count=" + fat / MIB, "status=none");
            GeneralTools.run("fsck.fat", "-n", volume.toString());
            for (Path gone : List.of(back, first, second, used, usedBack, volume)) {
                Files.delete(gone);
            }
            GeneralTools.run("rm", "-r", notes.toString(), notesBack.toString());
        }

        private Path root(Path image, String name) {
            Path out = work.resolve(name + ".ext");
            GeneralTools.run(
                    "dd",
                    "if=" + image,
                    "of=" + out,
                    "bs=1M",
                    "skip=" + (FAT_AT + fat) / MIB,
                    "count=" + root / MIB,
                    "conv=sparse",
                    "status=none");
            return out;
        }
    }
}

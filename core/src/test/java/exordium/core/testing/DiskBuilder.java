// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Makes small real disks with sfdisk, mkfs.vfat, mtools and mke2fs. */
public final class DiskBuilder {
    public static final long MIB = 1L << 20;

    private static final Map<String, Pattern> PATTERNS = new ConcurrentHashMap<>();
    private static final Map<String, Integer> BUILT_IN = new ConcurrentHashMap<>();

    private final Path folder;
    private final Map<String, String> startFiles = new LinkedHashMap<>();
    private final Map<String, String> rootFiles = new LinkedHashMap<>();
    private String diskId = "5eed0001";
    private int fatMib = 40;
    private int rootMib = 16;

    /** A disk in memory: its size and the pieces of it that hold anything. */
    private record Pattern(long size, Map<Long, byte[]> pieces) {
        private static final int PIECE = 16 << 10;

        static Pattern of(Path disk) throws IOException {
            Map<Long, byte[]> pieces = new LinkedHashMap<>();
            byte[] blank = new byte[PIECE];
            try (InputStream in = Files.newInputStream(disk)) {
                byte[] piece = in.readNBytes(PIECE);
                for (long at = 0; piece.length > 0; at += PIECE) {
                    if (!Arrays.equals(piece, 0, piece.length, blank, 0, piece.length)) {
                        pieces.put(at, piece);
                    }
                    piece = in.readNBytes(PIECE);
                }
            }
            return new Pattern(Files.size(disk), pieces);
        }

        void layOut(Path disk) throws IOException {
            blank(disk, 0);
            blank(disk, size);
            try (FileChannel out = FileChannel.open(disk, StandardOpenOption.WRITE)) {
                for (Map.Entry<Long, byte[]> piece : pieces.entrySet()) {
                    out.write(ByteBuffer.wrap(piece.getValue()), piece.getKey());
                }
            }
        }
    }

    public DiskBuilder(Path folder) {
        this.folder = folder;
        start("config.txt", "arm_64bit=1\n");
        start("start.elf", "loader");
        start("kernel-64.img", "kernel");
        start("plover-4-b.dtb", "tree");
        start("plover-5-b.dtb", "tree");
        root("etc/os-release", "NAME=\"marshlinux\"\nID=marshlinux\nVERSION_ID=\"2026.10\"\n");
        root("sbin/init", "\u007fELF\u0002");
    }

    public DiskBuilder id(String value) {
        diskId = value;
        return this;
    }

    public DiskBuilder sizes(int fat, int root) {
        fatMib = fat;
        rootMib = root;
        return this;
    }

    public DiskBuilder start(String name, String content) {
        startFiles.put(name, content);
        return this;
    }

    public DiskBuilder without(String name) {
        startFiles.remove(name);
        rootFiles.remove(name);
        return this;
    }

    public DiskBuilder root(String name, String content) {
        rootFiles.put(name, content);
        return this;
    }

    /**
     * MBR with a FAT32 start partition and an ext4 root, the usual pair. The same disk is made by the tools once for all
     * tests; a second one of the same content in one folder is a disk of its own, with its own volume numbers.
     */
    public Path build(String name) throws IOException {
        startFiles.putIfAbsent("cmdline.txt", "console=tty1 root=PARTUUID=" + diskId + "-02 rootwait\n");
        rootFiles.putIfAbsent("etc/fstab", "PARTUUID=" + diskId + "-02 / ext4 defaults 0 1\n");
        Path disk = folder.resolve(name);
        String recipe = diskId + '/' + fatMib + '/' + rootMib + '/' + startFiles + rootFiles;
        int one = BUILT_IN.merge(folder + recipe, 1, Integer::sum);
        Pattern pattern = PATTERNS.get(one + recipe);
        if (pattern == null) {
            make(disk);
            PATTERNS.put(one + recipe, Pattern.of(disk));
        } else {
            pattern.layOut(disk);
        }
        return disk;
    }

    private void make(Path disk) throws IOException {
        long fatStart = 4 * MIB;
        long rootStart = fatStart + fatMib * MIB;
        blank(disk, rootStart + rootMib * MIB + MIB);
        GeneralTools.feed(
                "label: dos\nlabel-id: 0x" + diskId + "\nstart=" + fatStart / 512 + ", size=" + fatMib * MIB / 512
                        + ", type=c, bootable\nstart=" + rootStart / 512 + ", size=" + rootMib * MIB / 512
                        + ", type=83\n",
                "sfdisk",
                "-q",
                disk.toString());
        String volume = disk + "@@" + fatStart;
        GeneralTools.run(
                "mkfs.vfat",
                "-F",
                "32",
                "-s",
                "1",
                "-n",
                "START",
                "--offset",
                Long.toString(fatStart / 512),
                disk.toString(),
                Long.toString(fatMib * MIB / 1024));
        Path start = tree(startFiles, "start");
        List<String> copy = new ArrayList<>(List.of("mcopy", "-s", "-i", volume));
        startFiles.keySet().stream()
                .map(file -> file.replaceFirst("/.*", ""))
                .distinct()
                .forEach(file -> copy.add(start.resolve(file).toString()));
        copy.add("::");
        GeneralTools.run(copy.toArray(String[]::new));
        GeneralTools.run(
                "mke2fs",
                "-q",
                "-t",
                "ext4",
                "-L",
                "root",
                "-d",
                tree(rootFiles, "root").toString(),
                "-E",
                "offset=" + rootStart,
                disk.toString(),
                rootMib * 1024 + "k");
    }

    private Path tree(Map<String, String> files, String name) throws IOException {
        Path tree = Files.createTempDirectory(folder, name);
        for (Map.Entry<String, String> file : files.entrySet()) {
            Path path = tree.resolve(file.getKey());
            Files.createDirectories(path.getParent());
            Files.write(path, file.getValue().getBytes(StandardCharsets.ISO_8859_1));
        }
        return tree;
    }

    public static void blank(Path file, long bytes) throws IOException {
        try (RandomAccessFile sparse = new RandomAccessFile(file.toFile(), "rw")) {
            sparse.setLength(bytes);
        }
    }

    /** Copies one file into another at an offset. */
    public static void place(Path from, Path to, long offset) throws IOException {
        try (FileChannel in = FileChannel.open(from, StandardOpenOption.READ);
                FileChannel out = FileChannel.open(to, StandardOpenOption.WRITE)) {
            out.position(offset);
            in.transferTo(0, in.size(), out);
        }
    }

    /** Turns over the lowest bit of one byte. */
    public static void flip(Path file, long offset) throws IOException {
        try (RandomAccessFile bytes = new RandomAccessFile(file.toFile(), "rw")) {
            bytes.seek(offset);
            int old = bytes.read();
            bytes.seek(offset);
            bytes.write(old ^ 1);
        }
    }
}

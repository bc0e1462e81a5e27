// SPDX-License-Identifier: Apache-2.0
package exordium.core.filesystem.fat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.FileDevice;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemException;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Files of FAT volumes that mkfs.vfat and mtools made, and volumes that are wrong by one number (FAT specification). */
class FatReaderTest {
    private static final int SECTOR = 512;

    @TempDir
    Path folder;

    private Path volume;

    @BeforeEach
    void named() {
        volume = folder.resolve("fs.img");
    }

    private void made(String bits, int mib, int cluster) throws IOException {
        DiskBuilder.blank(volume, mib * DiskBuilder.MIB);
        GeneralTools.run("mkfs.vfat", "-F", bits, "-s", String.valueOf(cluster), "-n", "MARSH", volume.toString());
    }

    private byte[] noise(String name, int length) throws IOException {
        byte[] content = new byte[length];
        new Random(length).nextBytes(content);
        Files.write(folder.resolve(name), content);
        return content;
    }

    private void copied(String name, String to) {
        GeneralTools.run(
                "mcopy", "-o", "-i", volume.toString(), folder.resolve(name).toString(), "::" + to);
    }

    /** In pieces all over the volume, in a folder of hundreds of names: what mcopy put in comes out again. */
    @ParameterizedTest
    @CsvSource({"12, 8, 8", "16, 16, 2", "32, 40, 1"})
    void filesInManyPiecesComeOutWhole(String bits, int mib, int cluster) throws IOException {
        made(bits, mib, cluster);
        noise("small", cluster * SECTOR - 3);
        GeneralTools.run("mmd", "-i", volume.toString(), "::/overlays", "::/overlays/in a folder below");
        for (int i = 0; i < 60; i++) {
            copied("small", "/overlays/filler of the volume, number " + i + ".bin");
        }
        for (int i = 0; i < 60; i += 2) {
            GeneralTools.run("mdel", "-i", volume.toString(), "::/overlays/filler of the volume, number " + i + ".bin");
        }
        byte[] large = noise("large", 100 * cluster * SECTOR + 77);
        copied("large", "/overlays/in a folder below/kernel.img");
        copied("large", "/KERNEL8.IMG");
        noise("nothing", 0);
        copied("nothing", "/overlays/empty.txt");
        try (FileDevice device = FileDevice.forReading(volume)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.read("/overlays/in a folder below/kernel.img")).hasValueSatisfying(same(large));
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            assertThat(reader.copy("/kernel8.img", out)).isTrue();
            assertThat(out.toByteArray()).isEqualTo(large);
            assertThat(reader.read("/overlays/empty.txt")).hasValueSatisfying(same(new byte[0]));
            assertThat(reader.entries("/overlays"))
                    .hasSize(32)
                    .contains(new FileEntry(
                            "filler of the volume, number 59.bin",
                            FileEntry.EntryKind.FILE,
                            (long) cluster * SECTOR - 3))
                    .contains(new FileEntry("in a folder below", FileEntry.EntryKind.FOLDER, 0));
            assertThat(reader.entries("/overlays/empty.txt")).isEmpty();
            assertThat(reader.read("/overlays")).isEmpty();
            assertThat(reader.read("/overlays/none/at all")).isEmpty();
            assertThat(reader.copy("/nowhere", out)).isFalse();
        }
    }

    private static java.util.function.Consumer<byte[]> same(byte[] expected) {
        return got -> assertThat(got).isEqualTo(expected);
    }

    /** Both names are the file's; a long one whose sum is another's is nobody's, as after a rename by what knows short names only. */
    @Test
    void aFileIsFoundByItsShortNameToo() throws IOException {
        made("32", 40, 1);
        byte[] text = noise("text", 700);
        copied("text", "/configuration of the tide clock.txt");
        try (FileDevice device = FileDevice.forReading(volume)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.read("/CONFIG~1.TXT")).hasValueSatisfying(same(text));
            assertThat(reader.list("/")).containsExactly("configuration of the tide clock.txt");
        }
        byte[] all = Files.readAllBytes(volume);
        int at = new String(all, java.nio.charset.StandardCharsets.ISO_8859_1).indexOf("CONFIG~1TXT");
        all[at] = 'D';
        Files.write(volume, all);
        try (FileDevice device = FileDevice.forReading(volume)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.list("/")).containsExactly("DONFIG~1.TXT");
            assertThat(reader.read("/donfig~1.txt")).hasValueSatisfying(same(text));
        }
    }

    /** Where entry: of the first table, by the FAT32 layout mkfs.vfat chose. */
    private void tell(long cluster, long next) throws IOException {
        try (FileDevice device = FileDevice.forWriting(volume, ByteSize.of(Files.size(volume)))) {
            FatGeometry geometry = FatGeometry.parse(device.bytes(0, SECTOR)).orElseThrow();
            ByteBuffer number = ByteBuffer.allocate(4).order(ByteOrder.LITTLE_ENDIAN);
            device.write(
                    geometry.tableStart() + cluster * 4,
                    number.putInt((int) next).flip());
            device.flush();
        }
    }

    private void refused(String words, String path) throws IOException {
        try (FileDevice device = FileDevice.forReading(volume)) {
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThatThrownBy(() -> reader.read(path))
                    .isInstanceOf(FileSystemException.class)
                    .hasMessageContaining("is a broken FAT volume: " + words);
        }
    }

    @Test
    void chainsThatCannotBeTrueAreTold() throws IOException {
        made("32", 40, 1);
        noise("file", 5 * SECTOR);
        copied("file", "/file.bin");
        long first;
        try (FileDevice device = FileDevice.forReading(volume)) {
            FatGeometry geometry = FatGeometry.parse(device.bytes(0, SECTOR)).orElseThrow();
            first = new FatFolders(device, geometry)
                    .find("/file.bin")
                    .orElseThrow()
                    .cluster();
        }
        tell(first + 2, first);
        refused("a chain runs round in itself", "/file.bin");
        tell(first + 2, 0x0FFF_FFFF);
        refused("a file is longer than its chain", "/file.bin");
        tell(first + 2, 0);
        refused("a chain runs into no cluster there is", "/file.bin");
        tell(first + 2, 0x00FF_FFF0);
        refused("a chain runs into no cluster there is", "/file.bin");
        // The top folder begins at cluster 2.
        tell(2, 2);
        refused("a chain runs round in itself", "/file.bin");
        tell(2, 0);
        refused("a chain runs into no cluster there is", "/file.bin");
    }

    /** Firmware and kernel go by the first table; whoever changes a volume minds the second. */
    @Test
    void theFirstTableCountsForReading() throws IOException {
        made("32", 40, 1);
        byte[] content = noise("file", 5 * SECTOR);
        copied("file", "/file.bin");
        try (FileDevice device = FileDevice.forWriting(volume, ByteSize.of(Files.size(volume)))) {
            FatGeometry geometry = FatGeometry.parse(device.bytes(0, SECTOR)).orElseThrow();
            long second = geometry.tableStart() + geometry.sectorsPerFat() * geometry.bytesPerSector();
            device.write(second + 1000 * 4, ByteBuffer.wrap(new byte[] {7}));
            device.flush();
            FileSystemReader reader = FileSystems.open(device).orElseThrow();
            assertThat(reader.read("/file.bin")).hasValueSatisfying(same(content));
            byte[] before = Files.readAllBytes(volume);
            assertThatThrownBy(() -> FatWriter.write(device, "/other.bin", content))
                    .isInstanceOf(FileSystemException.class)
                    .hasMessageContaining("allocation tables differ");
            assertThat(Files.readAllBytes(volume)).isEqualTo(before);
        }
    }
}

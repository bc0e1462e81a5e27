// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.Refused;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FileDeviceTest {
    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(ints = {1, 511, 512, 4095, 4096, 4097, 70_000, 1 << 20})
    void whatIsWrittenReadsBackPastTheCacheWhateverItsLength(int length) throws IOException {
        byte[] bytes = new byte[length];
        new Random(length).nextBytes(bytes);
        Path file = Files.createFile(folder.resolve("device"));
        try (FileDevice device = FileDevice.forWriting(file, ByteSize.of(length))) {
            device.write(0, ByteBuffer.wrap(bytes));
            device.flush();
            ByteBuffer back = AlignedBuffers.allocate(1 << 21);
            device.readBack(0, back.limit(length));
            byte[] found = new byte[length];
            back.flip().get(found);
            assertThat(found).isEqualTo(bytes);
        }
        assertThat(Files.readAllBytes(file)).isEqualTo(bytes);
    }

    @Test
    void alignedBuffersGoStraightToTheMediumAndOtherReadersSeeThem() throws IOException {
        Path file = Files.createFile(folder.resolve("device"));
        ByteBuffer buffer = AlignedBuffers.allocate(8192);
        while (buffer.hasRemaining()) {
            buffer.put((byte) buffer.position());
        }
        try (FileDevice device = FileDevice.forWriting(file, ByteSize.of(16_384))) {
            device.write(4096, buffer.flip());
            device.flush();
            assertThat(device.bytes(4096 + 17, 3)).containsExactly(17, 18, 19);
            assertThat(device.bytes(0, 4)).containsOnly(0);
        }
        assertThat(Files.size(file)).isEqualTo(16_384);
    }

    @Test
    void whatASparseFileNeverHeldReadsAsZero() throws IOException {
        Path file = Files.write(folder.resolve("device"), new byte[] {1, 2, 3});
        try (FileDevice device = FileDevice.sparse(file, ByteSize.of(10_000))) {
            assertThat(device.bytes(0, 5)).containsExactly(1, 2, 3, 0, 0);
            ByteBuffer back = AlignedBuffers.allocate(12_288);
            device.readBack(0, back.limit(10_000));
            assertThat(back.get(2)).isEqualTo((byte) 3);
            assertThat(back.get(9_999)).isZero();
        }
    }

    @Test
    void nothingIsReadOrWrittenPastTheEnd() throws IOException {
        Path file = folder.resolve("device");
        DiskBuilder.blank(file, 1000);
        try (FileDevice device = FileDevice.forWriting(file, ByteSize.of(1000))) {
            assertThatThrownBy(() -> device.bytes(990, 11))
                    .isInstanceOf(MediumException.class)
                    .hasMessageContaining("past its end at 1000");
            assertThatThrownBy(() -> device.write(1000, ByteBuffer.allocate(1))).isInstanceOf(MediumException.class);
            assertThatThrownBy(() -> device.bytes(-1, 1)).isInstanceOf(MediumException.class);
            assertThatThrownBy(() -> device.bytes(Long.MAX_VALUE, 2)).isInstanceOf(MediumException.class);
        }
    }

    @Test
    void aSliceKeepsToItsPart() throws IOException {
        Path file = Files.write(folder.resolve("device"), new byte[] {0, 1, 2, 3, 4, 5, 6, 7});
        try (FileDevice device = FileDevice.forReading(file)) {
            BlockDevice slice = device.slice("part", 2, ByteSize.of(3));
            assertThat(slice.bytes(0, 3)).containsExactly(2, 3, 4);
            assertThat(slice.size()).isEqualTo(ByteSize.of(3));
            assertThatThrownBy(() -> slice.bytes(1, 3))
                    .isInstanceOf(MediumException.class)
                    .hasMessageContaining("part");
            assertThatThrownBy(() -> device.slice("over", 6, ByteSize.of(3)))
                    .isInstanceOf(IllegalArgumentException.class);
            slice.close();
            assertThat(device.bytes(7, 1)).containsExactly(7);
        }
    }

    @Test
    void alignedBuffersAreAligned() {
        ByteBuffer buffer = AlignedBuffers.allocate(8192);
        assertThat(buffer.alignmentOffset(0, 4096)).isZero();
        assertThat(buffer.remaining()).isEqualTo(8192);
        assertThatThrownBy(() -> AlignedBuffers.allocate(100)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void twoWritersAtOnceAreRefused() throws IOException {
        Path file = Files.write(folder.resolve("busy.img"), new byte[8192]);
        try (FileDevice first = FileDevice.forWriting(file, ByteSize.of(8192))) {
            assertThat(first.readOnly()).isFalse();
            assertThatThrownBy(() -> FileDevice.forWriting(file, ByteSize.of(8192)))
                    .isInstanceOf(Refused.class)
                    .hasMessageContaining("busy.img is being written");
        }
        FileDevice.forWriting(file, ByteSize.of(8192)).close();
    }
}

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

    /** A medium that shrinks or goes away while it is read is an error, whichever way it is read; never zeros. */
    @Test
    void aFileThatEndsEarlierThanItDidIsAnError() throws IOException {
        Path file = Files.write(folder.resolve("shrinks"), new byte[65_536]);
        try (FileDevice device = FileDevice.forReading(file);
                FileDevice declared = FileDevice.sparse(file, ByteSize.of(200_000))) {
            assertThat(declared.bytes(65_000, 2000)).containsOnly(0);
            try (var shrink = new java.io.RandomAccessFile(file.toFile(), "rw")) {
                shrink.setLength(20_000);
            }
            assertThatThrownBy(() -> device.bytes(16_384, 8192))
                    .isInstanceOf(MediumException.class)
                    .hasMessageContaining("ends at byte");
            ByteBuffer back = AlignedBuffers.allocate(16_384);
            assertThatThrownBy(() -> device.readBack(16_384, back)).isInstanceOf(MediumException.class);
            assertThatThrownBy(() -> declared.bytes(30_000, 10)).isInstanceOf(MediumException.class);
            assertThat(declared.bytes(100_000, 10)).containsOnly(0);
        }
    }

    /** A reader that comes and goes does not take the writer's claim with it, as a lock of the whole process would. */
    @Test
    void closingAReaderLeavesTheWritersClaim() throws IOException {
        Path file = Files.write(folder.resolve("claimed.img"), new byte[8192]);
        try (FileDevice writer = FileDevice.forWriting(file, ByteSize.of(8192))) {
            FileDevice.forReading(file).close();
            try (var stream = Files.newInputStream(file)) {
                assertThat(stream.read()).isZero();
            }
            assertThatThrownBy(() -> FileDevice.forWriting(file, ByteSize.of(8192)))
                    .isInstanceOf(Refused.class);
            assertThat(writer.readOnly()).isFalse();
        }
    }

    /** What was looked at is what is opened: a name that leads elsewhere by now is refused. */
    @Test
    void anotherFileUnderTheSameNameIsNotTheOneThatWasPlanned() throws IOException {
        Path file = Files.write(folder.resolve("planned.img"), new byte[8192]);
        FileIdentity planned = FileIdentity.of(file);
        Path other = Files.write(folder.resolve("other.img"), new byte[8192]);
        Files.move(other, file, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        assertThatThrownBy(() -> FileDevice.forWriting(file, ByteSize.of(8192), java.util.Optional.of(planned)))
                .isInstanceOf(Refused.class)
                .hasMessageContaining("not what it was");
        Path link = Files.createSymbolicLink(folder.resolve("link.img"), file);
        assertThat(FileIdentity.of(link)).isEqualTo(FileIdentity.of(file));
        Path hard = Files.createLink(folder.resolve("hard.img"), file);
        assertThat(SameBytes.at(hard).overlaps(SameBytes.at(link))).isTrue();
    }
}

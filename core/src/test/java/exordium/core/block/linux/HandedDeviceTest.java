// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.MachineDrive;
import exordium.core.block.MediumException;
import exordium.core.finding.Refused;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.Needs;
import java.io.RandomAccessFile;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A drive that was opened by somebody else, on a loop device of this test's own whose end is no whole page. */
class HandedDeviceTest {
    private static final int BYTES = (3 << 20) + 512;

    @TempDir
    Path folder;

    private Path file;
    private String loop;
    private int descriptor = -1;

    @BeforeEach
    void loop() throws Exception {
        Needs.here(GeneralTools.exitOf("losetup", "-f") == 0, "no loop devices here");
        file = folder.resolve("card");
        try (RandomAccessFile made = new RandomAccessFile(file.toFile(), "rw")) {
            made.setLength(BYTES);
        }
        loop = GeneralTools.run("losetup", "-f", "--show", file.toString()).strip();
        descriptor = SystemCalls.open(Path.of(loop), true, true);
    }

    @AfterEach
    void letGo() throws Exception {
        if (loop != null) {
            SystemCalls.close(descriptor);
            GeneralTools.exitOf("losetup", "-d", loop);
        }
    }

    private MachineDrive drive(String node) throws Exception {
        return new LinuxDrives().untouched().find(Path.of(node), folder).orElseThrow();
    }

    /** Whatever the place, length and kind of buffer: what a plain array would hold, also as seen from behind. */
    @Test
    void anyRangeIsReadAndWrittenAsInAnArray() throws Exception {
        byte[] model = new byte[BYTES];
        Random random = new Random(20261126);
        try (HandedDevice device = HandedDevice.of(drive(loop), descriptor, true, List.of())) {
            assertThat(device.readsPastCache()).isTrue();
            for (int i = 0; i < 300; i++) {
                boolean aligned = random.nextInt(3) == 0;
                int unit = aligned ? AlignedBuffers.ALIGNMENT : 1;
                int at = random.nextInt(BYTES) / unit * unit;
                int most = Math.min(BYTES - at, random.nextInt(4) == 0 ? 2 << 20 : 9000);
                int length = random.nextInt(5) == 0 ? BYTES - at : random.nextInt(most + 1) / unit * unit;
                ByteBuffer buffer = aligned && length > 0
                        ? AlignedBuffers.allocate(Math.floorDiv(length + 4095, 4096) * 4096)
                                .limit(length)
                        : ByteBuffer.allocate(length);
                if (random.nextBoolean()) {
                    byte[] noise = new byte[length];
                    random.nextBytes(noise);
                    System.arraycopy(noise, 0, model, at, length);
                    device.write(at, buffer.put(noise).flip());
                } else {
                    device.read(at, buffer);
                    byte[] got = new byte[length];
                    buffer.flip().get(got);
                    assertThat(got).isEqualTo(Arrays.copyOfRange(model, at, at + length));
                }
                assertThat(buffer.remaining()).isZero();
            }
            device.flush();
        }
        assertThat(Files.readAllBytes(file)).isEqualTo(model);
    }

    @Test
    void pastItsEndAndAfterItsCloseNothingMoves() throws Exception {
        HandedDevice device = HandedDevice.of(drive(loop), descriptor, true, List.of());
        assertThatThrownBy(() -> device.write(BYTES - 1, ByteBuffer.allocate(2)))
                .isInstanceOf(MediumException.class);
        device.close();
        device.close();
        assertThatThrownBy(() -> device.read(0, ByteBuffer.allocate(1))).isInstanceOf(ClosedChannelException.class);
    }

    @Test
    void anOpeningOfAnotherDriveIsRefused() throws Exception {
        Path other = folder.resolve("other");
        Files.write(other, new byte[1 << 20]);
        String second =
                GeneralTools.run("losetup", "-f", "--show", other.toString()).strip();
        try {
            MachineDrive drive = drive(second);
            assertThatThrownBy(() -> HandedDevice.of(drive, descriptor, true, List.of()))
                    .isInstanceOf(Refused.class)
                    .hasMessageContaining("Nothing was touched");
        } finally {
            GeneralTools.exitOf("losetup", "-d", second);
        }
    }
}

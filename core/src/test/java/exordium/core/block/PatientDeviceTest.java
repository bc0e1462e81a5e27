// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A drive that hangs is waited for as long as its user waits, and not a moment longer. */
class PatientDeviceTest {
    @TempDir
    Path folder;

    private BlockDevice drive() throws IOException {
        return FileDevice.forWriting(Files.write(folder.resolve("drive"), new byte[8192]), ByteSize.of(8192));
    }

    /** Answers once it is let go. */
    private static final class Hanging extends DelegatingDevice {
        private final CountDownLatch let;
        private final CountDownLatch asked = new CountDownLatch(1);
        private final CountDownLatch closed = new CountDownLatch(1);

        Hanging(BlockDevice inner, CountDownLatch let) {
            super(inner);
            this.let = let;
        }

        @Override
        public void write(long position, ByteBuffer source) throws IOException {
            asked.countDown();
            boolean answered = false;
            while (!answered) {
                try {
                    let.await();
                    answered = true;
                } catch (InterruptedException e) {
                    // As in the kernel: told or not, it answers when it answers.
                    answered = let.getCount() == 0;
                }
            }
            super.write(position, source);
        }

        @Override
        public void close() throws IOException {
            super.close();
            closed.countDown();
        }
    }

    @Test
    void whatAnswersIsPassedOn() throws IOException {
        try (PatientDevice device = new PatientDevice(drive(), () -> true)) {
            device.write(10, ByteBuffer.wrap(new byte[] {1, 2, 3}));
            device.flush();
            assertThat(device.bytes(10, 3)).containsExactly(1, 2, 3);
            assertThatThrownBy(() -> device.bytes(8190, 3)).isInstanceOf(MediumException.class);
            assertThat(device.isAbandoned()).isFalse();
        }
    }

    @Test
    void aStopLeavesADriveThatHangsAndItIsClosedWhenItAnswers() throws Exception {
        CountDownLatch let = new CountDownLatch(1);
        Hanging hanging = new Hanging(drive(), let);
        AtomicBoolean stop = new AtomicBoolean();
        PatientDevice device = new PatientDevice(hanging, stop::get);
        Thread user = new Thread(() -> {
            try {
                hanging.asked.await();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            stop.set(true);
        });
        user.start();
        assertThatThrownBy(() -> device.write(0, ByteBuffer.wrap(new byte[1])))
                .isInstanceOf(CancellationException.class)
                .hasMessageContaining("did not answer");
        assertThat(device.isAbandoned()).isTrue();
        assertThatThrownBy(device::flush).isInstanceOf(CancellationException.class);
        device.close();
        assertThat(hanging.closed.getCount()).isOne();
        let.countDown();
        hanging.closed.await();
        user.join();
    }

    /** What is put back after a stop is waited for longer than the second in which a stop takes hold. */
    @Test
    void whatIsBegunAfterAStopIsWaitedFor() throws Exception {
        CountDownLatch let = new CountDownLatch(1);
        Hanging slow = new Hanging(drive(), let);
        AtomicInteger looks = new AtomicInteger();
        // Looked at ten times a second: let go well after the second is over, by its own clock.
        try (PatientDevice device = new PatientDevice(slow, () -> {
            if (looks.incrementAndGet() > 25) {
                let.countDown();
            }
            return true;
        })) {
            device.write(10, ByteBuffer.wrap(new byte[] {7}));
            assertThat(device.isAbandoned()).isFalse();
            assertThat(device.bytes(10, 1)).containsExactly(7);
        }
    }
}

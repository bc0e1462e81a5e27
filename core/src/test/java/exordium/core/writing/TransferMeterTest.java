// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.block.TransferWatch;
import exordium.core.block.TransferWatch.Phase;
import exordium.core.quantity.ByteSize;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class TransferMeterTest {
    private long now;
    private final TransferMeter meter = new TransferMeter(() -> now, true);

    private void chunk(Phase phase, long position, int bytes, double seconds, long total) {
        now += (long) (seconds * 1e9);
        meter.moved(phase, position, bytes, (long) (seconds * 1e9), total);
    }

    @Test
    void theRateIsThatOfTheLastSeconds() {
        for (int i = 0; i < 100; i++) {
            chunk(Phase.WRITING, i * 1_000_000L, 1_000_000, i < 50 ? 0.01 : 0.5, 1_000_000_000);
        }
        assertThat(meter.moment().rate().megabytesPerSecond()).isBetween(1.9, 2.1);
    }

    @Test
    void timeLeftCountsTheReadingBackThatIsStillToCome() {
        for (int i = 0; i < 10; i++) {
            chunk(Phase.WRITING, i * 10_000_000L, 10_000_000, 1, 200_000_000);
        }
        // 100 MB still to write and 200 MB to read back, at 10 MB/s.
        assertThat(meter.moment().left()).contains(Duration.ofSeconds(30));
        assertThat(meter.moment().share()).isEqualTo(0.5);
        chunk(Phase.READING_BACK, 0, 20_000_000, 1, 200_000_000);
        chunk(Phase.READING_BACK, 20_000_000, 20_000_000, 1, 200_000_000);
        assertThat(meter.moment().left()).contains(Duration.ofSeconds(8));
        assertThat(meter.moment().done()).isEqualTo(ByteSize.of(40_000_000));
    }

    @Test
    void ofSeveralTargetsTheSlowestTellsTheTimeLeftUntilItFallsSilent() {
        TransferWatch other = meter.beside();
        for (int i = 0; i < 5; i++) {
            chunk(Phase.READING_BACK, i * 20_000_000L, 20_000_000, 1, 200_000_000);
            other.moved(Phase.READING_BACK, i * 5_000_000L, 5_000_000, 1, 200_000_000);
        }
        // 175 MB at 5 MB/s against 100 MB at 20 MB/s.
        assertThat(meter.moment().left()).contains(Duration.ofSeconds(35));
        assertThat(meter.moment().done()).isEqualTo(ByteSize.of(25_000_000));
        for (int i = 5; i < 9; i++) {
            chunk(Phase.READING_BACK, i * 20_000_000L, 20_000_000, 10, 200_000_000);
        }
        assertThat(meter.moment().done()).isEqualTo(ByteSize.of(180_000_000));
        assertThat(other.cancelled()).isFalse();
        meter.cancel();
        assertThat(other.cancelled()).isTrue();
    }

    @Test
    void nothingIsPromisedBeforeAnythingMovedOrWithoutATotal() {
        assertThat(meter.moment().left()).isEmpty();
        chunk(Phase.UNPACKING, 0, 100, 1, -1);
        chunk(Phase.UNPACKING, 100, 100, 1, -1);
        assertThat(meter.moment().left()).isEmpty();
        assertThat(meter.moment().total()).isEmpty();
        assertThat(meter.moment().share()).isZero();
    }

    @Test
    void soundingsStayFewAndAddUpWhateverTheSize() {
        for (int i = 0; i < 20_000; i++) {
            chunk(Phase.WRITING, i * 4_194_304L, 4_194_304, 0.05, 20_000 * 4_194_304L);
        }
        var soundings = meter.soundings(Phase.WRITING);
        assertThat(soundings.size()).isBetween(100, 401);
        assertThat(soundings.stream().mapToLong(TransferMeter.Sounding::bytes).sum())
                .isEqualTo(20_000 * 4_194_304L);
        assertThat(soundings.get(7).secondsPer100Mb()).isBetween(1.18, 1.20);
        assertThat(meter.soundings(Phase.READING_BACK)).isEmpty();
    }

    @Test
    void aStopIsHeard() {
        assertThat(meter.cancelled()).isFalse();
        meter.cancel();
        assertThat(meter.cancelled()).isTrue();
    }
}

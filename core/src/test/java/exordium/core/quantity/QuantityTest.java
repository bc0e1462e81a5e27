// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class QuantityTest {

    /** Sizes in both systems; IEC 80000-13 for the binary prefixes. 32 GB = 29.8 GiB is the trade's own example. */
    @ParameterizedTest
    @CsvSource({
        "0, 0 B, 0 B",
        "999, 999 B, 999 B",
        "1024, 1.02 kB, 1.00 KiB",
        "32000000000, 32.0 GB, 29.8 GiB",
        "31914983424, 31.9 GB, 29.7 GiB",
        "256060514304, 256 GB, 238 GiB",
        "1000000000000, 1.00 TB, 931 GiB",
    })
    void saysSizesInPowersOfTenAndOfTwo(long bytes, String decimal, String binary) {
        assertThat(ByteSize.of(bytes).said()).isEqualTo(decimal);
        assertThat(ByteSize.of(bytes).binary()).isEqualTo(binary);
    }

    @Test
    void saysEveryByteWithSpacesBetweenThousands() {
        assertThat(ByteSize.of(31914983424L).exact()).isEqualTo("31 914 983 424 B");
    }

    @ParameterizedTest
    @CsvSource({
        "32GB, 32000000000",
        "29.8 GiB, 31997506355",
        "512, 512",
        "1 MiB, 1048576",
        "1.5 kB, 1500",
        "7 TB, 7000000000000"
    })
    void readsSizesAsPeopleWriteThem(String text, long bytes) {
        assertThat(ByteSize.parse(text).bytes()).isEqualTo(bytes);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "GB", "-5", "12 apples", "1e9", "99999999999999 TB"})
    void namesTextThatIsNoSize(String text) {
        assertThatThrownBy(() -> ByteSize.parse(text))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("\"" + text + "\"");
    }

    @Test
    void aSizeIsNeverNegative() {
        assertThatThrownBy(() -> ByteSize.of(-1)).isInstanceOf(IllegalArgumentException.class);
        assertThat(ByteSize.of(3).minusOrZero(ByteSize.of(5))).isEqualTo(ByteSize.ZERO);
    }

    @Property
    void whatIsWrittenInBytesReadsBack(@ForAll @LongRange(min = 0, max = 1L << 53) long bytes) {
        assertThat(ByteSize.parse(String.valueOf(bytes)).bytes()).isEqualTo(bytes);
    }

    @Property
    void whatIsSaidIsWithinOnePercentOfTheTruth(@ForAll @LongRange(min = 1000, max = 1L << 50) long bytes) {
        assertThat(ByteSize.parse(ByteSize.of(bytes).said()).bytes())
                .isBetween((long) (bytes * 0.99), (long) (bytes * 1.01));
        assertThat(ByteSize.parse(ByteSize.of(bytes).binary()).bytes())
                .isBetween((long) (bytes * 0.99), (long) (bytes * 1.01));
    }

    @Property
    void timeAndRateAreEachOthersInverse(
            @ForAll @LongRange(min = 1_000_000, max = 1L << 40) long bytes,
            @ForAll @DoubleRange(min = 1e5, max = 1e9) double rate) {
        Duration time = new ByteRate(rate).timeFor(ByteSize.of(bytes));
        assertThat(time.toMillis() / 1000.0).isBetween(bytes / rate - 0.001, bytes / rate + 0.001);
    }

    @Test
    void aRateOfZeroHasNoTime() {
        assertThatThrownBy(() -> new ByteRate(0).timeFor(ByteSize.of(1))).isInstanceOf(IllegalStateException.class);
        assertThat(ByteRate.over(ByteSize.of(5), Duration.ZERO).bytesPerSecond())
                .isZero();
        assertThatThrownBy(() -> new ByteRate(Double.NaN)).isInstanceOf(IllegalArgumentException.class);
    }

    @ParameterizedTest
    @CsvSource({
        "PT0.84S, 0.8 s",
        "PT14.2S, 14.2 s",
        "PT59.96S, 1 min 00 s",
        "PT62S, 1 min 02 s",
        "PT2H5M, 2 h 05 min",
        "P34D, 34 days",
        "P1DT3H, 1 day",
    })
    void saysSpansAsPeopleDo(Duration span, String said) {
        assertThat(Span.said(span)).isEqualTo(said);
    }

    @Test
    void timeLeftRoundsUpSoThatItNeverPromisesTooMuch() {
        assertThat(Span.left(Duration.ofMillis(7001))).isEqualTo("8 s");
        assertThat(Span.left(Duration.ofMillis(-5))).isEqualTo("0 s");
        assertThat(Span.left(Duration.ofSeconds(62))).isEqualTo("1 min 02 s");
    }

    @Test
    void powerIsVoltsTimesAmps() {
        assertThat(Watts.of(5, 3).value()).isEqualTo(15);
        assertThat(Watts.of(5, 3).minus(new Watts(16)).said()).isEqualTo("-1.0 W");
        // IEEE 802.3af at the device: rounding it up would promise power that is not there.
        assertThat(new Watts(12.95).said()).isEqualTo("12.95 W");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.quantity.ByteSize;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WriteModeTest {
    /** Common practice, no source: what is in use is written where that is known at once and is much less than all. */
    @ParameterizedTest
    @CsvSource({
        "true,  400, 1000, USED",
        "true,  899, 1000, USED",
        "true,  900, 1000, WHOLE",
        "true,    0, 1000, WHOLE",
        "false, 400, 1000, WHOLE"
    })
    void whatSparesIsOfferedWhereItIsKnownAtOnce(boolean readAnywhere, long used, long size, WriteMode offered) {
        assertThat(WriteMode.offered(readAnywhere, ByteSize.of(used), ByteSize.of(size)))
                .isEqualTo(offered);
    }
}

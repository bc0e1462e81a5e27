// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class DeviceNumbersTest {
    /** The coding of device numbers is that of makedev(3). */
    @Test
    void deviceNumbersAreCodedAsTheSystemDoes() {
        assertThat(DeviceNumbers.of("7:3").number()).isEqualTo(0x703);
        assertThat(DeviceNumbers.of("259:300").number()).isEqualTo(0x110_32CL);
    }
}

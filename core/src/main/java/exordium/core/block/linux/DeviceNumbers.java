// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import exordium.core.block.FileIdentity;

/** Numbers of devices as the kernel writes them. */
final class DeviceNumbers {
    private DeviceNumbers() {}

    /** Where numbers: as sysfs writes them, such as {@code 7:3}; the coding is that of makedev(3). */
    static FileIdentity of(String numbers) {
        int colon = numbers.indexOf(':');
        long major = Long.parseLong(numbers.substring(0, colon));
        long minor = Long.parseLong(numbers.substring(colon + 1));
        return FileIdentity.ofDevice(
                (minor & 0xFF) | ((major & 0xFFF) << 8) | ((minor & ~0xFFL) << 12) | ((major & ~0xFFFL) << 32));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import java.util.Locale;
import java.util.Map;
import java.util.OptionalInt;

/**
 * Numbers of open(2) that differ between processors. They are the kernel's: include/uapi/asm-generic/fcntl.h, and fcntl.h of arm, arm64 and
 * powerpc beside it. What one processor calls O_DIRECT is O_DIRECTORY on another, where setting it is ignored without a word.
 */
final class KernelFlags {
    private static final int GENERIC_DIRECT = 040000;
    private static final int ARM_DIRECT = 0200000;
    private static final int POWER_DIRECT = 0400000;

    private static final Map<String, Integer> DIRECT = Map.of(
            "amd64", GENERIC_DIRECT,
            "x86_64", GENERIC_DIRECT,
            "riscv64", GENERIC_DIRECT,
            "s390x", GENERIC_DIRECT,
            "loongarch64", GENERIC_DIRECT,
            "aarch64", ARM_DIRECT,
            "arm", ARM_DIRECT,
            "ppc64", POWER_DIRECT,
            "ppc64le", POWER_DIRECT);

    private KernelFlags() {}

    /** O_DIRECT of this processor; empty where it is not known, and then nothing goes past the cache by it. */
    static OptionalInt direct() {
        return direct(System.getProperty("os.arch", ""));
    }

    /** Where architecture: as Java calls it. */
    static OptionalInt direct(String architecture) {
        Integer flag = DIRECT.get(architecture.toLowerCase(Locale.ROOT));
        return flag == null ? OptionalInt.empty() : OptionalInt.of(flag);
    }
}

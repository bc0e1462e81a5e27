// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

class KernelFlagsTest {
    /** Source: fcntl.h of the kernel's asm-generic, arm64 and powerpc folders (Linux 6.1, include/uapi). */
    @Test
    void eachProcessorHasItsOwnNumberForDirect() {
        assertThat(KernelFlags.direct("amd64")).hasValue(0x4000);
        assertThat(KernelFlags.direct("riscv64")).hasValue(0x4000);
        assertThat(KernelFlags.direct("aarch64")).hasValue(0x10000);
        assertThat(KernelFlags.direct("arm")).hasValue(0x10000);
        assertThat(KernelFlags.direct("ppc64le")).hasValue(0x20000);
        assertThat(KernelFlags.direct("abacus")).isEqualTo(OptionalInt.empty());
    }
}

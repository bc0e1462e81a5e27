// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names as profiles write them. */
class NamePatternTest {
    @ParameterizedTest
    @CsvSource({
        "start4.elf, start*.elf, true, true",
        "START4.ELF, start*.elf, true, false",
        "start.elf.bak, start*.elf, false, false",
        "a/start.elf, *.elf, false, false",
        "kernel-64.img, kernel-64.img, true, true",
        "kernel-64ximg, kernel-64.img, false, false",
        "x(1).dtb, x(1).*, true, true",
        "anything, *, true, true",
        "EFI, efi, true, false"
    })
    void starsStandForAnythingButASlash(String name, String pattern, boolean like, boolean spelt) {
        assertThat(NamePattern.isLike(name, pattern)).isEqualTo(like);
        assertThat(NamePattern.isSpeltLike(name, pattern)).isEqualTo(spelt);
        assertThat(NamePattern.isLikeAny(name, List.of("other", pattern))).isEqualTo(like);
        assertThat(NamePattern.isLikeAny(name, List.of())).isFalse();
    }
}

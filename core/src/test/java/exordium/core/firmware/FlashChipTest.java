// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The chip of a virtual board: what was cut is never told as whole. That flash is erased before it is written: common practice, no source. */
class FlashChipTest {
    private static final LocalDate OLD = LocalDate.parse("2025-01-15");
    private static final LocalDate NEW = LocalDate.parse("2026-09-02");

    private static byte[] payload(int seed, int length) {
        byte[] bytes = new byte[length];
        new Random(seed).nextBytes(bytes);
        return bytes;
    }

    private static FlashChip made(int slots) throws OverBound {
        FlashChip chip = FlashChip.blank(slots);
        chip = chip.after(chip.update(OLD, payload(1, 200_000)));
        return chip.after(chip.settings(new FirmwareConfig("BOOT_ORDER=0xf41")));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2})
    void aWriteThatIsCutAnywhereIsToldAsWhatItLeft(int slots) throws UnreadableInput {
        FlashChip chip = made(slots);
        byte[] payload = payload(2, 260_000);
        List<FlashChip.Step> steps = chip.update(NEW, payload);
        long all = FlashChip.bytesOf(steps);
        Optional<FlashChip.Running> whole = chip.after(steps).running();
        assertThat(whole).map(FlashChip.Running::release).contains(NEW);
        for (long cut = 0; cut < all; cut += FlashChip.BLOCK) {
            FlashChip left = FlashChip.of(chip.cut(steps, cut).bytes());
            Optional<FlashChip.Running> running = left.running();
            if (slots == 2 || cut == 0) {
                assertThat(running)
                        .as("cut after %d", cut)
                        .map(FlashChip.Running::release)
                        .contains(OLD);
                assertThat(left.payload().orElseThrow()).isEqualTo(payload(1, 200_000));
            } else {
                assertThat(running).as("cut after %d", cut).isEmpty();
            }
            assertThat(left.settings()).contains(new FirmwareConfig("BOOT_ORDER=0xf41"));
            // Whatever it left, writing it again mends it.
            assertThat(left.after(left.update(NEW, payload)).running())
                    .map(FlashChip.Running::release)
                    .contains(NEW);
        }
        assertThat(chip.after(steps).payload().orElseThrow()).isEqualTo(payload);
    }

    /** At any byte, not only at the ends of blocks. */
    @Property(tries = 200)
    void aCutAtAnyByteOfAHeadOrASettingsBlockIsNeverHalfTrue(@ForAll @LongRange(max = 80_000) long cut)
            throws OverBound {
        for (int slots = 1; slots <= 2; slots++) {
            FlashChip chip = made(slots);
            List<FlashChip.Step> steps = chip.update(NEW, payload(2, 30_000));
            Optional<LocalDate> left = chip.cut(steps, cut).running().map(FlashChip.Running::release);
            boolean done = cut >= FlashChip.bytesOf(steps);
            assertThat(left)
                    .isIn(Optional.of(OLD), done || slots == 1 ? Optional.of(NEW) : Optional.of(OLD), Optional.empty());
            assertThat(done ? left : Optional.of(NEW)).contains(NEW);
            FirmwareConfig changed = new FirmwareConfig("BOOT_ORDER=0xf416");
            assertThat(chip.cut(chip.settings(changed), cut % 4200).settings())
                    .isIn(Optional.of(new FirmwareConfig("BOOT_ORDER=0xf41")), Optional.of(changed));
        }
    }

    @Property(tries = 200)
    void anyBytesAreReadWithoutFail(@ForAll long seed) throws UnreadableInput {
        Random random = new Random(seed);
        byte[] bytes = made(1 + random.nextInt(2)).bytes();
        for (int i = 0; i < 20; i++) {
            bytes[random.nextInt(random.nextBoolean() ? bytes.length : 16_384)] = (byte) random.nextInt();
        }
        FlashChip chip = FlashChip.of(bytes);
        chip.running();
        chip.settings();
    }

    @Test
    void whatDoesNotFitIsRefused() {
        FlashChip chip = FlashChip.blank(1);
        assertThatThrownBy(() -> chip.update(NEW, new byte[FlashChip.ROOM + 1]))
                .isInstanceOf(OverBound.class)
                .hasMessageContaining("524288");
        assertThatThrownBy(() -> chip.settings(new FirmwareConfig("x".repeat(FlashChip.MOST_SETTINGS + 1))))
                .isInstanceOf(OverBound.class);
        assertThatThrownBy(() -> FlashChip.of(new byte[77])).isInstanceOf(UnreadableInput.class);
        assertThat(chip.running()).isEmpty();
        assertThat(chip.settings()).isEmpty();
    }

    @Test
    void updatesTakeTurnsBetweenTwoSlots() throws OverBound {
        FlashChip chip = made(2);
        int first = chip.running().orElseThrow().slot();
        chip = chip.after(chip.update(NEW, payload(3, 10)));
        assertThat(chip.running()).contains(new FlashChip.Running(NEW, 1 - first));
        // Going back to an older release is an update as well.
        chip = chip.after(chip.update(OLD, payload(4, 10)));
        assertThat(chip.running()).contains(new FlashChip.Running(OLD, first));
    }
}

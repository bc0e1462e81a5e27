// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import exordium.core.finding.UnreadableInput;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What an eMMC tells of its life, as the kernel gives it in {@code life_time} and {@code pre_eol_info} (JEDEC JESD84-B51, extended
 * CSD: DEVICE_LIFE_TIME_EST_TYP_A and _B in tenths, 0x0B for more than all of it; PRE_EOL_INFO 1 normal, 2 warning, 3 urgent).
 */
public final class EmmcLife {
    private static final int MOST = 0x0B;
    private static final int WARNING = 2;
    private static final int URGENT = 3;
    /** At the warning four fifths of the reserve are used, at the urgent one nine tenths. */
    private static final double SPARE_AT_WARNING = 0.2;

    private static final double SPARE_AT_URGENT = 0.1;

    private EmmcLife() {}

    /**
     * Where lifeTime: two numbers such as {@code 0x03 0x04}; preEol: one such as {@code 0x01}; either may be empty.
     *
     * @throws UnreadableInput when they are no such numbers
     */
    public static HealthReading read(String lifeTime, String preEol, Instant at) throws UnreadableInput {
        Optional<Double> used = Optional.empty();
        List<String> signs = new ArrayList<>();
        for (String word : words(lifeTime)) {
            int value = number(word);
            if (value > MOST) {
                throw new UnreadableInput("\"" + word + "\" is no estimate of an eMMC's life.");
            }
            // 0 stands for a part that has no estimate; of a tenth its end counts.
            if (value > 0) {
                double share = value / 10.0;
                used = Optional.of(Math.max(used.orElse(0.0), share));
            }
        }
        Optional<Double> spare = Optional.empty();
        for (String word : words(preEol)) {
            int value = number(word);
            if (value == WARNING) {
                spare = Optional.of(SPARE_AT_WARNING);
                signs.add("It warns that four fifths of its reserve are used.");
            } else if (value == URGENT) {
                spare = Optional.of(SPARE_AT_URGENT);
                signs.add("It warns that nine tenths of its reserve are used.");
            }
        }
        return new HealthReading(
                at,
                "the eMMC's own register",
                used,
                spare,
                Optional.empty(),
                Optional.empty(),
                used.filter(share -> share > 1).isPresent(),
                false,
                0,
                0,
                signs);
    }

    private static List<String> words(String text) {
        return text.isBlank() ? List.of() : List.of(text.strip().split("\\s+"));
    }

    private static int number(String word) throws UnreadableInput {
        if (!word.matches("0[xX][0-9a-fA-F]{1,2}")) {
            throw new UnreadableInput("\"" + word + "\" is no number of an eMMC's register.");
        }
        return Integer.parseInt(word.substring(2), 16);
    }
}

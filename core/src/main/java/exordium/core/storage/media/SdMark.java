// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import java.util.Optional;

/** What a mark on a card promises at the least (SD Association, speed and application performance classes). */
public record SdMark(
        String mark, Optional<ByteRate> sequentialWrite, Optional<Double> readIops, Optional<Double> writeIops) {
    /** @throws UnreadableInput when it is no mark */
    public static SdMark of(String mark) throws UnreadableInput {
        return switch (mark) {
            case "C2", "C4", "C6", "C10", "V6", "V10", "V30", "V60", "V90" ->
                writes(mark, Double.parseDouble(mark.substring(1)));
            case "U1" -> writes(mark, 10);
            case "U3" -> writes(mark, 30);
            case "A1" ->
                new SdMark(mark, Optional.of(ByteRate.ofMegabytes(10)), Optional.of(1500.0), Optional.of(500.0));
            case "A2" ->
                new SdMark(mark, Optional.of(ByteRate.ofMegabytes(10)), Optional.of(4000.0), Optional.of(2000.0));
            default -> throw new UnreadableInput("\"" + mark + "\" is no mark of a card such as C10, U3, V30 or A2.");
        };
    }

    private static SdMark writes(String mark, double megabytes) {
        return new SdMark(mark, Optional.of(ByteRate.ofMegabytes(megabytes)), Optional.empty(), Optional.empty());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.finding.Step;
import java.util.Optional;

/**
 * One step of one board.
 *
 * @param figure the one number that matters, short
 * @param fill how full the medium is, from 0 to 1, where that is the matter
 * @param reason a sentence with the numbers
 */
public record Cell(Step step, Pennant pennant, String figure, Optional<Double> fill, String reason) {

    static Cell of(Step step, Pennant pennant, String figure, String reason) {
        return new Cell(step, pennant, figure, Optional.empty(), reason);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.daysheet;

import exordium.core.access.Known;
import exordium.core.finding.Step;
import java.util.Optional;

/**
 * One step of one board.
 *
 * @param figure the one number that matters, short
 * @param fill how full the medium is, from 0 to 1, where that is the matter
 * @param reason a sentence with the numbers
 * @param by how the fact behind it is known; what was told never looks like what was read
 */
public record Cell(Step step, Pennant pennant, String figure, Optional<Double> fill, String reason, Known.By by) {

    static Cell of(Step step, Pennant pennant, String figure, String reason) {
        return of(step, pennant, figure, Optional.empty(), reason);
    }

    static Cell of(Step step, Pennant pennant, String figure, Optional<Double> fill, String reason) {
        return new Cell(step, pennant, figure, fill, reason, Known.By.READ);
    }

    /** The state in words, with how it is known where it was not read. */
    public String state() {
        return switch (by) {
            case READ -> pennant.text();
            case TOLD -> pennant.text() + ", as told";
            case REPORTED -> pennant.text() + ", as reported";
            case DEFAULT -> pennant.text() + ", nobody told";
        };
    }
}

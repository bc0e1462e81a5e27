// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

/**
 * What counts how much when ways are compared, all of it in minutes; the user sets them as house rules.
 *
 * @param opening for each time the box is opened
 * @param euro for each euro spent
 * @param wear for each ten gigabytes written
 */
public record Weights(double opening, double euro, double wear) {
    /** Common practice, no source: a box is opened once rather than ten minutes saved. */
    public static final Weights USUAL = new Weights(10, 3, 2);

    private static final double TEN_GIGABYTES = 10e9;

    public double of(Cost cost) {
        return cost.minutes()
                + opening * cost.openings()
                + euro * cost.euros()
                + wear * cost.bytesWritten() / TEN_GIGABYTES;
    }
}

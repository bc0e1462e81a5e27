// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal.real;

import java.util.List;

/**
 * What one real thing did beside what was rehearsed.
 *
 * @param peer what it was, with its release where it says one
 * @param left what it cannot show, a sentence each
 * @param log everything it said
 */
public record Compared(String peer, List<Point> points, List<String> left, String log) {
    /** One thing that can be told apart. */
    public record Point(String what, String rehearsed, String real) {
        public boolean agrees() {
            return rehearsed.equals(real);
        }
    }

    public boolean agrees() {
        return points.stream().allMatch(Point::agrees);
    }
}

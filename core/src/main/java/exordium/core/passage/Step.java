// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.List;
import java.util.Optional;

/**
 * One step of a way.
 *
 * @param id by which it is called: the deed and what it is done to
 * @param needs ids of media and parts it is done with
 * @param proves what shows that it is done
 * @param medium what it is done to, source where from (a medium, {@code image:}, {@code copy:} or {@code recovery:}), port where, value an
 *     order, a release or settings
 */
public record Step(
        String id,
        Deed deed,
        String text,
        Cost cost,
        List<String> needs,
        String proves,
        Optional<String> caution,
        Optional<String> medium,
        Optional<String> source,
        Optional<String> port,
        Optional<String> value) {
    public Step {
        needs = List.copyOf(needs);
    }

    /** Under another id, where a way has the same deed twice. */
    public Step called(String other) {
        return new Step(other, deed, text, cost, needs, proves, caution, medium, source, port, value);
    }

    /** Whether it is the same deed done to the same things, whatever it costs by now. */
    public boolean same(Step other) {
        return deed == other.deed
                && medium.equals(other.medium)
                && source.equals(other.source)
                && port.equals(other.port)
                && value.equals(other.value);
    }
}

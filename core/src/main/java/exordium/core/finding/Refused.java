// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.List;
import java.util.stream.Collectors;

/** Not done, for safety; nothing was touched. */
public class Refused extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final transient List<Finding> reasons;

    public Refused(List<Finding> reasons) {
        super(reasons.stream().map(Finding::text).collect(Collectors.joining(" ")));
        this.reasons = List.copyOf(reasons);
    }

    public Refused(Finding reason) {
        this(List.of(reason));
    }

    public List<Finding> reasons() {
        return reasons;
    }

    /** Throws when any of the findings stops. */
    public static void ifAnyStops(List<Finding> findings) {
        List<Finding> stops = findings.stream().filter(Finding::stops).toList();
        if (!stops.isEmpty()) {
            throw new Refused(stops);
        }
    }
}

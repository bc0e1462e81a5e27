// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Starts as a kernel's log counts them. */
final class Starts {
    private Starts() {}

    static Map<String, Object> of(List<String> days) {
        Map<String, Object> starts = new LinkedHashMap<>();
        starts.put("count", days.size());
        starts.put("since", days.get(0));
        starts.put("days", List.copyOf(days));
        return starts;
    }
}

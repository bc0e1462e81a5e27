// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.LinkedHashMap;
import java.util.Map;

/** Starts as a kernel's log counts them. */
final class Starts {
    private Starts() {}

    static Map<String, Object> of(int count, String since) {
        Map<String, Object> starts = new LinkedHashMap<>();
        starts.put("count", count);
        starts.put("since", since);
        return starts;
    }
}

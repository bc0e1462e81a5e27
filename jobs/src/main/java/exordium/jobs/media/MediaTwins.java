// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.finding.Finding;
import exordium.core.layout.Twins;
import exordium.store.Media;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Media of the register that have one and the same identifier, as they were last looked into; those that are retired do not count. */
public final class MediaTwins {
    private MediaTwins() {}

    static List<Finding> among(List<MediaRegister.Entry> all) {
        return Twins.among(identifiers(all));
    }

    /** Of one medium among all: by its identifier, not by what is said of it. */
    public static List<Finding> of(MediaRegister.Entry entry, List<MediaRegister.Entry> all) {
        Map<String, String> same = identifiers(all);
        String own = same.get(entry.called());
        same.values().removeIf(id -> !id.equals(own));
        return Twins.among(same);
    }

    private static Map<String, String> identifiers(List<MediaRegister.Entry> entries) {
        Map<String, String> identifiers = new HashMap<>();
        entries.stream()
                .filter(each -> each.details().state() != Media.State.RETIRED)
                .forEach(each -> each.details().diskId().ifPresent(id -> identifiers.put(each.called(), id)));
        return identifiers;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.storage.media.MediumKind;
import java.util.Optional;

/** What media take to be plugged into the PC. */
final class ReadingParts {
    static final String READER = "reader";

    private final PassageFacts facts;
    private final Starts starts;

    ReadingParts(PassageFacts facts, Starts starts) {
        this.facts = facts;
        this.starts = starts;
    }

    /** What a medium takes to be plugged into the PC; empty where it goes in as it is. */
    Optional<Part> of(MediumKind kind) {
        return switch (kind.form()) {
            case "card" -> Optional.of(part(READER));
            case "m2" ->
                Optional.of(starts.boxFor(kind).map(box -> part(box.id())).orElseGet(() -> part("enclosure")));
            default -> Optional.empty();
        };
    }

    private Part part(String id) {
        return facts.parts().stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseGet(() -> new Part(id, id, id, 0, false, Optional.empty()));
    }

    boolean isAtHand(Part part, Situation now) {
        return facts.atHand().contains(part.id()) || now.bought().contains(part.id());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.quantity.ByteRate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** The way from a medium's flash to the processor. What a user gets is the slowest of it. */
public record LinkChain(List<Stage> stages) {
    /** One stage of the chain and what it carries. */
    public record Stage(String title, ByteRate ceiling) {}

    public LinkChain {
        if (stages.isEmpty()) {
            throw new IllegalArgumentException("a chain has at least one stage");
        }
        stages = List.copyOf(stages);
    }

    public static LinkChain of(String medium, ByteRate mediumRate, List<Link> links) {
        List<Stage> stages = new ArrayList<>();
        stages.add(new Stage(medium, mediumRate));
        links.forEach(link -> stages.add(new Stage(link.title(), link.ceiling())));
        return new LinkChain(stages);
    }

    public Stage narrowest() {
        return stages.stream().min(Comparator.comparing(Stage::ceiling)).orElseThrow();
    }

    public ByteRate effective() {
        return narrowest().ceiling();
    }
}

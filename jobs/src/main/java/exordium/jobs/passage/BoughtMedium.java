// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.finding.UnreadableInput;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;
import java.util.Optional;
import java.util.Set;

/** Finds what was bought for a passage, which is in the register under a name of its own. */
record BoughtMedium(Workbench workbench) {
    /** Makers' sizes of one label differ by a few percent. */
    private static final double NEARLY = 0.9;

    /**
     * The newest that fits, lies here and serves no board.
     *
     * @param offer the id of what shops have, and taken: ids of media that were bought already
     * @throws UnreadableInput when there is none
     */
    Media.Medium of(String offer, Set<String> taken) throws IOException {
        MediumKind.Medium wanted = workbench.media().offered().stream()
                .filter(each -> each.id().equals(offer))
                .findFirst()
                .orElseThrow();
        Optional<Media.Medium> bought = Optional.empty();
        for (Media.Listed each : workbench.workspace().media().listed()) {
            boolean fits = workbench
                            .kind(each.medium().kind())
                            .id()
                            .equals(wanted.kind().id())
                    && each.medium().size().bytes() >= wanted.size().bytes() * NEARLY
                    && each.details().state() == Media.State.HERE
                    && !taken.contains(each.medium().id())
                    && !workbench.inService().containsKey(each.medium().file());
            if (fits) {
                bought = Optional.of(each.medium());
            }
        }
        return bought.orElseThrow(
                () -> new UnreadableInput(
                        "No " + wanted.kind().title() + " of about "
                                + wanted.size().said()
                                + " lies in the drawer: take what you bought into the register first, then tell this step again."));
    }
}

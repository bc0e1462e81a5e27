// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.access.Sighting;
import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareChip;
import java.util.ArrayList;
import java.util.List;

/** Holds what somebody saw at a board against what was meant to be set there, and against the rehearsal of its start. */
public final class SeenAtBoard {
    private SeenAtBoard() {}

    /**
     * @param before as it was known, with what waits for a restart; after: as it is known now
     * @param rehearsed the start worked out from what is known now
     */
    public static List<Finding> findings(
            BoardProfile profile, FirmwareChip before, FirmwareChip after, Sighting seen, Trace rehearsed) {
        List<Finding> findings = new ArrayList<>();
        if (seen.firmware().isPresent() && after.staged().isPresent()) {
            findings.add(Finding.caution(
                            "told-not-taken-over",
                            "It shows firmware " + after.running() + ", and "
                                    + after.staged().get()
                                    + " was to be set: restart it; if it was switched off instead, set it again.",
                            Basis.practice())
                    .mendAt(Step.FIRMWARE));
        }
        if (seen.order().isPresent() && after.stagedConfig().isPresent()) {
            findings.add(Finding.caution(
                            "told-not-taken-over",
                            "It shows order " + seen.order().get()
                                    + ", and another was to be set: restart it; if it was"
                                    + " switched off instead, set it again.",
                            Basis.practice())
                    .mendAt(Step.ORDER));
        }
        if (seen.firmware().isPresent() && seen.firmware().get().isBefore(before.running())) {
            findings.add(Finding.note(
                    "told-older",
                    "It shows firmware " + seen.firmware().get() + ", older than the " + before.running()
                            + " known before.",
                    Basis.practice()));
        }
        seen.started().ifPresent(port -> started(port, rehearsed, findings));
        seen.root().ifPresent(root -> root(profile, root, rehearsed, findings));
        if (seen.trouble().isPresent() && rehearsed.runs()) {
            findings.add(otherwise("the rehearsal has it run, and it was told not to start"));
        }
        return List.copyOf(findings);
    }

    private static void started(String port, Trace rehearsed, List<Finding> findings) {
        if (!rehearsed.runs()) {
            findings.add(otherwise("the rehearsal has it fail ("
                    + rehearsed.cause().code() + "), and it was told to have started from " + port));
        } else if (!rehearsed.startedFrom().filter(port::equals).isPresent()) {
            findings.add(otherwise("the rehearsal has it start from "
                    + rehearsed.startedFrom().orElse("nothing") + ", and it was told to have started from " + port));
        }
    }

    private static void root(BoardProfile profile, String root, Trace rehearsed, List<Finding> findings) {
        boolean agrees = rehearsed
                .rootFrom()
                .map(from -> from.equals("network")
                        ? root.contains(":") || root.equals("/dev/nfs")
                        : profile.port(from)
                                .map(port ->
                                        root.startsWith("/dev/" + port.device().replace("*", "")))
                                .orElse(true))
                .orElse(true);
        if (!agrees) {
            findings.add(otherwise("the rehearsal has / on the medium in "
                    + rehearsed.rootFrom().orElse("nothing") + ", and it was told to be on " + root));
        }
    }

    private static Finding otherwise(String what) {
        return Finding.caution(
                        "told-otherwise",
                        "What is known and what was seen disagree: " + what
                                + ". Look what is plugged in where, and at its order.",
                        Basis.practice())
                .mendAt(Step.REHEARSAL);
    }
}

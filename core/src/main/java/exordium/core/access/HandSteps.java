// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import java.util.ArrayList;
import java.util.List;

/** What is left to the user at a board, in order, where its way does not do it; common practice, no source. */
public final class HandSteps {
    private HandSteps() {}

    /** To have what is staged take effect; none where the way to it restarts it. */
    public static List<String> restart(BoardWay way, BoardProfile profile, FirmwareChip chip) {
        if (way.can(Ability.RESTART)) {
            return List.of();
        }
        List<String> steps = new ArrayList<>(way.can(Ability.STAGE) ? List.of() : staged(profile, chip));
        steps.add("Restart it from its own system; do not switch it off"
                + (chip.anythingStaged() ? ", or what was set is lost." : "."));
        steps.add("Do not cut its power until it is up again.");
        steps.add(way.can(Ability.LOOK) ? "Then have it read again." : look(profile));
        return List.copyOf(steps);
    }

    /** To switch it off and on, with what that costs. */
    public static List<String> switchOff(BoardWay way, BoardProfile profile, FirmwareChip chip) {
        List<String> steps = new ArrayList<>();
        if (chip.anythingStaged()) {
            steps.add("What was set and not yet restarted into is lost by this: restart it first, if it is to count.");
        }
        steps.add("Shut its system down, and wait until its light shows that it is at rest.");
        steps.add("Take its power away, then give it back.");
        steps.add(way.can(Ability.LOOK) ? "Then have it read again." : look(profile));
        return List.copyOf(steps);
    }

    /** To set what is staged there. */
    public static List<String> staged(BoardProfile profile, FirmwareChip chip) {
        List<String> steps = new ArrayList<>();
        chip.staged()
                .ifPresent(
                        release -> steps.add(
                                "Have it take firmware " + release
                                        + ", with the updating tool of its system, or from a recovery card where its system has none."));
        String where = profile.order().form().whereSet();
        chip.stagedConfig().ifPresent(config -> {
            gone(chip.config(), config)
                    .forEach(line -> steps.add("Take " + line + " out" + where.replace(" in its", " of its")));
            changed(chip.config(), config).forEach(line -> steps.add("Set " + line + where));
        });
        return steps;
    }

    /** Lines whose key is in the settings no more. */
    private static List<String> gone(FirmwareConfig before, FirmwareConfig after) {
        return before.text()
                .lines()
                .filter(line -> line.contains("=")
                        && after.value(line.substring(0, line.indexOf('='))).isEmpty())
                .toList();
    }

    private static List<String> changed(FirmwareConfig before, FirmwareConfig after) {
        List<String> old = before.text().lines().toList();
        return after.text()
                .lines()
                .filter(line -> line.contains("=") && !old.contains(line))
                .toList();
    }

    private static String look(BoardProfile profile) {
        return profile.firmware().updatable()
                ? "Then tell what it shows: the date of its firmware and its order, which device holds /, and what it started from."
                : "Then tell what it shows: which device holds /, and what it started from.";
    }
}

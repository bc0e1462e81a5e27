// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** What is to be said of a role on a board whatever medium it gets. */
public final class RoleFindings {
    private static final double OVERLAY_MEMORY = 2;

    private RoleFindings() {}

    public static List<Finding> of(StorageNeed need) {
        List<Finding> findings = new ArrayList<>();
        Role role = need.role();
        memory(need, findings);
        if (role.overlay() && role.habit().records()) {
            findings.add(Finding.stop(
                    "overlay-loses-records",
                    "A board that " + role.habit().title()
                            + " must not have the read-only overlay: what it records is gone at the restart.",
                    Basis.practice()));
        }
        if (role.overlay() && need.host().memory() < OVERLAY_MEMORY) {
            findings.add(Finding.caution(
                    "overlay-memory",
                    gigabytes(need.host().memory())
                            + " of memory are little for the read-only overlay; it wants 2 GB or more.",
                    Basis.practice()));
        }
        if (!role.overlay() && role.habit() == WriteHabit.NEVER_CHANGES) {
            findings.add(Finding.note(
                    "overlay-fits",
                    "A board that never changes can have the read-only overlay: then nothing wears, and one copy is kept.",
                    Basis.practice()));
        }
        if (!role.overlay() && !role.logsInMemory() && role.habit().logShare() >= 0.4) {
            findings.add(Finding.note(
                    "logs-in-memory",
                    String.format(
                            Locale.ROOT,
                            "About %.0f %% of what it writes is logs; kept in memory, its medium lasts that much longer.",
                            role.habit().logShare() * 100),
                    Basis.practice()));
        }
        reliability(need, findings);
        if (role.place() == Setting.ROOF) {
            findings.add(Finding.caution(
                    "roof",
                    "Whatever stands up there is changed on a ladder: not alone, and what lasts is worth its price.",
                    Basis.practice()));
        }
        if (role.place() != Setting.DESK && role.slotReachable()) {
            findings.add(Finding.note(
                    "reach-doubtful",
                    "It stands " + role.place().title() + ": look whether the card slot can really be reached there.",
                    Basis.practice()));
        }
        if (role.habit().records() && role.lostDays() < 7) {
            findings.add(Finding.caution(
                    "copies-often",
                    "At most " + role.lostDays()
                            + " days of records may be lost: copies have to be made as often, whatever the medium.",
                    Basis.computed("what may be lost")));
        }
        return Finding.worstFirst(findings);
    }

    /** What a board of this role rests on, where the house leaves that to the role. Common practice, no source. */
    private static String answer(Role role) {
        return switch (role.habit()) {
            case NEVER_CHANGES -> "the read-only overlay and one proven copy: nothing on the medium changes.";
            case LOGS -> "logs in memory and copies: what wears the medium is not worth keeping.";
            case SENSORS -> "copies as often as records may be lost, and a card of high endurance or an SSD.";
            case DATABASE -> "an SSD, and copies: many small writes wear a card out.";
            case VIDEO -> "a drive with the room and the writes for it; copies of the system alone.";
        };
    }

    private static void reliability(StorageNeed need, List<Finding> findings) {
        Role role = need.role();
        if (need.rules().reliability() == Reliability.BY_ROLE) {
            findings.add(Finding.note(
                    "reliability-by-role",
                    "A board that " + role.habit().title() + " rests on " + answer(role),
                    Basis.practice()));
        }
        Basis house =
                Basis.houseRule("reliability by " + need.rules().reliability().title());
        if (need.rules().reliability() == Reliability.COPIES) {
            findings.add(Finding.note(
                    "house-copies",
                    "This house relies on copies: a cheap medium will do, as long as a proven copy lies ready and "
                            + role.lostDays() + " days of work may be lost.",
                    house));
        }
        if (need.rules().reliability() == Reliability.READ_ONLY && !role.overlay()) {
            findings.add(
                    role.habit().records()
                            ? Finding.caution(
                                    "house-read-only-not-here",
                                    "This house relies on read-only systems; a board that "
                                            + role.habit().title()
                                            + " cannot have one. Keep its logs in memory and copy it the more often.",
                                    house)
                            : Finding.caution(
                                    "house-read-only",
                                    "This house relies on read-only systems; this board records nothing and does not have"
                                            + " the read-only overlay yet.",
                                    house));
        }
    }

    /** Advice, and never a stop: people do it with less. Only a hypervisor does not exist for 32 bits. */
    private static void memory(StorageNeed need, List<Finding> findings) {
        SystemKind system = need.role().system();
        double memory = need.host().memory();
        boolean narrow = need.host().width() < 64;
        double least = system.leastMemory(narrow);
        double useful = system.usefulMemory(narrow);
        if (memory < least) {
            findings.add(Finding.caution(
                    "memory-too-small",
                    "A " + system.title() + " starts with " + gigabytes(least) + " of memory; this board has "
                            + gigabytes(memory) + ".",
                    Basis.practice()));
        } else if (memory < useful) {
            findings.add(Finding.caution(
                    "memory-scant",
                    "A " + system.title() + " is useful from " + gigabytes(useful) + " of memory; this board has "
                            + gigabytes(memory) + ".",
                    Basis.practice()));
        }
        if (narrow && system == SystemKind.HYPERVISOR) {
            findings.add(Finding.stop(
                    "width-too-small",
                    "A " + system.title() + " needs a 64-bit board; this one has "
                            + need.host().width() + " bits.",
                    Basis.practice()));
        }
        if (narrow && system == SystemKind.DESKTOP) {
            findings.add(Finding.note(
                    "width-narrow",
                    "On a board of " + need.host().width() + " bits take a light desktop for little memory.",
                    Basis.practice()));
        }
    }

    private static String gigabytes(double memory) {
        return memory < 1
                ? Math.round(memory * 1000) + " MB"
                : String.format(Locale.ROOT, memory == Math.rint(memory) ? "%.0f GB" : "%.1f GB", memory);
    }
}

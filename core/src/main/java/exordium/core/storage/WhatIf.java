// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * What would have to change for another medium to come first: single changes of the role or the supply, the smallest first,
 * tried one by one on the whole choice.
 */
public final class WhatIf {
    private final StorageChoice choice;
    private final List<MediumKind.Medium> media;
    private final Supply madeFor;
    private final Watts fullAllowance;
    private final Map<String, String> winners = new ConcurrentHashMap<>();

    /** Where madeFor: the supply the board is made for, and what USB devices may draw on it. */
    public WhatIf(StorageChoice choice, List<MediumKind.Medium> media, Supply madeFor, Watts fullAllowance) {
        this.choice = choice;
        this.media = List.copyOf(media);
        this.madeFor = madeFor;
        this.fullAllowance = fullAllowance;
    }

    /** A sentence; empty where it comes first already, or no single change makes it. */
    public Optional<String> wins(String medium) {
        MediumKind.Medium wanted = media.stream()
                .filter(each -> each.id().equals(medium))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("not up for choice: " + medium));
        if (first("", choice.need()).equals(medium)) {
            return Optional.empty();
        }
        return changes(wanted).entrySet().stream()
                .filter(change -> first(change.getKey(), change.getValue()).equals(medium))
                .findFirst()
                .map(change -> "It would come first if " + change.getKey() + ".");
    }

    /** Which comes first after a change; worked out once for all of them. Empty where none fits. */
    private String first(String change, StorageNeed need) {
        return winners.computeIfAbsent(change, key -> choice.with(need).order(media).stream()
                .findFirst()
                .filter(StorageAssessment::fits)
                .map(each -> each.medium().id())
                .orElse(""));
    }

    private Map<String, StorageNeed> changes(MediumKind.Medium medium) {
        StorageNeed need = choice.need();
        Role role = need.role();
        Map<String, StorageNeed> changes = new LinkedHashMap<>();
        changes.put(
                role.quickStart() ? "seconds at the start did not matter" : "seconds at the start mattered",
                need.with(role.withQuickStart(!role.quickStart())));
        changes.put(
                role.slotReachable() ? "the card slot were shut in" : "the card slot could be reached",
                need.with(role.withSlotReachable(!role.slotReachable())));
        if (role.portsNeeded() > 0) {
            changes.put("no fast port were needed for other things", need.with(role.withPortsNeeded(0)));
        }
        if (!role.logsInMemory()) {
            changes.put("logs were kept in memory", need.with(role.withLogsInMemory(true)));
        }
        double price = choice.assess(medium).price();
        if (role.budget() > 0 && price > role.budget()) {
            changes.put(
                    String.format(Locale.ROOT, "the budget were %.0f euros", Math.ceil(price)),
                    need.with(role.withBudget(Math.ceil(price))));
        }
        if (need.supply().power().compareTo(madeFor.power()) < 0) {
            changes.put("it had the supply it is made for, " + madeFor.title(), need.with(madeFor, fullAllowance));
        }
        for (double times : new double[] {0.5, 0.1, 2, 10, 50}) {
            ByteSize aDay =
                    ByteSize.of(Math.round(Math.max(1e7, role.dailyWrites().bytes()) * times));
            changes.put(aDay.said() + " were written a day", need.with(role.withDailyWrites(aDay)));
        }
        for (double gigabytes : new double[] {0, 50, 200, 400}) {
            ByteSize data = ByteSize.ofGigabytes(gigabytes);
            changes.put(
                    gigabytes == 0 ? "there were no data to keep" : "there were " + data.said() + " of data",
                    need.with(role.withData(data)));
        }
        return changes;
    }
}

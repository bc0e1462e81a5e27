// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What would have to change for another medium to come first: single changes of the role or the supply, the smallest first,
 * tried one by one on the whole choice.
 */
public final class WhatIf {
    private final StorageChoice choice;
    private final List<MediumKind.Medium> media;
    private final Supply madeFor;
    private final Watts fullAllowance;
    private Answers answers;

    /** Where madeFor: the supply the board is made for, and what USB devices may draw on it. */
    public WhatIf(StorageChoice choice, List<MediumKind.Medium> media, Supply madeFor, Watts fullAllowance) {
        this.choice = choice;
        this.media = List.copyOf(media);
        this.madeFor = madeFor;
        this.fullAllowance = fullAllowance;
    }

    /** A sentence; empty where it comes first already, or no single change makes it. */
    public Optional<String> wins(String medium) {
        if (media.stream().noneMatch(each -> each.id().equals(medium))) {
            throw new IllegalArgumentException("not up for choice: " + medium);
        }
        Answers known = answers();
        if (known.now().equals(medium)) {
            return Optional.empty();
        }
        return Optional.ofNullable(known.before().get(medium))
                .or(() -> budget(medium, known.withoutBudget()))
                .or(() -> Optional.ofNullable(known.after().get(medium)))
                .map(change -> "It would come first if " + change + ".");
    }

    /**
     * What comes first after each change, asked once for all media.
     *
     * @param before for each medium the first change that makes it win, of those smaller than another budget; after: of the others
     * @param withoutBudget every medium as it would be if money did not matter
     */
    private record Answers(
            String now, Map<String, String> before, Map<String, String> after, List<StorageAssessment> withoutBudget) {}

    private synchronized Answers answers() {
        if (answers == null) {
            StorageNeed need = choice.need();
            boolean limited = need.role().budget() > 0;
            answers = new Answers(
                    first(assessed(need)),
                    winners(small()),
                    winners(large()),
                    limited ? assessed(need.with(need.role().withBudget(0))) : List.of());
        }
        return answers;
    }

    private List<StorageAssessment> assessed(StorageNeed need) {
        StorageChoice other = choice.with(need);
        return media.stream().map(other::assess).toList();
    }

    private Map<String, String> winners(Map<String, StorageNeed> changes) {
        Map<String, String> winners = new HashMap<>();
        changes.forEach((words, need) -> winners.putIfAbsent(first(assessed(need)), words));
        return winners;
    }

    private static String first(List<StorageAssessment> assessed) {
        return StorageChoice.first(assessed)
                .filter(StorageAssessment::fits)
                .map(each -> each.medium().id())
                .orElse("");
    }

    /** With a budget of just its price everything dearer is still refused. */
    private Optional<String> budget(String medium, List<StorageAssessment> withoutBudget) {
        Optional<StorageAssessment> own = withoutBudget.stream()
                .filter(each -> each.medium().id().equals(medium))
                .findFirst();
        if (own.isEmpty() || own.get().price() <= choice.need().role().budget()) {
            return Optional.empty();
        }
        double price = Math.ceil(own.get().price());
        List<StorageAssessment> affordable =
                withoutBudget.stream().filter(each -> each.price() <= price).toList();
        return first(affordable).equals(medium)
                ? Optional.of(String.format(Locale.ROOT, "the budget were %.0f euros", price))
                : Optional.empty();
    }

    private Map<String, StorageNeed> small() {
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
        return changes;
    }

    private Map<String, StorageNeed> large() {
        StorageNeed need = choice.need();
        Role role = need.role();
        Map<String, StorageNeed> changes = new LinkedHashMap<>();
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

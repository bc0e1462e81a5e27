// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.core.passage.Wish;
import exordium.jobs.bench.Workbench;
import exordium.store.Passages;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;

/** Keeps a passage on its course: what does not hold any more has fallen, and what is otherwise than thought is planned anew. */
final class Course {
    private final Workbench workbench;
    private final PassageHouse house;
    private final Passages passages;

    Course(Workbench workbench, PassageHouse house) {
        this.workbench = workbench;
        this.house = house;
        this.passages = workbench.workspace().passages();
    }

    /** Steps whose evidence fell fall; what is left is planned anew then, and where a medium of it is gone. */
    Passages.Passage refreshed(Passages.Passage passage) throws IOException {
        KeptPlan plan = KeptPlan.read(passage);
        StepEvidence evidence = new StepEvidence(workbench, workbench.board(passage.board()));
        Optional<String> why = Optional.empty();
        for (int i = 0; i < plan.steps().size(); i++) {
            KeptPlan.Kept kept = plan.steps().get(i);
            if (!kept.done()) {
                continue;
            }
            List<Step> later = plan.steps().subList(i + 1, plan.steps().size()).stream()
                    .filter(KeptPlan.Kept::done)
                    .map(KeptPlan.Kept::step)
                    .toList();
            Optional<String> fallen = evidence.fallen(kept, later);
            if (fallen.isPresent()) {
                plan = plan.with(i, kept.fallen(fallen.get()));
                why = why.or(() -> fallen);
            }
        }
        why = why.or(gone(plan));
        return why.isEmpty() ? passage : anew(passage, plan, plan.given(), why.get());
    }

    /** A medium of a step to come that is not in the register any more. */
    private Supplier<Optional<String>> gone(KeptPlan plan) {
        return () -> {
            Set<String> known = new TreeSet<>();
            workbench.workspace().media().all().forEach(each -> known.add(each.id()));
            workbench.media().offered().forEach(each -> known.add(each.id()));
            return plan.steps().stream()
                    .filter(each -> !each.done() && !each.fallen())
                    .flatMap(each -> each.step().medium().stream())
                    .filter(id -> !known.contains(id))
                    .findFirst()
                    .map(id -> id + " is not in the register any more.");
        };
    }

    /** From here on by the way that is best as things stand now, with the same medium where one leads over it. */
    Passages.Passage anew(Passages.Passage passage, KeptPlan plan, PassagePlan.Given given, String why)
            throws IOException {
        Wish wish = Wish.parse(passage.wish());
        PassagePlan now =
                PassagePlan.of(house.facts(workbench.board(passage.board()), PassageHouse.Needs.of(wish)), wish, given);
        Optional<Route> same = now.routes().stream()
                .filter(route -> KeptPlan.of(given, route).target().equals(plan.target()))
                .findFirst();
        Optional<Route> route = same.or(() -> now.routes().stream().findFirst());
        Passages.Passage changed;
        if (route.isPresent()) {
            changed = passage.with(
                    Passages.State.UNDER_WAY, plan.onward(given, route.get()).json(), why + " Planned anew from here.");
        } else if (now.possible()) {
            changed = passage.with(
                    Passages.State.DONE,
                    new KeptPlan(given, plan.target(), withoutOpen(plan)).json(),
                    why + " " + now.reason());
        } else {
            changed = passage.with(Passages.State.UNDER_WAY, plan.json(), why + " " + now.reason());
        }
        passages.put(changed);
        return changed;
    }

    private static List<KeptPlan.Kept> withoutOpen(KeptPlan plan) {
        List<KeptPlan.Kept> ended = plan.steps().stream()
                .filter(each -> each.done() || each.fallen())
                .toList();
        return ended.isEmpty() ? plan.steps() : ended;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.store.Passages;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The steps of a passage as they are kept.
 *
 * @param given what was said to be at hand, and what not
 * @param target the medium it is all about
 */
record KeptPlan(PassagePlan.Given given, Optional<String> target, List<Kept> steps) {
    private static final ObjectMapper JSON = new ObjectMapper()
            .registerModule(new Jdk8Module())
            .registerModule(new JavaTimeModule())
            .setSerializationInclusion(JsonInclude.Include.NON_ABSENT);

    KeptPlan {
        steps = List.copyOf(steps);
    }
    /**
     * One step with what became of it.
     *
     * @param evidence the row of what was done, by which it is known to hold still
     * @param said what came of it, or what was seen
     */
    record Kept(Step step, boolean done, boolean fallen, Optional<Instant> at, Optional<Long> evidence, String said) {
        static Kept open(Step step) {
            return new Kept(step, false, false, Optional.empty(), Optional.empty(), "");
        }

        Kept done(Instant now, Optional<Long> row, String what) {
            return new Kept(step, true, false, Optional.of(now), row, what);
        }

        Kept fallen(String why) {
            return new Kept(step, false, true, at, evidence, why);
        }
    }

    static KeptPlan of(PassagePlan.Given given, Route route) {
        return new KeptPlan(
                given, target(route), route.steps().stream().map(Kept::open).toList());
    }

    private static Optional<String> target(Route route) {
        return route.steps().stream()
                .filter(step -> step.source().isPresent())
                .findFirst()
                .flatMap(Step::medium);
    }

    /** What was done stays in it, whatever comes after that is the new way's. */
    KeptPlan onward(PassagePlan.Given now, Route route) {
        List<Kept> all = new ArrayList<>(
                steps.stream().filter(each -> each.done() || each.fallen()).toList());
        Set<String> called = new HashSet<>();
        all.forEach(each -> called.add(each.step().id()));
        for (Step step : route.steps()) {
            String id = step.id();
            for (int i = 2; !called.add(id); i++) {
                id = step.id() + "-" + i;
            }
            all.add(Kept.open(step.called(id)));
        }
        return new KeptPlan(now, target(route).or(() -> target), all);
    }

    /** The same, and no medium is held to. */
    KeptPlan withoutTarget() {
        return new KeptPlan(given, Optional.empty(), steps);
    }

    KeptPlan with(int index, Kept kept) {
        List<Kept> all = new ArrayList<>(steps);
        all.set(index, kept);
        return new KeptPlan(given, target, all);
    }

    /** The first that is to be done; -1 where all are. */
    int next() {
        for (int i = 0; i < steps.size(); i++) {
            if (!steps.get(i).done() && !steps.get(i).fallen()) {
                return i;
            }
        }
        return -1;
    }

    Progress progress(int index) {
        Kept kept = steps.get(index);
        if (kept.fallen()) {
            return Progress.FALLEN;
        }
        return kept.done() ? Progress.DONE : index == next() ? Progress.NEXT : Progress.OPEN;
    }

    String json() {
        try {
            return JSON.writeValueAsString(this);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** @throws UnreadableInput when it is none, as in a workspace of somebody else's */
    static KeptPlan read(Passages.Passage passage) throws UnreadableInput {
        try {
            KeptPlan plan = JSON.readValue(passage.plan(), KeptPlan.class);
            if (plan == null || plan.steps().isEmpty()) {
                throw new UnreadableInput("The passage of " + passage.board() + " has no steps that can be read.");
            }
            return plan;
        } catch (JsonProcessingException | RuntimeException e) {
            throw new UnreadableInput("The passage of " + passage.board() + " cannot be read.", e);
        }
    }
}

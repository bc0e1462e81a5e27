// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.Trace;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Ways through random houses, walked by a follower that knows nothing of how they were found. */
class PassagePropertiesTest {
    /** 2,000 in the long runs; the seed is fixed here and drawn there. */
    private static final int RUNS = Integer.getInteger("exordium.passages", 250);

    private static final long SEED = Long.getLong("exordium.passageSeed", 1201);
    private static final List<String> MEDIA =
            List.of("card-quick", "card-plain", "ssd-sata", "ssd-nvme", "ssd-m2-sata", "stick", "ssd-nvme-short");
    private static final List<String> PARTS =
            List.of("reader", "usb-m2-nvme", "usb-m2-sata", "monitor", "keyboard", "network-cable");
    private static final List<Wish.Kind> WISHES = List.of(Wish.Kind.values());
    private static Houses houses;

    @BeforeAll
    static void build() throws IOException {
        houses = Houses.made();
    }

    private record Case(PassageFacts facts, Wish wish, PassagePlan.Given given) {}

    private static Case drawn(Random random) {
        String family = random.nextBoolean() ? "plover-4" : "plover-5";
        Houses.House house = houses.house(family);
        List<String> orders = family.equals("plover-4")
                ? List.of("0xf41", "0xf14", "0xf1", "0xe4")
                : List.of("0xf461", "0xf416", "0xf1", "0xf41");
        house.order(orders.get(random.nextInt(orders.size())));
        house.firmware(List.of("2025-01-15", "2025-06-03", "2026-09-02").get(random.nextInt(3)));
        if (random.nextInt(6) > 0) {
            boolean nvme = family.equals("plover-5") && random.nextInt(4) == 0;
            boolean usb = !nvme && random.nextInt(5) == 0;
            house.in(
                    nvme ? "nvme" : usb ? "usb1" : "card",
                    nvme ? "ssd-nvme" : usb ? "ssd-sata" : "card-quick",
                    64 + random.nextInt(300),
                    random.nextInt(4) > 0);
        }
        for (int i = random.nextInt(5); i > 0; i--) {
            house.drawer("m" + i, MEDIA.get(random.nextInt(MEDIA.size())), 40 + random.nextInt(400));
        }
        for (int i = random.nextInt(4); i > 0; i--) {
            house.shop("s" + i, MEDIA.get(random.nextInt(MEDIA.size())), 40 + random.nextInt(400), random.nextInt(60));
        }
        PARTS.stream().filter(each -> random.nextInt(3) > 0).forEach(house::parts);
        if (random.nextInt(3) == 0) {
            house.slotShut();
        }
        if (random.nextInt(3) == 0) {
            house.copied();
        }
        if (random.nextInt(8) == 0) {
            house.littleMemory();
        }
        house.without(random.nextInt(5) == 0, random.nextInt(5) == 0);
        house.weights(new Weights(random.nextInt(20), random.nextInt(6), random.nextInt(4)));
        Wish.Kind kind = WISHES.get(random.nextInt(WISHES.size()));
        Optional<String> value =
                switch (kind) {
                    case ORDER -> Optional.of(orders.get(random.nextInt(orders.size())));
                    case BATCH -> Optional.of(String.valueOf(1 + random.nextInt(4)));
                    default -> Optional.empty();
                };
        Set<String> without = random.nextInt(4) == 0 ? Set.of(PARTS.get(random.nextInt(PARTS.size()))) : Set.of();
        return new Case(house.facts(), new Wish(kind, value), new PassagePlan.Given(Set.of(), without));
    }

    /** Walks a way: what it may do at each step, what is where, and which states of a system are still anywhere. */
    private static final class Follower {
        private final PassageFacts facts;
        private final Set<String> forbidden;
        private final Map<String, String> places = new HashMap<>();
        private final Map<String, String> holds = new HashMap<>();
        private final Set<String> vault = new HashSet<>();
        private final Set<String> hand;
        private final Set<String> mustLast = new HashSet<>();
        private Situation now;
        private boolean on;
        private boolean staged;
        private int runs;
        private long written;
        private double minutes;

        Follower(PassageFacts facts, Set<String> without, Starts starts) {
            this.facts = facts;
            this.forbidden = without;
            this.hand = new TreeSet<>(facts.atHand());
            now = PassagePlan.begin(facts, starts);
            on = now.board().on();
            facts.stock().forEach(each -> {
                places.put(each.id(), each.port().orElse(each.owned() ? "desk" : "shop"));
                holds.put(
                        each.id(),
                        each.held().content().isEmpty() ? "" : each.held().content() + "@0");
                if (each.held().onlyHere()) {
                    mustLast.add(each.held().content() + "@0");
                }
            });
            facts.sources().forEach(source -> vault.add(source.id() + "@0"));
        }

        void walk(Route route) {
            for (Step step : route.steps()) {
                for (String thing : step.needs()) {
                    boolean medium = facts.stock(thing).isPresent();
                    assertThat(medium ? !places.get(thing).equals("shop") : hand.contains(thing))
                            .as(step + " has " + thing)
                            .isTrue();
                    assertThat(forbidden).as(step.text()).doesNotContain(thing);
                }
                take(step);
                written += step.cost().bytesWritten();
                minutes += step.cost().minutes();
                // Stopped after any step: what was nowhere else still is somewhere.
                for (String state : mustLast) {
                    assertThat(holds.containsValue(state) || vault.contains(state))
                            .as(state + " after " + step.text())
                            .isTrue();
                }
            }
            assertThat(route.cost().bytesWritten()).isEqualTo(written);
            assertThat(route.cost().minutes()).isCloseTo(minutes, org.assertj.core.data.Offset.offset(1e-6));
        }

        private void take(Step step) {
            String medium = step.medium().orElse("");
            switch (step.deed()) {
                case BUY -> {
                    assertThat(forbidden)
                            .doesNotContain(medium.isEmpty() ? step.value().orElseThrow() : medium);
                    if (medium.isEmpty()) {
                        hand.add(step.value().orElseThrow());
                    } else {
                        assertThat(places.get(medium)).isEqualTo("shop");
                        // A shop has more of them: in a batch each is another one.
                        places.put(medium, "desk");
                    }
                }
                case POWER_OFF -> {
                    assertThat(on).isTrue();
                    assertThat(staged).as("nothing staged is lost").isFalse();
                    on = false;
                }
                case POWER_ON -> {
                    assertThat(on).isFalse();
                    on = true;
                    ran();
                }
                case RESTART -> {
                    assertThat(on && staged).isTrue();
                    staged = false;
                    ran();
                }
                case STAGE_FIRMWARE, STAGE_ORDER, STAGE_SETTINGS -> {
                    assertThat(on).isTrue();
                    staged = true;
                }
                case TAKE_OUT -> {
                    assertThat(on).isFalse();
                    assertThat(places.get(medium)).isEqualTo(step.port().orElseThrow());
                    places.put(medium, "desk");
                }
                case PLUG -> {
                    assertThat(on).isFalse();
                    assertThat(places.get(medium)).isEqualTo("desk");
                    assertThat(places).doesNotContainValue(step.port().orElseThrow());
                    places.put(medium, step.port().orElseThrow());
                }
                case COPY -> {
                    assertThat(places.get(medium)).isEqualTo("desk");
                    vault.add(holds.get(medium));
                }
                case CLONE -> {
                    assertThat(places.get(step.source().orElseThrow())).isEqualTo("desk");
                    onto(medium, holds.get(step.source().orElseThrow()));
                }
                case WRITE -> onto(medium, step.source().orElseThrow() + "@0");
                case RESTORE -> {
                    String source = step.source().orElseThrow();
                    onto(medium, source.equals("copy:newest") ? newest() : source + "@0");
                }
                case CLEAR -> onto(medium, "");
                case SET_UP, GROW, NEW_IDENTITY, PROVE ->
                    assertThat(places.get(medium)).isEqualTo("desk");
                case LOOK -> assertThat(on).isTrue();
                default -> throw new AssertionError(step.deed());
            }
        }

        private String newest() {
            return vault.stream()
                    .filter(each -> each.startsWith("medium:"))
                    .findFirst()
                    .orElseThrow();
        }

        private void onto(String medium, String state) {
            assertThat(places.get(medium)).isEqualTo("desk");
            holds.put(medium, state);
        }

        /** It wrote to all it may have started from; the state it started with is allowed to go on into the next. */
        private void ran() {
            runs++;
            for (Map.Entry<String, String> each : new LinkedHashMap<>(places).entrySet()) {
                boolean inBoard =
                        !each.getValue().equals("desk") && !each.getValue().equals("shop");
                String state = holds.get(each.getKey());
                if (inBoard && !state.isEmpty()) {
                    boolean last = mustLast.remove(state);
                    String next = state.replaceAll("@.*", "@") + runs + each.getKey();
                    if (last
                            && !vault.contains(state)
                            && holds.values().stream().filter(state::equals).count() > 1) {
                        mustLast.add(state);
                    }
                    holds.put(each.getKey(), next);
                    mustLast.add(next);
                }
            }
        }
    }

    @Test
    void aWayCarriedOutLosesNothingAndEndsInTheWish() throws IOException {
        Random random = new Random(SEED);
        int ways = 0;
        int none = 0;
        Set<Wish.Kind> met = new TreeSet<>();
        for (int i = 0; i < RUNS; i++) {
            Case one = drawn(random);
            PassagePlan plan = PassagePlan.of(one.facts(), one.wish(), one.given());
            assertThat(plan.routes().isEmpty()).isEqualTo(!plan.reason().isEmpty());
            none += plan.routes().isEmpty() ? 1 : 0;
            for (Route route : plan.routes()) {
                ways++;
                met.add(one.wish().kind());
                if (one.wish().kind() != Wish.Kind.BATCH) {
                    new Follower(one.facts(), one.given().without(), new Starts(one.facts())).walk(route);
                    ends(one, route);
                }
            }
        }
        System.out.println("passages: seed " + SEED + ", " + ways + " ways walked, " + none + " cases without one");
        assertThat(ways).isGreaterThan(RUNS / 3);
        assertThat(met)
                .contains(
                        Wish.Kind.NEW_BOARD,
                        Wish.Kind.TO_USB_SSD,
                        Wish.Kind.TO_NVME,
                        Wish.Kind.SPARE,
                        Wish.Kind.REVIVE,
                        Wish.Kind.FIRMWARE,
                        Wish.Kind.ORDER,
                        Wish.Kind.RETIRE);
    }

    /** By what the start at the end shows, not by the plan's own goals. */
    private static void ends(Case one, Route route) {
        Trace trace = route.ends();
        Situation end = route.end();
        if (one.wish().kind() == Wish.Kind.RETIRE) {
            assertThat(end.board().on()).isFalse();
            assertThat(end.held("own").empty()).isTrue();
            return;
        }
        assertThat(trace.runs()).as(one.wish() + " " + route.steps()).isTrue();
        switch (one.wish().kind()) {
            case TO_USB_SSD -> assertThat(trace.rootFrom().orElseThrow()).startsWith("usb");
            case TO_NVME -> assertThat(trace.rootFrom()).contains("nvme");
            case FIRMWARE, REVIVE ->
                assertThat(end.board().firmware())
                        .isEqualTo(one.facts().newestRelease().orElseThrow());
            case ORDER ->
                assertThat(end.board().config().value("BOOT_ORDER"))
                        .isEqualTo(one.wish().value());
            case READ_ONLY -> assertThat(end.board().overlay()).isTrue();
            default -> {}
        }
    }

    /** The same least cost as going through all that can be done, until nothing gets cheaper any more. */
    @Test
    void noWayIsCheaperThanTheOneThatIsFound() {
        Random random = new Random(SEED + 1);
        int compared = 0;
        for (int i = 0; i < RUNS / 2; i++) {
            Case one = drawn(random);
            if (one.wish().kind() == Wish.Kind.BATCH) {
                continue;
            }
            Starts starts = new Starts(one.facts());
            Situation begin = PassagePlan.begin(one.facts(), starts);
            List<Scheme> schemes;
            try {
                schemes = new Schemes(one.facts(), starts).of(one.wish(), begin).schemes();
            } catch (exordium.core.finding.NotPossible e) {
                continue;
            }
            for (Scheme scheme : schemes.subList(0, Math.min(2, schemes.size()))) {
                Situation from = PassagePlan.about(begin, one.facts(), scheme);
                Optional<Double> found = new RouteSearch(one.facts(), starts, scheme)
                        .cheapest(from, Double.MAX_VALUE)
                        .map(RouteSearch.Found::cost);
                Optional<Double> least = exhaustive(one.facts(), starts, scheme, from);
                assertThat(found.isPresent()).isEqualTo(least.isPresent());
                if (found.isPresent()) {
                    assertThat(found.get()).isCloseTo(least.get(), org.assertj.core.data.Offset.offset(1e-6));
                    compared++;
                }
            }
        }
        assertThat(compared).isGreaterThan(RUNS / 10);
    }

    private static Optional<Double> exhaustive(PassageFacts facts, Starts starts, Scheme scheme, Situation from) {
        Moves moves = new Moves(facts, starts, scheme);
        Map<Situation, Double> least = new HashMap<>(Map.of(from, 0.0));
        List<Situation> changed = new ArrayList<>(List.of(from));
        while (!changed.isEmpty()) {
            List<Situation> next = new ArrayList<>();
            for (Situation each : changed) {
                double cost = least.get(each);
                for (Act act : moves.from(each)) {
                    double more = cost + facts.weights().of(act.step().cost());
                    if (more < least.getOrDefault(act.after(), Double.MAX_VALUE) - 1e-12) {
                        least.put(act.after(), more);
                        next.add(act.after());
                    }
                }
            }
            changed = next;
        }
        return least.entrySet().stream()
                .filter(each -> scheme.goal().met(each.getKey(), starts))
                .map(Map.Entry::getValue)
                .min(Double::compare);
    }

    /** Thirty media; the time is told, and held only to what a hang would be. */
    @Test
    void thirtyMediaArePlannedAtOnce() throws IOException {
        Houses.House house =
                houses.house("plover-5").in("card", "card-quick", 100, true).parts("reader", "usb-m2-nvme");
        for (int i = 0; i < 30; i++) {
            house.drawer("m" + i, MEDIA.get(i % MEDIA.size()), 100 + 10L * i);
        }
        PassageFacts facts = house.facts();
        long best = Long.MAX_VALUE;
        for (int i = 0; i < 5; i++) {
            long begun = System.nanoTime();
            assertThat(PassagePlan.of(facts, Wish.of(Wish.Kind.TO_NVME), PassagePlan.Given.NOTHING)
                            .routes())
                    .isNotEmpty();
            best = Math.min(best, System.nanoTime() - begun);
        }
        System.out.println("passage with 30 media planned in " + best / 1_000_000 + " ms");
        assertThat(best).isLessThan(20_000_000_000L);
    }
}

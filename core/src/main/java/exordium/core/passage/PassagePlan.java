// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.finding.NotPossible;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Trace;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * The ways to a wish, best first; none where there is nothing to do or no way.
 *
 * @param reason why there are none
 * @param possible false where there is no way at all
 * @param missing things with which it would be quicker, or possible at all
 */
public record PassagePlan(Wish wish, List<Route> routes, boolean possible, String reason, List<Missing> missing) {
    private static final int MOST_ROUTES = 3;

    public PassagePlan {
        routes = List.copyOf(routes);
        missing = List.copyOf(missing);
    }

    /** Something that is not at hand; minutes it would save, empty where without it there is no way at all. */
    public record Missing(String thing, Optional<Double> wouldSaveMinutes) {}

    /**
     * What is said to be at hand beside what is known, and what is not to be used.
     *
     * @param with ids or kinds of media and parts, and without: the same; those are not bought either
     */
    public record Given(Set<String> with, Set<String> without) {
        public static final Given NOTHING = new Given(Set.of(), Set.of());

        public Given {
            with = new TreeSet<>(with);
            without = new TreeSet<>(without);
        }

        /** The same with a thing counted as here, or no longer. */
        public Given with(String thing, boolean here) {
            return new Given(changed(with, thing, here), changed(without, thing, false));
        }

        /** The same with a thing left out, or no longer. */
        public Given without(String thing, boolean left) {
            return new Given(changed(with, thing, false), changed(without, thing, left));
        }

        private static Set<String> changed(Set<String> things, String thing, boolean in) {
            Set<String> changed = new TreeSet<>(things);
            if (in) {
                changed.add(thing);
            } else {
                changed.remove(thing);
            }
            return changed;
        }
    }

    /**
     * Works the ways out. Touches nothing.
     *
     * @throws UnreadableInput when a thing is named that there is not
     */
    public static PassagePlan of(PassageFacts facts, Wish wish, Given given) throws UnreadableInput {
        requireKnown(facts, given);
        // What it does when it is switched on depends on what is plugged in, not on what else lies at hand.
        Starts starts = new Starts(facts);
        PassagePlan plan = routes(narrowed(facts, given), wish, starts);
        return plan.reason().isEmpty() || !plan.possible()
                ? plan.withMissing(missing(facts, wish, given, plan, starts))
                : plan;
    }

    private PassagePlan withMissing(List<Missing> things) {
        return new PassagePlan(wish, routes, possible, reason, things);
    }

    private static void requireKnown(PassageFacts facts, Given given) throws UnreadableInput {
        Set<String> known = new LinkedHashSet<>(facts.otherThings());
        facts.stock().forEach(each -> {
            known.add(each.id());
            known.add(each.medium().kind().id());
        });
        facts.parts().forEach(part -> {
            known.add(part.id());
            known.add(part.kind());
        });
        for (Set<String> things : List.of(given.with(), given.without())) {
            for (String thing : things) {
                if (!known.contains(thing)) {
                    throw new UnknownName(
                            "There is no thing \"" + thing + "\": neither a medium nor a part is called so.",
                            thing,
                            List.copyOf(known));
                }
            }
        }
    }

    /** What is named to be at hand is; of media of the house that are named, no others are used. */
    private static PassageFacts narrowed(PassageFacts facts, Given given) {
        Set<String> hand = new TreeSet<>(facts.atHand());
        List<Part> parts = new ArrayList<>();
        for (Part part : facts.parts()) {
            if (given.without().stream().anyMatch(part::is)) {
                hand.remove(part.id());
                continue;
            }
            parts.add(part);
            if (given.with().stream().anyMatch(part::is)) {
                hand.add(part.id());
            }
        }
        boolean some = facts.stock().stream()
                .anyMatch(each -> named(given.with(), each) && each.port().isEmpty());
        List<PassageFacts.Stock> stock = facts.stock().stream()
                .filter(each -> inBoard(each) || !named(given.without(), each))
                .filter(each -> inBoard(each) || !some || named(given.with(), each))
                .map(each -> named(given.with(), each) && !each.owned()
                        ? new PassageFacts.Stock(each.medium(), true, each.port(), each.held())
                        : each)
                .toList();
        return facts.withStock(stock, hand, parts);
    }

    private static boolean inBoard(PassageFacts.Stock medium) {
        return medium.port().isPresent();
    }

    private static boolean named(Set<String> things, PassageFacts.Stock medium) {
        return things.contains(medium.id())
                || things.contains(medium.medium().kind().id());
    }

    /** How things stand before anything is done. */
    static Situation begin(PassageFacts facts, Starts starts) {
        Map<String, String> places = new TreeMap<>();
        Map<String, Held> holds = new TreeMap<>();
        for (PassageFacts.Stock each : facts.stock()) {
            places.put(each.id(), each.port().orElse(each.owned() ? Situation.DESK : Situation.SHOP));
            holds.put(each.id(), each.held());
        }
        AtBoard board = new AtBoard(
                true,
                false,
                facts.overlay(),
                facts.bench().firmware(),
                Optional.empty(),
                facts.bench().config(),
                Optional.empty(),
                false,
                false);
        Situation on = new Situation(board, places, holds, Set.of(), Set.of());
        return starts.of(on).runs() ? on : on.with(board.off());
    }

    /** The same with those media alone that the scheme is about, so that the search is small. */
    static Situation about(Situation begin, PassageFacts facts, Scheme scheme) {
        Map<String, String> places = new TreeMap<>(begin.places());
        places.keySet()
                .removeIf(id -> !begin.inBoard(id)
                        && scheme.target().filter(id::equals).isEmpty()
                        && facts.main().filter(id::equals).isEmpty());
        Map<String, Held> holds = new TreeMap<>(begin.holds());
        holds.keySet().retainAll(places.keySet());
        return new Situation(begin.board(), places, holds, begin.copied(), begin.bought());
    }

    private static PassagePlan routes(PassageFacts facts, Wish wish, Starts starts) {
        Situation begin = begin(facts, starts);
        Schemes schemes = new Schemes(facts, starts);
        try {
            if (wish.kind() == Wish.Kind.BATCH) {
                return batch(facts, wish, starts, schemes, begin);
            }
            Offered offered = schemes.of(wish, begin);
            if (offered.already().isPresent()) {
                return new PassagePlan(wish, List.of(), true, offered.already().get(), List.of());
            }
            List<Candidate> found = new ArrayList<>();
            for (Scheme scheme : offered.schemes()) {
                double most = Math.min(worthLookingFor(facts, found), bestOfKind(facts, found, scheme));
                new RouteSearch(facts, starts, scheme)
                        .cheapest(about(begin, facts, scheme), most)
                        .ifPresent(way -> found.add(new Candidate(scheme, way)));
            }
            if (found.isEmpty()) {
                return new PassagePlan(wish, List.of(), false, why(facts, offered, starts, begin), List.of());
            }
            return new PassagePlan(wish, best(facts, starts, found), true, "", List.of());
        } catch (NotPossible e) {
            return new PassagePlan(wish, List.of(), false, e.getMessage(), List.of());
        }
    }

    private static String why(PassageFacts facts, Offered offered, Starts starts, Situation begin) {
        if (offered.schemes().isEmpty() && !offered.why().isEmpty()) {
            return offered.why();
        }
        // Its own reason says more than that it does not start now, where it has one to give.
        Trace now = starts.of(begin.with(begin.board().started()));
        if (!now.runs() && !offered.saysWhy()) {
            return facts.name() + " does not start as it stands: " + Starts.why(now);
        }
        return offered.why().isEmpty()
                ? "No way was found whose start, rehearsed, is what was wished for."
                : offered.why();
    }

    /** By what ways truly differ: the kind of what is written, and whether it must be bought. */
    private static Object kind(PassageFacts facts, Scheme scheme) {
        Optional<PassageFacts.Stock> target = scheme.target().flatMap(facts::stock);
        return List.of(
                target.map(stock -> stock.medium().kind().id()).orElse(""),
                target.map(PassageFacts.Stock::owned).orElse(true));
    }

    /** Of ways that do not truly differ only the best is shown. */
    private static double bestOfKind(PassageFacts facts, List<Candidate> found, Scheme scheme) {
        Object kind = kind(facts, scheme);
        return found.stream()
                .filter(each -> each.kind(facts).equals(kind))
                .mapToDouble(each -> each.way().cost())
                .min()
                .orElse(Double.MAX_VALUE);
    }

    private record Candidate(Scheme scheme, RouteSearch.Found way) {
        Object kind(PassageFacts facts) {
            return PassagePlan.kind(facts, scheme);
        }

        /** Of equally good ones first what holds nothing. */
        private boolean holdsSomething(PassageFacts facts) {
            return scheme.target()
                    .flatMap(facts::stock)
                    .filter(stock -> !stock.held().empty())
                    .isPresent();
        }
    }

    /** What costs more than this is none of those that are shown. */
    private static double worthLookingFor(PassageFacts facts, List<Candidate> found) {
        Map<Object, Double> best = new HashMap<>();
        found.forEach(each -> best.merge(each.kind(facts), each.way().cost(), Math::min));
        return best.values().stream()
                .sorted()
                .skip(MOST_ROUTES - 1L)
                .findFirst()
                .orElse(Double.MAX_VALUE);
    }

    /** Up to three that truly differ. */
    private static List<Route> best(PassageFacts facts, Starts starts, List<Candidate> found) {
        List<Candidate> sorted = new ArrayList<>(found);
        sorted.sort(Comparator.comparingDouble((Candidate each) -> each.way().cost())
                .thenComparing(each -> each.holdsSomething(facts))
                .thenComparing(each -> each.scheme().target().orElse("")));
        Set<Object> kinds = new HashSet<>();
        List<Route> routes = new ArrayList<>();
        for (Candidate each : sorted) {
            if (routes.size() < MOST_ROUTES && kinds.add(each.kind(facts))) {
                routes.add(Route.of(
                        each.way().steps(),
                        each.way().end(),
                        starts.of(each.way().end())));
            }
        }
        return routes;
    }

    /** Card after card, each the cheapest that is left. */
    private static PassagePlan batch(PassageFacts facts, Wish wish, Starts starts, Schemes schemes, Situation begin) {
        Set<String> taken = new HashSet<>();
        List<Step> steps = new ArrayList<>();
        Set<String> bought = new TreeSet<>();
        for (int i = 0; i < wish.count(); i++) {
            Optional<Candidate> next = Optional.empty();
            for (Scheme scheme : schemes.card(taken)) {
                Situation about = about(begin, facts, scheme);
                Situation from = new Situation(about.board(), about.places(), about.holds(), Set.of(), bought);
                Optional<RouteSearch.Found> way =
                        new RouteSearch(facts, starts, scheme).cheapest(from, Double.MAX_VALUE);
                double least = next.map(each -> each.way().cost()).orElse(Double.MAX_VALUE);
                if (way.isPresent() && way.get().cost() < least) {
                    next = Optional.of(new Candidate(scheme, way.get()));
                }
            }
            if (next.isEmpty()) {
                return new PassagePlan(
                        wish,
                        List.of(),
                        false,
                        schemes.card(Set.of()).isEmpty()
                                ? "There is neither an image on the shelf that starts it, nor a copy of it, nor a card."
                                : "There are cards for " + i + " of " + wish.count() + ".",
                        List.of());
            }
            String target = next.get().scheme().target().orElseThrow();
            bought.addAll(next.get().way().end().bought());
            // A shop has any number of the same.
            if (facts.stock(target).orElseThrow().owned()) {
                taken.add(target);
            } else {
                bought.remove(target);
            }
            steps.addAll(next.get().way().steps());
        }
        Route route = Route.of(steps, begin, starts.of(begin));
        return new PassagePlan(wish, List.of(route), true, "", List.of());
    }

    /** One that would only hold what has to be bought as well saves no minute. */
    private static boolean takesOneOfTheDrawer(PassageFacts facts, String enclosure) {
        return facts.enclosures().stream()
                .filter(box -> box.id().equals(enclosure))
                .anyMatch(box -> facts.stock().stream()
                        .anyMatch(stock -> stock.owned()
                                && stock.port().isEmpty()
                                && stock.medium().kind().bus().equals(box.takes())));
    }

    /** With which one thing more it would take fewer minutes. */
    private static List<Missing> missing(PassageFacts facts, Wish wish, Given given, PassagePlan plan, Starts starts) {
        Set<String> things = new TreeSet<>(given.without());
        Set<String> hand = narrowed(facts, given).atHand();
        facts.parts().stream()
                .filter(part -> part.is(ReadingParts.READER)
                        || (part.is(PartsCatalogue.ENCLOSURE)
                                && (plan.routes().isEmpty() || takesOneOfTheDrawer(facts, part.id()))))
                .map(Part::id)
                .filter(id -> !hand.contains(id))
                .forEach(things::add);
        plan.routes().stream().findFirst().ifPresent(best -> things.removeAll(best.buy()));
        // What all of them together do not help, none does alone.
        if (things.size() > 1
                && helped(facts, wish, given, things, plan, starts).isEmpty()) {
            return List.of();
        }
        List<Missing> missing = new ArrayList<>();
        for (String thing : things) {
            helped(facts, wish, given, Set.of(thing), plan, starts)
                    .ifPresent(saved -> missing.add(
                            new Missing(thing, plan.routes().isEmpty() ? Optional.empty() : Optional.of(saved))));
        }
        return missing;
    }

    /** Minutes that are saved where these are at hand as well; empty where that is no help. */
    private static Optional<Double> helped(
            PassageFacts facts, Wish wish, Given given, Set<String> things, PassagePlan plan, Starts starts) {
        Set<String> with = new TreeSet<>(given.with());
        with.addAll(things);
        Set<String> without = new TreeSet<>(given.without());
        without.removeIf(each -> things.contains(each)
                || facts.parts().stream().anyMatch(part -> things.contains(part.id()) && part.is(each)));
        PassagePlan other = routes(narrowed(facts, new Given(with, without)), wish, starts);
        if (other.routes().isEmpty()) {
            return Optional.empty();
        }
        double minutes = other.routes().get(0).cost().minutes();
        if (plan.routes().isEmpty()) {
            return Optional.of(minutes);
        }
        return Optional.of(plan.routes().get(0).cost().minutes() - minutes).filter(saved -> saved > 0);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PriorityQueue;

/**
 * The cheapest way through the deeds of a scheme: least cost first over situations, each looked at once. A scheme has two or three
 * media, so there are some hundreds of situations; of equally cheap ways the one that was found first counts.
 */
final class RouteSearch {
    /** A scheme that has more situations than this is given up: none of those there are comes near it. */
    private static final int MOST = 20_000;

    private final Starts starts;
    private final Weights weights;
    private final Moves moves;
    private final Scheme scheme;

    RouteSearch(PassageFacts facts, Starts starts, Scheme scheme) {
        this.starts = starts;
        this.weights = facts.weights();
        this.moves = new Moves(facts, starts, scheme);
        this.scheme = scheme;
    }

    private record Node(Situation now, double cost, long number, Optional<Node> before, Optional<Step> by) {}

    /** Empty where no way leads there, or none that costs no more than the most it may. */
    Optional<Found> cheapest(Situation begin, double most) {
        PriorityQueue<Node> open =
                new PriorityQueue<>(Comparator.comparingDouble(Node::cost).thenComparingLong(Node::number));
        Map<Situation, Double> best = new HashMap<>();
        open.add(new Node(begin, 0, 0, Optional.empty(), Optional.empty()));
        best.put(begin, 0.0);
        long number = 0;
        while (!open.isEmpty() && best.size() < MOST) {
            Node node = open.poll();
            if (node.cost() > best.get(node.now())) {
                continue;
            }
            if (scheme.goal().met(node.now(), starts)) {
                return Optional.of(new Found(steps(node), node.now(), node.cost()));
            }
            for (Act act : moves.from(node.now())) {
                if (late(act.step(), node, begin)) {
                    continue;
                }
                double cost = node.cost() + weights.of(act.step().cost());
                Double known = best.get(act.after());
                if (cost <= most && (known == null || cost < known)) {
                    best.put(act.after(), cost);
                    open.add(new Node(act.after(), cost, ++number, Optional.of(node), Optional.of(act.step())));
                }
            }
        }
        return Optional.empty();
    }

    /** Shopping, and proving what lies here or was bought, hinder nothing and wait for nothing: they come first, and only there are looked for. */
    private static boolean late(Step step, Node node, Situation begin) {
        boolean first = step.deed() == Deed.BUY
                || (step.deed() == Deed.PROVE
                        && step.medium().filter(begin::inBoard).isEmpty());
        return first
                && node.by()
                        .filter(before -> before.deed() != Deed.BUY && before.deed() != Deed.PROVE)
                        .isPresent();
    }

    /** A way and what it costs by the house's weights. */
    record Found(List<Step> steps, Situation end, double cost) {}

    private static List<Step> steps(Node last) {
        List<Step> steps = new ArrayList<>();
        Optional<Node> node = Optional.of(last);
        while (node.isPresent()) {
            node.get().by().ifPresent(steps::add);
            node = node.get().before();
        }
        Collections.reverse(steps);
        return steps;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.rehearsal.Trace;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * A way to a wish.
 *
 * @param buy ids of what has to be bought for it
 * @param ends the start at its end, or, where the board is left off, of what stands ready for it
 */
public record Route(List<Step> steps, Cost cost, List<String> buy, Situation end, Trace ends) {
    private static final Set<Deed> EARLY = EnumSet.of(Deed.PROVE, Deed.WRITE, Deed.SET_UP, Deed.NEW_IDENTITY);

    public Route {
        steps = List.copyOf(steps);
        buy = List.copyOf(buy);
    }

    /** How it ends, in words; a board that is retired is left off. Where called: what a port is called. */
    public String ended(UnaryOperator<String> called) {
        return !end.board().on()
                ? "the board is left switched off."
                : ends.outcome().code() + " after " + ends.seconds() + " s"
                        + ends.rootFrom()
                                .map(port -> ", root from " + called.apply(port))
                                .orElse("")
                        + (ends.reachable() ? ", reachable over the network." : ".");
    }

    /** Shopping stands first, then what can be done before the board goes down; and no two steps are called the same. */
    static Route of(List<Step> found, Situation end, Trace ends) {
        List<Step> steps = new ArrayList<>();
        found.stream().filter(step -> step.deed() == Deed.BUY).forEach(steps::add);
        found.stream().filter(step -> beforehand(step, found)).forEach(steps::add);
        found.stream()
                .filter(step -> step.deed() != Deed.BUY && !beforehand(step, found))
                .forEach(steps::add);
        Set<String> called = new HashSet<>();
        List<Step> named = new ArrayList<>();
        for (Step step : steps) {
            String id = step.id();
            for (int i = 2; !called.add(id); i++) {
                id = step.id() + "-" + i;
            }
            named.add(step.called(id));
        }
        Cost cost = named.stream().map(Step::cost).reduce(Cost.NONE, Cost::plus);
        List<String> buy = named.stream()
                .filter(step -> step.deed() == Deed.BUY)
                .map(step -> step.medium().or(step::value).orElseThrow())
                .toList();
        return new Route(named, cost, buy, end, ends);
    }

    /** What is done at the PC to a medium that waits for nothing the board has. */
    private static boolean beforehand(Step step, List<Step> found) {
        boolean fromBoard = found.stream()
                .filter(each -> each.medium().equals(step.medium()))
                .takeWhile(each -> !each.equals(step))
                .anyMatch(each -> each.deed() == Deed.TAKE_OUT);
        boolean fromOther = found.stream()
                .filter(each -> each.medium().equals(step.medium()))
                .anyMatch(each -> each.deed() == Deed.CLONE || each.deed() == Deed.RESTORE);
        return EARLY.contains(step.deed()) && !fromBoard && !fromOther;
    }
}

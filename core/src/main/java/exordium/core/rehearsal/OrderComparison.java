// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.FirstTried;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What a start order would do beside the one the board holds, and with each medium taken out. */
public record OrderComparison(List<Variant> variants, List<Finding> findings) {

    /** One start, by name. */
    public record Variant(String name, Trace trace) {}

    /**
     * Rehearses the variants.
     *
     * @param bench with the order the board holds now
     * @param sources the order being put together, first tried first
     * @param slotReachable whether the card can be taken out without taking the box apart
     * @param rule the house rule of what is tried first
     */
    public static OrderComparison of(Bench bench, List<StartSource> sources, boolean slotReachable, FirstTried rule) {
        OrderDialect dialect = OrderDialect.of(bench.profile());
        BoardProfile profile = bench.profile();
        List<Variant> variants = new ArrayList<>();
        variants.add(new Variant("now " + profile.orderFigure(bench.order()), Rehearsal.of(bench)));
        Optional<String> value = written(dialect, sources);
        Bench next = value.map(bench::withOrder).orElse(bench);
        Trace nextTrace = Rehearsal.of(next);
        if (!next.order().equals(bench.order())) {
            variants.add(new Variant("new " + profile.orderFigure(next.order()), nextTrace));
        }
        for (StartSource source : dialect.available()) {
            boolean waiting = bench.mediaOn(source).findAny().isPresent() && !sources.contains(source);
            if (waiting) {
                List<StartSource> tried = new ArrayList<>(sources);
                tried.add(0, source);
                written(dialect, tried)
                        .ifPresent(first -> variants.add(new Variant(
                                source.word() + " first, " + profile.orderFigure(first),
                                Rehearsal.of(bench.withOrder(first)))));
            }
        }
        for (Bench.Attached medium : bench.attached()) {
            variants.add(new Variant(medium.name() + " out", Rehearsal.of(next.without(Set.of(medium.port())))));
        }
        List<Finding> findings = new ArrayList<>(
                findings(dialect, sources, value, nextTrace, rule.judge(sources, slotReachable), profile));
        findings.addAll(untried(bench, sources));
        return new OrderComparison(List.copyOf(variants), Finding.worstFirst(findings));
    }

    /** What is plugged in where the order never looks. */
    private static List<Finding> untried(Bench bench, List<StartSource> sources) {
        List<Finding> findings = new ArrayList<>();
        List<StartSource> tried = sources.stream()
                .takeWhile(source -> source != StartSource.STOP && source != StartSource.RESTART)
                .toList();
        for (Bench.Attached medium : bench.attached()) {
            bench.profile()
                    .port(medium.port())
                    .filter(port -> !tried.contains(port.source()))
                    .ifPresent(port -> findings.add(Finding.note(
                                    "medium-never-tried",
                                    medium.name() + " on " + port.id() + " is never tried by this order.",
                                    Basis.computed("what is plugged in"))
                            .mendAt(Step.ORDER)));
        }
        return findings;
    }

    private static List<Finding> findings(
            OrderDialect dialect,
            List<StartSource> sources,
            Optional<String> value,
            Trace trace,
            Finding house,
            BoardProfile profile) {
        List<Finding> findings = new ArrayList<>(judge(dialect, sources));
        if (value.isPresent()) {
            findings.addAll(trace.findings());
        }
        if (profile.supports(StartSource.CARD) && profile.order().fuse().isEmpty()) {
            findings.add(house);
        }
        return Finding.worstFirst(findings);
    }

    /** What is to be said of an order by itself, whatever is plugged in. */
    public static List<Finding> judge(OrderDialect dialect, List<StartSource> sources) {
        try {
            return dialect.decode(dialect.encode(sources)).findings();
        } catch (UnreadableInput e) {
            return List.of(Finding.stop("order-not-writable", e.getMessage(), Basis.computed("the board's profile")));
        }
    }

    private static Optional<String> written(OrderDialect dialect, List<StartSource> sources) {
        try {
            return Optional.of(dialect.encode(sources));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** Seconds of the longest start among them, for drawing all to one scale. */
    public double longest() {
        return variants.stream()
                .mapToDouble(each -> each.trace().seconds())
                .max()
                .orElse(1);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;

/**
 * Two rehearsals laid over each other: what both do, and what only one does, in the order it happens.
 *
 * @param same how many steps from the beginning are the same in both
 */
public record TwoTraces(Trace one, Trace other, List<Row> rows, int same) {
    /** A step of both, or of one alone. */
    public record Row(Optional<Trace.Event> one, Optional<Trace.Event> other) {
        public boolean both() {
            return one.isPresent() && other.isPresent();
        }
    }

    public static TwoTraces of(Trace one, Trace other) {
        List<Trace.Event> ours = one.steps();
        List<Trace.Event> theirs = other.steps();
        // The longest common subsequence, from the ends back.
        int[][] length = new int[ours.size() + 1][theirs.size() + 1];
        for (int i = ours.size() - 1; i >= 0; i--) {
            for (int j = theirs.size() - 1; j >= 0; j--) {
                length[i][j] = alike(ours.get(i), theirs.get(j))
                        ? length[i + 1][j + 1] + 1
                        : Math.max(length[i + 1][j], length[i][j + 1]);
            }
        }
        List<Row> rows = new ArrayList<>();
        int i = 0;
        int j = 0;
        while (i < ours.size() || j < theirs.size()) {
            boolean both = i < ours.size() && j < theirs.size() && alike(ours.get(i), theirs.get(j));
            boolean first = !both && (j == theirs.size() || (i < ours.size() && length[i + 1][j] >= length[i][j + 1]));
            rows.add(new Row(
                    both || first ? Optional.of(ours.get(i)) : Optional.empty(),
                    both || !first ? Optional.of(theirs.get(j)) : Optional.empty()));
            i += both || first ? 1 : 0;
            j += both || !first ? 1 : 0;
        }
        int same = (int) rows.stream().takeWhile(Row::both).count();
        return new TwoTraces(one, other, List.copyOf(rows), same);
    }

    private static boolean alike(Trace.Event one, Trace.Event other) {
        return one.stage() == other.stage()
                && one.result() == other.result()
                && one.port().equals(other.port())
                && Objects.equals(withoutNumbers(one.text()), withoutNumbers(other.text()));
    }

    /** Watts and seconds differ without anything being otherwise. */
    private static String withoutNumbers(String text) {
        return text.replaceAll("\\d+(\\.\\d+)?", "#");
    }

    /** In one sentence. */
    public String text(String first, String second) {
        if (rows.stream().allMatch(Row::both)) {
            double more = other.seconds() - one.seconds();
            return Math.abs(more) < 0.05
                    ? "Both go the same way."
                    : String.format(
                            Locale.ROOT,
                            "Both go the same way; %s takes %.1f s %s.",
                            second,
                            Math.abs(more),
                            more > 0 ? "more" : "less");
        }
        Row parts = rows.get(same);
        double at = parts.one().or(parts::other).map(Trace.Event::at).orElse(0.0);
        return String.format(
                Locale.ROOT,
                "The same for %.1f s, then they part: %s %s, %s %s.",
                at,
                first,
                end(one),
                second,
                end(other));
    }

    private static String end(Trace trace) {
        return trace.runs()
                ? String.format(
                        Locale.ROOT,
                        "runs from %s after %.1f s",
                        trace.startedFrom().orElse("nowhere"),
                        trace.seconds())
                : "does not start (" + trace.cause().shortText() + ")";
    }
}

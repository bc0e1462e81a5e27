// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.diagnosis;

import exordium.core.quantity.Coded;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.Cause;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * After the fact: what may be wrong with a board, by what was seen of its start, the likeliest first; and the one thing to look at next
 * that would separate the rest best. A suspect is the likelier the more often it happens and the more of what was seen it explains.
 *
 * @param ranked with shares of one that add up to one
 * @param next empty when nothing more would tell, or enough is known
 */
public record Diagnosis(List<Ranked> ranked, Optional<Question> next) {
    /** After so many answers it says what it thinks. */
    public static final int MOST_QUESTIONS = 3;

    /** People misread a light now and then, and the picture of a fault is not always the same. */
    private static final double AS_SEEN = 0.9;

    private static final double OTHERWISE = 0.04;
    private static final double NOT_TOLD = 0.3;
    /** What a log names outright. */
    private static final double NAMED = 8;

    private static final double SURE = 0.75;
    /** Under this an answer would not be worth a walk to the board, in bits. */
    private static final double WORTH_ASKING = 0.05;

    /** One suspect with its share of one. */
    public record Ranked(Suspect suspect, double share) {}

    /** Something to look at; answers by what they mean. */
    public record Question(Sign sign, String text, Map<String, String> answers) {}

    /** What a log says outright, as causes of a start that fails. */
    public record Seen(Map<Sign, String> signs, Set<Cause> named) {
        public Seen {
            signs = Map.copyOf(signs);
            named = Set.copyOf(named);
        }

        public static Seen nothing() {
            return new Seen(Map.of(), Set.of());
        }

        public Seen with(Sign sign, String value) {
            Map<Sign, String> more = new HashMap<>(signs);
            more.put(sign, value);
            return new Seen(more, named);
        }

        /** Both together; what was seen oneself counts before what a log says. */
        public Seen and(Seen log) {
            Map<Sign, String> both = new HashMap<>(log.signs);
            both.putAll(signs);
            Set<Cause> causes = new HashSet<>(named);
            causes.addAll(log.named);
            return new Seen(both, causes);
        }
    }

    /** @param asked signs that were asked for already, whatever the answer; looked: nobody can tell them */
    public static Diagnosis of(Bench bench, Seen seen, Set<Sign> asked) {
        List<Suspect> suspects = Suspects.of(bench);
        double[] weights = new double[suspects.size()];
        double sum = 0;
        for (int i = 0; i < weights.length; i++) {
            weights[i] = weight(suspects.get(i), seen);
            sum += weights[i];
        }
        for (int i = 0; i < weights.length; i++) {
            weights[i] /= sum;
        }
        List<Ranked> ranked = new ArrayList<>();
        for (int i = 0; i < weights.length; i++) {
            ranked.add(new Ranked(suspects.get(i), weights[i]));
        }
        ranked.sort(Comparator.comparingDouble(Ranked::share).reversed());
        boolean enough = asked.size() >= MOST_QUESTIONS || ranked.get(0).share() > SURE;
        return new Diagnosis(List.copyOf(ranked), enough ? Optional.empty() : question(bench, ranked, seen, asked));
    }

    private static double weight(Suspect suspect, Seen seen) {
        double weight = suspect.kind().weight();
        for (Map.Entry<Sign, String> each : seen.signs().entrySet()) {
            String expected = suspect.signs().get(each.getKey());
            weight *= expected == null ? NOT_TOLD : expected.equals(each.getValue()) ? AS_SEEN : OTHERWISE;
        }
        if (!seen.named().isEmpty()) {
            weight *= seen.named().contains(suspect.trace().cause()) ? NAMED : 1 / NAMED;
        }
        return weight;
    }

    private static Optional<Question> question(Bench bench, List<Ranked> ranked, Seen seen, Set<Sign> asked) {
        Sign best = null;
        double most = WORTH_ASKING;
        for (Sign sign : Sign.values()) {
            if (sign.isAskedFor() && !asked.contains(sign) && !seen.signs().containsKey(sign)) {
                double gain = gain(ranked, sign);
                if (gain > most) {
                    most = gain;
                    best = sign;
                }
            }
        }
        if (best == null) {
            return Optional.empty();
        }
        Sign sign = best;
        Map<String, String> answers = new LinkedHashMap<>();
        List<String> values = new ArrayList<>(sign.told());
        ranked.forEach(each -> Optional.ofNullable(each.suspect().signs().get(sign))
                .filter(value -> !values.contains(value))
                .ifPresent(values::add));
        values.forEach(value -> answers.put(value, sign.words(value, bench.profile())));
        return Optional.of(new Question(sign, sign.question(), answers));
    }

    /**
     * How much an answer narrows the suspects down, in bits, on the average over the answers to be expected. Those in front count for
     * more than their share: it is they that have to be told apart, and not the many unlikely ones from them.
     */
    private static double gain(List<Ranked> ranked, Sign sign) {
        Map<String, Double> answers = new HashMap<>();
        double known = 0;
        double all = 0;
        for (Ranked each : ranked) {
            double counts = each.share() * each.share();
            String value = each.suspect().signs().get(sign);
            all += counts;
            if (value != null) {
                answers.merge(value, counts, Double::sum);
                known += counts;
            }
        }
        double bits = 0;
        for (double share : answers.values()) {
            double part = share / known;
            bits -= part * Math.log(part) / Math.log(2);
        }
        return bits * known / all;
    }

    /** How sure it is of the first. */
    public enum Certainty implements Coded {
        SURE,
        LIKELY,
        OPEN
    }

    public Certainty certainty() {
        double first = ranked.get(0).share();
        double second = ranked.size() > 1 ? ranked.get(1).share() : 0;
        return first > SURE ? Certainty.SURE : first > 2 * second ? Certainty.LIKELY : Certainty.OPEN;
    }
}

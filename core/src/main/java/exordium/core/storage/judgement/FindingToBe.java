// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Supplier;

/**
 * A finding whose weight is known and whose sentence is not yet written: of two hundred candidates only the few that are
 * looked at need their sentences.
 */
public record FindingToBe(Severity severity, Supplier<Finding> sentence) {

    public static FindingToBe of(Finding finding) {
        return new FindingToBe(finding.severity(), () -> finding);
    }

    public static FindingToBe stop(Supplier<Finding> sentence) {
        return new FindingToBe(Severity.STOP, sentence);
    }

    /** The same resting on what nobody looked at: no stop, and with the words behind it that say so; as it is where there are none. */
    public FindingToBe doubted(String behind) {
        if (behind.isEmpty()) {
            return this;
        }
        return severity == Severity.STOP
                ? caution(() -> sentence.get().asCaution(behind))
                : new FindingToBe(severity, () -> sentence.get().saidWith(behind));
    }

    public static FindingToBe caution(Supplier<Finding> sentence) {
        return new FindingToBe(Severity.CAUTION, sentence);
    }

    public static FindingToBe note(Supplier<Finding> sentence) {
        return new FindingToBe(Severity.NOTE, sentence);
    }

    /** Worst first, written out when they are asked for the first time. */
    public static final class Sentences {
        private final List<FindingToBe> judged;
        private List<Finding> written;

        public Sentences(List<FindingToBe> judged) {
            this.judged = judged.stream()
                    .sorted(Comparator.comparing(FindingToBe::severity))
                    .toList();
        }

        public boolean anyStops() {
            return count(Severity.STOP) > 0;
        }

        public long count(Severity severity) {
            return judged.stream().filter(each -> each.severity() == severity).count();
        }

        Sentences and(FindingToBe more) {
            List<FindingToBe> all = new ArrayList<>(judged);
            all.add(more);
            return new Sentences(all);
        }

        /** The first alone, where that is all that is shown. */
        Finding first() {
            return judged.get(0).sentence().get();
        }

        synchronized List<Finding> written() {
            if (written == null) {
                written = judged.stream().map(each -> each.sentence().get()).toList();
            }
            return written;
        }
    }
}

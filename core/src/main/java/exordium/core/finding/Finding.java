// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * One judgement: how much it weighs, a code that stays the same, a sentence with the numbers in it, what it rests on,
 * and the step where it can be mended.
 */
public record Finding(Severity severity, String code, String text, Basis basis, Optional<Step> remedy) {
    public static final Comparator<Finding> WORST_FIRST = Comparator.comparing(Finding::severity);

    public static Finding stop(String code, String text, Basis basis) {
        return new Finding(Severity.STOP, code, text, basis, Optional.empty());
    }

    public static Finding caution(String code, String text, Basis basis) {
        return new Finding(Severity.CAUTION, code, text, basis, Optional.empty());
    }

    public static Finding note(String code, String text, Basis basis) {
        return new Finding(Severity.NOTE, code, text, basis, Optional.empty());
    }

    public Finding mendAt(Step step) {
        return new Finding(severity, code, text, basis, Optional.of(step));
    }

    public boolean stops() {
        return severity == Severity.STOP;
    }

    public static boolean anyStops(Collection<Finding> findings) {
        return findings.stream().anyMatch(Finding::stops);
    }

    public static List<Finding> worstFirst(Collection<Finding> findings) {
        return findings.stream().sorted(WORST_FIRST).toList();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * One judgement: how much it weighs, a code that stays the same, a sentence with the numbers in it, what it rests on,
 * and the step where it can be mended.
 */
public record Finding(
        Severity severity, String code, String text, Basis basis, Optional<Step> remedy, Optional<Subject> subject) {
    public static final Comparator<Finding> WORST_FIRST = Comparator.comparing(Finding::severity);

    public static Finding stop(String code, String text, Basis basis) {
        return new Finding(Severity.STOP, code, text, basis, Optional.empty(), Optional.empty());
    }

    public static Finding caution(String code, String text, Basis basis) {
        return new Finding(Severity.CAUTION, code, text, basis, Optional.empty(), Optional.empty());
    }

    public static Finding note(String code, String text, Basis basis) {
        return new Finding(Severity.NOTE, code, text, basis, Optional.empty(), Optional.empty());
    }

    public Finding mendAt(Step step) {
        return new Finding(severity, code, text, basis, Optional.of(step), subject);
    }

    /** For those who go by what it is about. */
    public Finding about(Subject what) {
        return new Finding(severity, code, text, basis, remedy, Optional.of(what));
    }

    public boolean isAbout(Subject what) {
        return subject.equals(Optional.of(what));
    }

    /** The same, where it keeps nothing back, with what is to be said behind it. */
    public Finding asCaution(String behind) {
        return new Finding(Severity.CAUTION, code, text + behind, basis, remedy, subject);
    }

    /** The same with what is to be said behind it. */
    public Finding saidWith(String behind) {
        return new Finding(severity, code, text + behind, basis, remedy, subject);
    }

    /** Those of a kind that was not among the others. */
    public static List<Finding> newSince(Collection<Finding> before, Collection<Finding> now) {
        return now.stream()
                .filter(each -> before.stream().noneMatch(known -> known.code.equals(each.code)))
                .toList();
    }

    /** Those that say something no other one says, by what they are called; the first of each stays. */
    public static List<Finding> onePerCode(Collection<Finding> findings) {
        Map<String, Finding> first = new LinkedHashMap<>();
        findings.forEach(each -> first.putIfAbsent(each.code, each));
        return List.copyOf(first.values());
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

// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.copies.schedule.CopyRule;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What is to be known before a copy is made. */
public final class CopyAdvice {
    private CopyAdvice() {}

    /** To where a copy would go, what of that is in use, and the rate at which the medium is read. */
    public record Source(ByteSize extent, ByteSize used, ByteRate rate) {
        /** To read what is in use; nothing where no rate is known. */
        public Duration time() {
            return rate.bytesPerSecond() > 0 ? rate.timeFor(used) : Duration.ZERO;
        }
    }

    /** Why a copy is to be made before a change; empty where one was made on this very day. */
    public static Optional<String> beforeChange(Optional<LocalDate> lastProven, LocalDate today, String change) {
        if (lastProven.isEmpty()) {
            return Optional.of("There is no proven copy to come back to.");
        }
        return lastProven
                .filter(today::isAfter)
                .map(day ->
                        "The last proven copy is of " + day + ". This one is kept as one made before " + change + ".");
    }

    public static List<Finding> of(
            CopyRule rule, CopyRule.Due due, Optional<Source> source, Finding wayBack, CopyCare care) {
        Basis house = Basis.houseRule(
                "copies every " + Span.days(rule.days()) + ", " + rule.daysWhenLightlyUsed() + " when lightly used");
        List<Finding> findings = new ArrayList<>();
        findings.add(
                due.overdue()
                        ? Finding.caution("copy-due", due.reason(), house)
                        : Finding.note("copy-in-time", due.reason() + " Next: " + due.date() + ".", house));
        source.filter(each -> each.rate().bytesPerSecond() > 0)
                .ifPresent(each -> findings.add(Finding.note(
                        "copy-extent",
                        "A copy holds what is in use, " + each.used().said() + " of "
                                + each.extent().said() + "; about "
                                + Span.said(each.time()) + " to read.",
                        Basis.computed("the allocation maps and the medium's rate"))));
        findings.add(wayBack);
        findings.add(Finding.caution(
                "copy-quiet",
                (care.stopFirst().isEmpty() ? "Stop what writes on the board first" : "Stop first: " + care.stopFirst())
                        + (care.stopFirst().endsWith(".") ? " Then switch it off" : ", and switch it off")
                        + " before taking its medium out.",
                Basis.practice()));
        if (!care.services().isEmpty()) {
            findings.add(Finding.note(
                    "copy-services",
                    "While it is off there is no: " + care.services() + ".",
                    Basis.houseRule("its care")));
        }
        if (!care.quiet().spans().isEmpty()) {
            findings.add(Finding.note(
                    "copy-times", "It may be off " + care.quiet().text() + ".", Basis.houseRule("its care")));
        }
        findings.add(Finding.note(
                "copy-identifiers",
                "A copy written to another medium has the same identifiers: never run both in one board.",
                Basis.practice()));
        return Finding.worstFirst(findings);
    }
}

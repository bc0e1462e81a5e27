// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.quantity.Watts;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Judges media for a board: does the image fit, how long will it take, is the supply enough, how long will it live. */
public final class StorageChoice {
    /** Host writes to flash writes on cards and small drives under mixed use. Common practice, no source. */
    static final double WRITE_AMPLIFICATION = 2.5;
    /** Longer than anybody keeps a board; more years say nothing. */
    private static final double LONGEST_YEARS = 99;

    private static final Basis SIZES = Basis.computed("the real bytes");

    private StorageChoice() {}

    public static StorageAssessment assess(StorageNeed need, MediumKind.Medium medium) {
        List<Finding> findings = new ArrayList<>();
        Optional<StorageNeed.Socket> socket = need.sockets().stream()
                .filter(candidate -> candidate.takes(medium.kind().bus()))
                .max(Comparator.comparing(candidate -> candidate.link().ceiling()));
        if (socket.isEmpty()) {
            findings.add(Finding.stop(
                    "no-socket",
                    medium.name() + " speaks " + medium.kind().bus() + "; this board has no place for it.",
                    Basis.computed("the board's profile")));
        }
        List<Link> links = new ArrayList<>(medium.kind().adapters());
        socket.ifPresent(place -> links.add(place.link()));
        LinkChain read = LinkChain.of(medium.name(), medium.kind().readRate(), links);
        LinkChain write = LinkChain.of(medium.name(), medium.kind().writeRate(), links);
        ByteSize wanted = need.image().orElse(ByteSize.ZERO).plus(need.data());
        findings.add(fit(need, medium, wanted));
        Optional<Duration> time = need.image().map(image -> writeAndProve(image, read.effective(), write.effective()));
        time.ifPresent(span -> findings.add(timeFinding(span, write)));
        Watts margin = need.supply()
                .power()
                .minus(need.boardDraw())
                .minus(medium.kind().watts());
        findings.add(power(need, medium, margin));
        double years = years(need, medium);
        life(years, need, medium).ifPresent(findings::add);
        if (medium.size().compareTo(need.smallest()) < 0) {
            findings.add(Finding.caution(
                    "below-house-size",
                    medium.size().said() + " is under the house's smallest size, "
                            + need.smallest().said() + ".",
                    Basis.houseRule("smallest card")));
        }
        return new StorageAssessment(
                medium,
                socket,
                !Finding.anyStops(findings),
                medium.size().minusOrZero(wanted),
                read,
                write,
                time,
                years,
                margin,
                Finding.worstFirst(findings));
    }

    /** Those that fit first; among them the longer life class, then the quicker, then the smaller. */
    public static List<StorageAssessment> rank(StorageNeed need, List<MediumKind.Medium> media) {
        return media.stream()
                .map(medium -> assess(need, medium))
                .sorted(Comparator.comparing((StorageAssessment each) -> !each.fits())
                        .thenComparing(each -> (int) each.findings().stream()
                                .filter(finding -> finding.severity() == exordium.core.finding.Severity.CAUTION)
                                .count())
                        .thenComparing(each -> -Math.min(10, Math.floor(each.enduranceYears())))
                        .thenComparing(StorageAssessment::effectiveRead, Comparator.reverseOrder())
                        // A drive on USB costs one of the fast ports.
                        .thenComparing(each -> each.medium().kind().bus().equals("usb"))
                        .thenComparing(each -> each.medium().size()))
                .toList();
    }

    private static Finding fit(StorageNeed need, MediumKind.Medium medium, ByteSize wanted) {
        String holds = medium.size().exact() + " = " + medium.size().binary();
        if (wanted.compareTo(medium.size()) > 0) {
            return Finding.stop(
                    "image-too-large",
                    "It needs " + wanted.exact() + "; " + medium.name() + " holds " + holds + ", "
                            + wanted.minusOrZero(medium.size()).said() + " too few.",
                    SIZES);
        }
        return Finding.note(
                "image-fits",
                (need.image().isPresent() ? "Image and data need " : "Data need ") + wanted.said() + " of " + holds
                        + ".",
                SIZES);
    }

    private static Duration writeAndProve(ByteSize image, ByteRate read, ByteRate write) {
        return write.timeFor(image).plus(read.timeFor(image));
    }

    private static Finding timeFinding(Duration span, LinkChain write) {
        return Finding.note(
                "write-time",
                "Writing and reading back takes about " + Span.said(span) + "; the narrowest part is "
                        + write.narrowest().title() + " at "
                        + write.effective().said() + ".",
                Basis.computed("the slowest link of the chain"));
    }

    private static Finding power(StorageNeed need, MediumKind.Medium medium, Watts margin) {
        String sum = need.supply().title() + " gives " + need.supply().power().said() + "; board "
                + need.boardDraw().said() + " and " + medium.name() + " "
                + medium.kind().watts().said();
        Basis basis = need.supply().via().startsWith("poe")
                ? Basis.standard("IEEE 802.3, power at the device")
                : Basis.computed("volts times amps");
        if (margin.value() < 0) {
            return Finding.stop(
                            "supply-too-weak",
                            sum + " are " + new Watts(-margin.value()).said()
                                    + " too much. Use an approved, stronger supply.",
                            basis)
                    .mendAt(Step.STORAGE);
        }
        if (margin.value() < 1.5) {
            return Finding.caution("supply-tight", sum + " leave only " + margin.said() + ".", basis);
        }
        return Finding.note("supply-enough", sum + " leave " + margin.said() + ".", basis);
    }

    /** Years = what is left of the rated writes / (daily host writes x amplification x 365). */
    static double years(StorageNeed need, MediumKind.Medium medium) {
        double rated = medium.ratedWrites().map(size -> (double) size.bytes()).orElse((double)
                medium.kind().lifetimeWrites(medium.size(), WRITE_AMPLIFICATION).bytes());
        double left = Math.max(0, rated - medium.written().bytes());
        double aDay = need.dailyWrites().bytes();
        return aDay <= 0 ? (left > 0 ? LONGEST_YEARS : 0) : Math.min(LONGEST_YEARS, left / (aDay * 365));
    }

    private static Optional<Finding> life(double years, StorageNeed need, MediumKind.Medium medium) {
        String said = String.format(Locale.ROOT, "%.1f", years);
        if (years >= 3) {
            return Optional.empty();
        }
        return Optional.of(Finding.caution(
                "short-life",
                medium.name() + " lasts about " + said + " years at "
                        + need.dailyWrites().said() + " written a day.",
                Basis.computed("rated writes, else size x cycles / " + WRITE_AMPLIFICATION)));
    }
}

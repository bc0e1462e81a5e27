// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Replacement;
import exordium.core.storage.media.Wear;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * How a medium is, from everything known of it: what it tells of itself, what was measured month by month, what went wrong with
 * it, what it was rated for, its age. The bounds are common practice, no source.
 *
 * @param replacement the earliest day any of that gives; empty where nothing does
 * @param findings each sign in a sentence, worst first
 */
public record MediumHealth(Optional<Replacement> replacement, List<Finding> findings) {
    /** A sign tells of the time between two readings only when they are as far apart. */
    private static final int DAYS_APART = 30;

    private static final int FAULTS_REMEMBERED = 730;
    private static final double LOW_SPARE = 0.1;
    private static final double HALF_PACE = 0.5;
    private static final double SLOWER = 0.7;
    private static final int OLD_CARD_YEARS = 5;
    private static final int OLD_DRIVE_YEARS = 8;
    private static final double DAYS_A_YEAR = 365.25;
    private static final int FAR_YEARS = 10;
    private static final int MANY_UNCLEAN = 3;

    /** A rate measured at some time; kind: write or read. */
    public record Pace(Instant at, String kind, ByteRate rate) {}

    /** Something that went wrong with it, put down by hand or by a run. */
    public record Fault(Instant at, String text) {}

    /**
     * Everything known of a medium.
     *
     * @param since when it came into the house
     * @param dailyWrites of the board it is in, before they become writes of flash; nothing where it is in none
     * @param readings oldest first, as paces and faults are
     */
    public record Known(
            MediumKind.Medium medium,
            Optional<LocalDate> since,
            ByteSize dailyWrites,
            double amplification,
            List<HealthReading> readings,
            List<Pace> paces,
            List<Fault> faults) {}

    public static MediumHealth of(Known known, LocalDate today, ZoneId zone) {
        return new Judge(known, today, zone).judge();
    }

    private static final class Judge {
        private final Known known;
        private final LocalDate today;
        private final ZoneId zone;
        private final List<Replacement> dates = new ArrayList<>();
        private final List<Finding> findings = new ArrayList<>();

        Judge(Known known, LocalDate today, ZoneId zone) {
            this.known = known;
            this.today = today;
            this.zone = zone;
        }

        MediumHealth judge() {
            told();
            rated();
            faults();
            pace("write");
            pace("read");
            fileSystems();
            age();
            Optional<Replacement> first = dates.stream().min(Comparator.comparing(Replacement::date));
            first.filter(Replacement::soon)
                    .ifPresent(each -> findings.add(Finding.caution(
                                    each.due() ? "medium-replace" : "medium-replace-soon",
                                    each.sentence(name()),
                                    each.basis())
                            .about(Subject.REPLACEMENT)));
            return new MediumHealth(first, Finding.worstFirst(findings));
        }

        private String name() {
            return known.medium().name();
        }

        private void by(LocalDate date, String reason, Basis basis) {
            LocalDate day = date.isBefore(today) ? today : date;
            dates.add(new Replacement(day, ChronoUnit.DAYS.between(today, day), reason, basis));
        }

        private LocalDate day(Instant at) {
            return LocalDate.ofInstant(at, zone);
        }

        /** What it says of itself counts most. */
        private void told() {
            List<HealthReading> telling =
                    known.readings().stream().filter(HealthReading::tells).toList();
            if (telling.isEmpty()) {
                return;
            }
            HealthReading last = telling.get(telling.size() - 1);
            Basis told = Basis.computed("what it tells of itself, read on " + day(last.at()) + " by " + last.source());
            last.signs().forEach(sign -> findings.add(Finding.caution("medium-says", name() + ": " + sign, told)));
            if (last.failing()) {
                by(
                        today,
                        last.signs().isEmpty()
                                ? "it says that it fails."
                                : last.signs().get(0),
                        told);
            }
            last.lifeUsed().ifPresent(used -> life(telling, last, used, told));
            if (last.spareLeft().filter(left -> left <= LOW_SPARE).isPresent()) {
                by(
                        day(last.at()).plusDays(DAYS_APART),
                        "only " + percent(last.spareLeft().get()) + " of its reserve of blocks is left.",
                        told);
            }
            last.mediaErrors().filter(errors -> errors > 0).ifPresent(errors -> errors(telling, errors, told));
        }

        private void life(List<HealthReading> telling, HealthReading last, double used, Basis told) {
            findings.add(Finding.note(
                    "medium-life",
                    name() + " tells that " + percent(used) + " of its life is used, as of " + day(last.at()) + ".",
                    told));
            if (used >= 1) {
                by(today, "it tells that its life is used up.", told);
                return;
            }
            Optional<Double> aDay = telling.stream()
                    .filter(each -> each.lifeUsed().filter(was -> was < used).isPresent())
                    .filter(each -> between(each.at(), last.at()) >= DAYS_APART)
                    .findFirst()
                    .map(each -> (used - each.lifeUsed().get()) / between(each.at(), last.at()))
                    .or(() -> known.since()
                            .filter(since -> ChronoUnit.DAYS.between(since, day(last.at())) >= DAYS_APART && used > 0)
                            .map(since -> used / ChronoUnit.DAYS.between(since, day(last.at()))));
            aDay.map(each -> (double) Math.round((1 - used) / each))
                    .filter(days -> days < FAR_YEARS * DAYS_A_YEAR)
                    .ifPresent(days -> by(
                            day(last.at()).plusDays(days.longValue()),
                            "it tells " + percent(used)
                                    + " of its life used; at the pace so far the rest goes till then.",
                            told));
        }

        private void errors(List<HealthReading> telling, long errors, Basis told) {
            HealthReading last = telling.get(telling.size() - 1);
            long before = telling.stream()
                    .limit(telling.size() - 1L)
                    .flatMap(each -> each.mediaErrors().stream())
                    .reduce((first, next) -> next)
                    .orElse(0L);
            boolean more = errors > before;
            findings.add(Finding.caution(
                    "medium-errors",
                    name() + " counts " + errors + " times that it could not give back what it held"
                            + (more && before > 0 ? ", " + (errors - before) + " more than the time before." : "."),
                    told));
            by(
                    day(last.at()).plusDays(more ? DAYS_APART : 3L * DAYS_APART),
                    "it could not give back what it held, " + errors + " times.",
                    told);
        }

        /** By its rating and what its board writes; it is to go before the last of it is used. */
        private void rated() {
            ByteSize bears = known.medium().bears();
            boolean rating = known.medium().ratedWrites().isPresent();
            double written = known.medium().written().bytes() * (rating ? 1 : known.amplification());
            double worn = bears.bytes() == 0 ? 0 : written / bears.bytes();
            Basis basis = Basis.computed(rating ? "its rated writes" : "its size and the cycles of such flash");
            if (Wear.out(worn)) {
                by(today, percent(worn) + " of the writes it bears are used.", basis);
                return;
            }
            double aDay = known.dailyWrites().bytes() * known.amplification();
            if (aDay <= 0) {
                return;
            }
            double days = (bears.bytes() * Wear.mostWorn() - written) / aDay;
            if (days < FAR_YEARS * DAYS_A_YEAR) {
                by(
                        today.plusDays((long) Math.floor(days)),
                        percent(worn) + " of the writes it bears are used, and "
                                + known.dailyWrites().said() + " a day are written.",
                        basis);
            }
        }

        /** The first may be chance; the second hardly, the third never. */
        private void faults() {
            List<Fault> recent = known.faults().stream()
                    .filter(each -> ChronoUnit.DAYS.between(day(each.at()), today) <= FAULTS_REMEMBERED)
                    .toList();
            if (recent.isEmpty()) {
                return;
            }
            Fault last = recent.get(recent.size() - 1);
            String times = recent.size() == 1 ? "once" : recent.size() == 2 ? "twice" : recent.size() + " times";
            int days = recent.size() == 1 ? 6 * DAYS_APART : recent.size() == 2 ? DAYS_APART : 0;
            by(
                    day(last.at()).plusDays(days),
                    "it failed " + times + " in two years, last on " + day(last.at()) + ": " + ended(last.text()),
                    Basis.practice());
        }

        private static String ended(String text) {
            String said = text.strip();
            return said.endsWith(".") ? said : said + ".";
        }

        /** The first three times against the last three. */
        private void pace(String kind) {
            List<Pace> paces = known.paces().stream()
                    .filter(each -> each.kind().equals(kind))
                    .toList();
            if (paces.size() < 4
                    || between(paces.get(0).at(), paces.get(paces.size() - 1).at()) < DAYS_APART) {
                return;
            }
            int some = Math.min(3, paces.size() / 2);
            double first = median(paces.subList(0, some));
            double last = median(paces.subList(paces.size() - some, paces.size()));
            double ratio = last / first;
            if (ratio >= SLOWER) {
                return;
            }
            String verb = kind.equals("write") ? "takes " : "gives ";
            String text =
                    "it " + verb + new ByteRate(last).said() + " now, " + new ByteRate(first).said() + " when it came.";
            Basis basis =
                    Basis.computed("the rates measured from " + day(paces.get(0).at()) + " on");
            findings.add(Finding.caution("medium-slower", name() + " gets slower: " + text, basis));
            if (ratio < HALF_PACE) {
                by(day(paces.get(paces.size() - 1).at()).plusDays(3L * DAYS_APART), text, basis);
            }
        }

        private static double median(List<Pace> paces) {
            double[] rates = paces.stream()
                    .mapToDouble(each -> each.rate().bytesPerSecond())
                    .sorted()
                    .toArray();
            return rates[rates.length / 2];
        }

        /** They tell more of the supply and the hand that pulls it out than of the medium. */
        private void fileSystems() {
            Basis basis = Basis.standard("Linux kernel documentation, ext4 super block");
            long unclean =
                    known.readings().stream().filter(HealthReading::unclean).count();
            if (unclean > 0) {
                String text = name() + " was not let go before it was taken out " + unclean + " of "
                        + known.readings().size() + " times it was read here"
                        + (unclean >= MANY_UNCLEAN
                                ? ": look to the board's supply and to how it is switched off."
                                : ".");
                findings.add(
                        unclean >= MANY_UNCLEAN
                                ? Finding.caution("medium-unclean", text, basis)
                                : Finding.note("medium-unclean", text, basis));
            }
            known.readings().stream()
                    .reduce((first, last) -> last)
                    .filter(last -> last.fileSystemErrors() > 0)
                    .ifPresent(last -> findings.add(Finding.caution(
                            "medium-file-system-errors",
                            "The file systems on " + name() + " have noted " + last.fileSystemErrors()
                                    + (last.fileSystemErrors() == 1 ? " error" : " errors")
                                    + " of their own: check them (fsck) before they are relied on.",
                            basis)));
        }

        private void age() {
            int years = known.medium().kind().lasting() ? OLD_DRIVE_YEARS : OLD_CARD_YEARS;
            known.since().ifPresent(since -> {
                LocalDate old = since.plusYears(years);
                long days = ChronoUnit.DAYS.between(since, today);
                by(old, "it will be " + years + " years old; it came on " + since + ".", Basis.practice());
                if (!old.isAfter(today)) {
                    findings.add(
                            Finding.note("medium-old", name() + " is " + Span.days(days) + " old.", Basis.practice()));
                }
            });
        }

        private static long between(Instant from, Instant until) {
            return ChronoUnit.DAYS.between(from, until);
        }

        private static String percent(double share) {
            return Math.round(share * 100) + " %";
        }
    }
}

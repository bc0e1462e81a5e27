// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Attachment;
import exordium.core.storage.judgement.DriveShare;
import exordium.core.storage.judgement.Endurance;
import exordium.core.storage.judgement.FindingToBe;
import exordium.core.storage.judgement.Merit;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageAssessment.MeritPart;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.Workings;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Judges media for a board: does it fit, how long will it take, is the supply enough, how long will it live, what then. */
public final class StorageChoice {
    /** Under this much of merit two media are equal for all anybody knows. */
    static final double TIE = 0.015;

    /** Those that fit, by merit, then price, then size; the last word is the name's, so that the order is always the same. */
    static final Comparator<StorageAssessment> BEST_FIRST = Comparator.comparing(
                    (StorageAssessment each) -> !each.fits())
            .thenComparing(StorageAssessment::merit, Comparator.reverseOrder())
            .thenComparing(StorageAssessment::price)
            .thenComparing(each -> each.medium().size())
            .thenComparing(each -> each.medium().id());

    /** Of equal ones what less speaks against, the cheaper, the smaller; the name has the last word. */
    private static final Comparator<StorageAssessment> EQUAL_ONES = Comparator.comparing(StorageAssessment::anyCautions)
            .thenComparing(StorageAssessment::price)
            .thenComparing(each -> each.medium().size())
            .thenComparing(StorageAssessment::merit, Comparator.reverseOrder())
            .thenComparing(each -> each.medium().id());

    private final StorageNeed need;
    private final List<Enclosure> enclosures;
    private final KnownDrives known;
    private final String profile;
    /** How each medium is plugged in, worked out once. */
    private final Map<MediumKind.Medium, Attachment> ways;

    /** Where profile: the board's family, for what is known of drives with it. */
    public StorageChoice(StorageNeed need, List<Enclosure> enclosures, KnownDrives known, String profile) {
        this(need, List.copyOf(enclosures), known, profile, new ConcurrentHashMap<>());
    }

    private StorageChoice(
            StorageNeed need,
            List<Enclosure> enclosures,
            KnownDrives known,
            String profile,
            Map<MediumKind.Medium, Attachment> ways) {
        this.need = need;
        this.enclosures = enclosures;
        this.known = known;
        this.profile = profile;
        this.ways = ways;
    }

    public StorageNeed need() {
        return need;
    }

    /** The same choice for another need. */
    public StorageChoice with(StorageNeed other) {
        boolean sameWays = other.sockets().equals(need.sockets())
                && other.role().portsNeeded() == need.role().portsNeeded();
        return new StorageChoice(other, enclosures, known, profile, sameWays ? ways : new ConcurrentHashMap<>());
    }

    public StorageAssessment assess(MediumKind.Medium medium) {
        Role role = need.role();
        Attachment way = ways.computeIfAbsent(medium, each -> Attachment.best(need, each, enclosures));
        MediumFindings says = new MediumFindings(need, known, profile);
        StorageNeed.Doubts doubts = need.host().doubts();
        List<FindingToBe> findings = new ArrayList<>();
        way.obstacles()
                .forEach(obstacle -> findings.add(FindingToBe.of(obstacle).doubted(doubts.ports())));
        LinkChain read = LinkChain.of(medium.name(), medium.readRate(), way.links());
        LinkChain write = LinkChain.of(medium.name(), medium.writeRate(), way.links());
        ByteRate random = new ByteRate(Math.min(
                medium.kind().randomRead().bytesPerSecond() * way.randomShare() * medium.quicker(),
                read.effective().bytesPerSecond()));
        findings.add(says.fit(medium));
        Optional<Duration> time = need.image()
                .map(image ->
                        write.effective().timeFor(image).plus(read.effective().timeFor(image)));
        time.ifPresent(span -> findings.add(FindingToBe.note(() -> says.timeFinding(span, write))));
        Watts draw = way.watts(medium.kind());
        Watts margin = need.supply().power().minus(need.host().draw()).minus(draw);
        findings.add(says.power(medium, way, draw, margin).doubted(margin.value() < 0 ? doubts.power() : ""));
        says.usbAllowance(medium, way, draw)
                .map(each -> each.doubted(doubts.power()))
                .ifPresent(findings::add);
        Endurance life =
                Endurance.of(medium, role.writesThatArrive(), role.habit().amplification());
        says.life(life, medium).ifPresent(findings::add);
        says.replacement(medium).ifPresent(findings::add);
        double price = medium.price() + way.price();
        says.budget(price, medium).ifPresent(findings::add);
        says.small(medium).ifPresent(findings::add);
        says.sustained(medium, write).ifPresent(findings::add);
        way.besides().ifPresent(beside -> findings.add(FindingToBe.of(beside)));
        says.kindFindings(medium, way, findings);
        FindingToBe.Sentences judged = new FindingToBe.Sentences(findings);
        ByteSize end = medium.size().minusOrZero(need.wantedAtTheEnd());
        List<MeritPart> parts = Merit.parts(need, way, life, random, read.effective(), price, end, margin, medium);
        return new StorageAssessment(
                medium,
                way.socket(),
                way.enclosure(),
                !judged.anyStops(),
                medium.size().minusOrZero(need.wantedNow()),
                end,
                read,
                write,
                random,
                time,
                Duration.ofMillis(Math.round(need.startSeconds() * DriveShare.slowness(read.effective()) * 1000)),
                life.mean(),
                life.cautious(),
                draw,
                margin,
                price,
                Merit.of(parts, judged.count(Severity.CAUTION)),
                parts,
                () -> Workings.of(need, medium, way, read, random, life, draw, margin, price),
                judged);
    }

    /** Those that fit first, by merit; equal ones are told apart by price, then size, and say so. */
    public List<StorageAssessment> rank(List<MediumKind.Medium> media) {
        List<StorageAssessment> ranked = new ArrayList<>();
        for (List<StorageAssessment> equal : order(media)) {
            for (int i = 0; i < equal.size(); i++) {
                StorageAssessment better = equal.get(i);
                Optional<StorageAssessment> next =
                        i + 1 < equal.size() ? Optional.of(equal.get(i + 1)) : Optional.empty();
                // What one is warned of and the other is not, somebody knows.
                boolean told = next.filter(each -> each.fits() && each.anyCautions() == better.anyCautions())
                        .isPresent();
                ranked.add(told ? better.with(FindingToBe.note(() -> tie(better, next.get()))) : better);
            }
        }
        return List.copyOf(ranked);
    }

    /**
     * The order alone, without a sentence of it, those that are equal together. Beginning with the best, all that are within a hair of
     * it are equal and go by what tells equal ones apart; then the same with the best of the rest.
     */
    private List<List<StorageAssessment>> order(List<MediumKind.Medium> media) {
        List<StorageAssessment> sorted =
                media.stream().map(this::assess).sorted(BEST_FIRST).toList();
        List<List<StorageAssessment>> ordered = new ArrayList<>();
        int from = 0;
        while (from < sorted.size()) {
            StorageAssessment best = sorted.get(from);
            int to = from + 1;
            while (to < sorted.size()
                    && sorted.get(to).fits() == best.fits()
                    && best.merit() - sorted.get(to).merit() < TIE) {
                to++;
            }
            ordered.add(sorted.subList(from, to).stream().sorted(EQUAL_ONES).toList());
            from = to;
        }
        return ordered;
    }

    /** The first of that order, found without putting the rest in order; empty where nothing is up for choice. */
    static Optional<StorageAssessment> first(List<StorageAssessment> assessed) {
        return assessed.stream().min(BEST_FIRST).flatMap(best -> assessed.stream()
                .filter(each -> each.fits() == best.fits() && best.merit() - each.merit() < TIE)
                .min(EQUAL_ONES));
    }

    private static Finding tie(StorageAssessment better, StorageAssessment next) {
        String why = better.price() < next.price()
                ? "it costs less"
                : better.medium().size().compareTo(next.medium().size()) != 0
                        ? "its size fits better"
                        : "of two that are the same, one had to come first";
        return Finding.note(
                "tie",
                better.medium().name() + " and " + next.medium().name() + " are equal for all anybody knows; "
                        + better.medium().name() + " comes first because " + why + ".",
                Basis.computed("merits " + two(better.merit()) + " and " + two(next.merit())));
    }

    private static String two(double merit) {
        return String.format(Locale.ROOT, "%.3f", merit);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.plan;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Subject;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.quantity.Watts;
import exordium.core.storage.judgement.Attachment;
import exordium.core.storage.judgement.DriveShare;
import exordium.core.storage.judgement.Endurance;
import exordium.core.storage.judgement.FindingToBe;
import exordium.core.storage.judgement.Merit;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageAssessment.MeritPart;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.judgement.Workings;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Replacement;
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

    private static final double TIGHT_WATTS = 1.5;
    private static final Basis SIZES = Basis.computed("the real bytes");

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
        List<FindingToBe> findings = new ArrayList<>();
        way.obstacles().forEach(obstacle -> findings.add(FindingToBe.of(obstacle)));
        LinkChain read = LinkChain.of(medium.name(), medium.readRate(), way.links());
        LinkChain write = LinkChain.of(medium.name(), medium.writeRate(), way.links());
        ByteRate random = new ByteRate(Math.min(
                medium.kind().randomRead().bytesPerSecond() * way.randomShare(),
                read.effective().bytesPerSecond()));
        findings.add(fit(medium));
        Optional<Duration> time = need.image()
                .map(image ->
                        write.effective().timeFor(image).plus(read.effective().timeFor(image)));
        time.ifPresent(span -> findings.add(FindingToBe.note(() -> timeFinding(span, write))));
        Watts draw = way.watts(medium.kind());
        Watts margin = need.supply().power().minus(need.host().draw()).minus(draw);
        findings.add(power(medium, way, draw, margin));
        usbAllowance(medium, way, draw).ifPresent(findings::add);
        Endurance life =
                Endurance.of(medium, role.writesThatArrive(), role.habit().amplification());
        life(life, medium).ifPresent(findings::add);
        replacement(medium).ifPresent(findings::add);
        double price = medium.price() + (medium.price() == 0 && way.enclosure().isEmpty() ? 0 : way.price());
        budget(price, medium).ifPresent(findings::add);
        small(medium).ifPresent(findings::add);
        sustained(medium, write).ifPresent(findings::add);
        way.besides().ifPresent(beside -> findings.add(FindingToBe.of(beside)));
        kindFindings(medium, way, findings);
        FindingToBe.Sentences judged = new FindingToBe.Sentences(findings);
        ByteSize end = medium.size().minusOrZero(need.wantedAtTheEnd());
        List<MeritPart> parts = Merit.parts(need, way, life, random, price, end, margin, medium);
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
                Duration.ofMillis(
                        Math.round(need.host().startSeconds() * DriveShare.slowness(read.effective()) * 1000)),
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

    private FindingToBe fit(MediumKind.Medium medium) {
        ByteSize wanted = need.wantedNow();
        ByteSize end = need.wantedAtTheEnd();
        if (need.image().filter(image -> image.compareTo(medium.size()) > 0).isPresent()
                || wanted.compareTo(medium.size()) > 0) {
            ByteSize most =
                    need.image().filter(image -> image.compareTo(wanted) > 0).orElse(wanted);
            return FindingToBe.stop(() -> Finding.stop(
                    "image-too-large",
                    "It needs " + most.exact() + "; " + medium.name() + " holds " + holds(medium) + ", "
                            + most.minusOrZero(medium.size()).said() + " too few.",
                    SIZES));
        }
        if (end.compareTo(medium.size()) > 0) {
            return FindingToBe.caution(() -> Finding.caution(
                            "full-before-time",
                            "At " + need.role().growth().said() + " a year it is full before the "
                                    + need.role().years() + " years are over: " + end.said() + " wanted then, it holds "
                                    + holds(medium) + ".",
                            Basis.computed("data and growth"))
                    .about(Subject.LASTING));
        }
        return FindingToBe.note(() -> Finding.note(
                "image-fits", "System and data need " + wanted.said() + " of " + holds(medium) + ".", SIZES));
    }

    private static String holds(MediumKind.Medium medium) {
        return medium.size().exact() + " = " + medium.size().binary();
    }

    private static Finding timeFinding(Duration span, LinkChain write) {
        return Finding.note(
                "write-time",
                "Writing and reading back takes about " + Span.said(span) + "; the narrowest part is "
                        + write.narrowest().title() + " at "
                        + write.effective().said() + ".",
                Basis.computed("the slowest link of the chain"));
    }

    private FindingToBe power(MediumKind.Medium medium, Attachment way, Watts draw, Watts margin) {
        Severity severity =
                margin.value() < 0 ? Severity.STOP : margin.value() < TIGHT_WATTS ? Severity.CAUTION : Severity.NOTE;
        return new FindingToBe(severity, () -> {
            String sum =
                    need.supply().title() + " gives " + need.supply().power().said() + "; board "
                            + need.host().draw().said() + " and " + medium.name()
                            + way.enclosure().map(box -> " in its enclosure").orElse("") + " " + draw.said();
            Basis basis = need.supply().via().startsWith("poe")
                    ? Basis.standard("IEEE 802.3, power at the device")
                    : Basis.computed("volts times amps");
            return switch (severity) {
                case STOP ->
                    Finding.stop(
                            "supply-too-weak",
                            sum + " are " + new Watts(-margin.value()).said()
                                    + " too much. Use an approved, stronger supply.",
                            basis);
                case CAUTION -> Finding.caution("supply-tight", sum + " leave only " + margin.said() + ".", basis);
                case NOTE -> Finding.note("supply-enough", sum + " leave " + margin.said() + ".", basis);
            };
        });
    }

    private Optional<FindingToBe> usbAllowance(MediumKind.Medium medium, Attachment way, Watts draw) {
        boolean usb = way.socket().filter(socket -> socket.takes("usb")).isPresent();
        return usb && draw.compareTo(need.host().usbAllowance()) > 0
                ? Optional.of(FindingToBe.stop(() -> Finding.stop(
                        "usb-allowance",
                        "On this supply the board lets USB devices draw "
                                + need.host().usbAllowance().said() + " in all; " + medium.name() + " draws "
                                + draw.said() + ". Use the supply the board is made for.",
                        Basis.practice())))
                : Optional.empty();
    }

    private Optional<FindingToBe> life(Endurance life, MediumKind.Medium medium) {
        int wanted = need.role().years();
        if (life.cautious() >= wanted) {
            return Optional.empty();
        }
        Severity severity = life.mean() < 1 ? Severity.STOP : life.mean() < wanted ? Severity.CAUTION : Severity.NOTE;
        return Optional.of(new FindingToBe(severity, () -> {
            String writes = need.role().writesThatArrive().said() + " written a day";
            String tooShort = medium.name() + " lasts about " + years(life.mean()) + " at " + writes + "; " + wanted
                    + " are wanted.";
            Basis basis = Basis.computed("rated writes, else size x cycles, over amplification");
            return switch (severity) {
                case STOP -> Finding.stop("worn-out-soon", tooShort, basis);
                case CAUTION -> Finding.caution("short-life", tooShort, basis).about(Subject.LASTING);
                case NOTE ->
                    Finding.note(
                            "life-not-sure",
                            medium.name() + " lasts " + years(life.mean()) + " in the mean, " + years(life.cautious())
                                    + " in the cautious case, at " + writes + ".",
                            basis);
            };
        }));
    }

    /** One that is to be replaced anyway goes nowhere; one that soon is goes where nothing hangs on it. */
    private static Optional<FindingToBe> replacement(MediumKind.Medium medium) {
        return medium.replacement()
                .filter(Replacement::soon)
                .map(day -> new FindingToBe(
                        day.due() ? Severity.STOP : Severity.CAUTION,
                        () -> day.due()
                                ? Finding.stop("medium-replace", day.sentence(medium.name()), day.basis())
                                : Finding.caution("medium-replace-soon", day.sentence(medium.name()), day.basis())));
    }

    /** What is written all day long must get through the narrowest link. */
    private Optional<FindingToBe> sustained(MediumKind.Medium medium, LinkChain write) {
        ByteRate wanted = need.role().sustained();
        return wanted.compareTo(write.effective()) > 0
                ? Optional.of(FindingToBe.stop(() -> Finding.stop(
                        "writes-too-fast",
                        need.role().writesThatArrive().said() + " a day in "
                                + hours(need.role().hoursADay()) + " are "
                                + wanted.said() + " on end; " + medium.name() + " takes "
                                + write.effective().said() + " through "
                                + write.narrowest().title() + ".",
                        Basis.computed("the slowest link of the chain"))))
                : Optional.empty();
    }

    private static String hours(double hours) {
        return String.format(Locale.ROOT, hours == Math.rint(hours) ? "%.0f hours" : "%.1f hours", hours);
    }

    private static String years(double years) {
        return String.format(Locale.ROOT, "%.1f years", years);
    }

    private Optional<FindingToBe> budget(double price, MediumKind.Medium medium) {
        double budget = need.role().budget();
        return budget > 0 && price > budget
                ? Optional.of(FindingToBe.stop(() -> Finding.stop(
                        "over-budget",
                        String.format(
                                Locale.ROOT,
                                "%s costs %.0f euros with what plugs it in; the budget is %.0f.",
                                medium.name(),
                                price,
                                budget),
                        Basis.computed("catalogue prices"))))
                : Optional.empty();
    }

    private Optional<FindingToBe> small(MediumKind.Medium medium) {
        return medium.kind().bus().equals("sd")
                        && medium.size().compareTo(need.rules().smallest()) < 0
                ? Optional.of(FindingToBe.caution(() -> Finding.caution(
                        "below-house-size",
                        medium.size().said() + " is under the house's smallest card, "
                                + need.rules().smallestLabel() + ".",
                        Basis.houseRule("smallest card"))))
                : Optional.empty();
    }

    private void kindFindings(MediumKind.Medium medium, Attachment way, List<FindingToBe> findings) {
        String bus = medium.kind().bus();
        if (bus.equals("network") && !need.role().server()) {
            findings.add(FindingToBe.stop(() -> Finding.stop(
                    "no-server",
                    "There is no server to hold its root.",
                    Basis.computed("what was said of the house"))));
        }
        if (bus.equals("sd") && !need.role().slotReachable()) {
            findings.add(FindingToBe.caution(() -> Finding.caution(
                    "slot-shut-in",
                    "The slot cannot be reached: when this card dies, the box has to be taken apart.",
                    Basis.practice())));
        }
        if (need.rules().reliability() == Reliability.SSD && !medium.kind().lasting()) {
            findings.add(FindingToBe.caution(() -> Finding.caution(
                    "house-wants-lasting",
                    medium.name() + " is none of the drives this house relies on: an SSD or NVMe drive.",
                    Basis.houseRule("reliability by an SSD"))));
        }
        if (way.socket().filter(socket -> socket.link() == Link.PCIE3_X1).isPresent()) {
            findings.add(FindingToBe.note(() -> Finding.note(
                    "beyond-rating",
                    "PCIe 3.0 is outside what such boards are rated for: it raises the sequential rate, hardly the"
                            + " random one, at your own risk.",
                    Basis.houseRule("PCIe 2.0 or 3.0"))));
        }
        if (bus.equals("nvme") && way.works()) {
            findings.add(known.of(medium.name(), profile)
                    .map(seen -> tried(medium, seen))
                    .orElseGet(() -> FindingToBe.note(() -> Finding.note(
                            "surprise-drive",
                            "About 1 NVMe drive in 20 never works with such boards; nobody here has tried a "
                                    + medium.name() + " yet.",
                            Basis.practice()))));
        }
    }

    private FindingToBe tried(MediumKind.Medium medium, KnownDrives.Known seen) {
        Basis house = Basis.houseRule("known drives");
        String with = " with a " + profile + ". " + seen.note();
        return seen.works()
                ? FindingToBe.note(() -> Finding.note("known-good", medium.name() + " has worked" + with, house))
                : FindingToBe.stop(() -> Finding.stop("known-bad", medium.name() + " does not work" + with, house));
    }
}

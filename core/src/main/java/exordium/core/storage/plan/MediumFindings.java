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
import exordium.core.storage.judgement.Endurance;
import exordium.core.storage.judgement.FindingToBe;
import exordium.core.storage.judgement.Reliability;
import exordium.core.storage.judgement.StorageNeed;
import exordium.core.storage.media.KnownDrives;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.LinkChain;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Replacement;
import exordium.core.storage.media.Works;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What is to be said of one medium for a board: size, power, life, price, and what is known of its kind. */
final class MediumFindings {
    private static final double TIGHT_WATTS = 1.5;
    private static final Basis SIZES = Basis.computed("the real bytes");

    private final StorageNeed need;
    private final KnownDrives known;
    private final String profile;

    MediumFindings(StorageNeed need, KnownDrives known, String profile) {
        this.need = need;
        this.known = known;
        this.profile = profile;
    }

    FindingToBe fit(MediumKind.Medium medium) {
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

    Finding timeFinding(Duration span, LinkChain write) {
        return Finding.note(
                "write-time",
                "Writing and reading back takes about " + Span.said(span) + "; the narrowest part is "
                        + write.narrowest().title() + " at "
                        + write.effective().said() + ".",
                Basis.computed("the slowest link of the chain"));
    }

    FindingToBe power(MediumKind.Medium medium, Attachment way, Watts draw, Watts margin) {
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

    Optional<FindingToBe> usbAllowance(MediumKind.Medium medium, Attachment way, Watts draw) {
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

    Optional<FindingToBe> life(Endurance life, MediumKind.Medium medium) {
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
    Optional<FindingToBe> replacement(MediumKind.Medium medium) {
        return medium.replacement()
                .filter(Replacement::soon)
                .map(day -> new FindingToBe(
                        day.due() ? Severity.STOP : Severity.CAUTION,
                        () -> day.due()
                                ? Finding.stop("medium-replace", day.sentence(medium.name()), day.basis())
                                : Finding.caution("medium-replace-soon", day.sentence(medium.name()), day.basis())));
    }

    /** What is written all day long must get through the narrowest link. */
    Optional<FindingToBe> sustained(MediumKind.Medium medium, LinkChain write) {
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

    Optional<FindingToBe> budget(double price, MediumKind.Medium medium) {
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

    Optional<FindingToBe> small(MediumKind.Medium medium) {
        return medium.kind().bus().equals("sd")
                        && medium.size().compareTo(need.rules().smallest()) < 0
                ? Optional.of(FindingToBe.caution(() -> Finding.caution(
                        "below-house-size",
                        medium.size().said() + " is under the house's smallest card, "
                                + need.rules().smallestLabel() + ".",
                        Basis.houseRule("smallest card"))))
                : Optional.empty();
    }

    void kindFindings(MediumKind.Medium medium, Attachment way, List<FindingToBe> findings) {
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
        seen(medium, way, findings);
        boolean told =
                !known.works().of(Works.Kind.DRIVE, medium.name(), profile).isEmpty();
        if (bus.equals("nvme") && way.works() && !told) {
            findings.add(known.of(medium.name(), profile)
                    .map(seen -> tried(medium, seen))
                    .orElseGet(() -> FindingToBe.note(() -> Finding.note(
                            "surprise-drive",
                            "About 1 NVMe drive in 20 never works with such boards; nobody here has tried a "
                                    + medium.name() + " yet.",
                            Basis.practice()))));
        }
    }

    /**
     * What people saw of the drive, its enclosure, the supply, and of carriers with such boards; never a proof. Which carrier it will be is
     * open, so one that failed rules nothing out.
     */
    private void seen(MediumKind.Medium medium, Attachment way, List<FindingToBe> findings) {
        said(Works.Kind.DRIVE, medium.name(), findings);
        way.enclosure().ifPresent(box -> {
            said(Works.Kind.ENCLOSURE, box.title(), findings);
            said(Works.Kind.ENCLOSURE, box.id(), findings);
        });
        said(Works.Kind.SUPPLY, need.supply().said(), findings);
        if (way.socket().filter(socket -> !socket.lengths().isEmpty()).isPresent()) {
            known.works().names(Works.Kind.CARRIER, profile).forEach(name -> said(Works.Kind.CARRIER, name, findings));
        }
    }

    private void said(Works.Kind kind, String name, List<FindingToBe> findings) {
        List<Works.Entry> said = known.works().of(kind, name, profile);
        if (said.isEmpty()) {
            return;
        }
        Works.Entry last = said.get(said.size() - 1);
        String who = last.own() ? "Seen here" : "Says " + last.by();
        String words = who + " on " + last.date() + ": " + name + (last.works() ? " works" : " does not work")
                + " with a "
                + profile + last.release().map(day -> ", firmware of " + day).orElse("") + "."
                + (last.note().isEmpty() ? "" : " " + last.note())
                + (said.size() > 1 ? " " + said.size() + " say something of it." : "");
        Basis basis = Basis.houseRule("what works");
        findings.add(
                last.works()
                        ? FindingToBe.note(() -> Finding.note("known-good", words, basis))
                        : last.own() && kind != Works.Kind.CARRIER
                                ? FindingToBe.stop(() -> Finding.stop("known-bad", words, basis))
                                : FindingToBe.caution(() -> Finding.caution("known-bad", words, basis)));
    }

    private FindingToBe tried(MediumKind.Medium medium, KnownDrives.Known seen) {
        Basis house = Basis.houseRule("known drives");
        String with = " with a " + profile + ". " + seen.note();
        return seen.works()
                ? FindingToBe.note(() -> Finding.note("known-good", medium.name() + " has worked" + with, house))
                : FindingToBe.stop(() -> Finding.stop("known-bad", medium.name() + " does not work" + with, house));
    }
}

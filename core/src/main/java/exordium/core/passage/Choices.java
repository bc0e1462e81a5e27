// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.board.BoardProfile;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.NotPossible;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** What schemes are put together from: the media and ports that come into question, and when a board is as it should be. */
abstract class Choices {
    static final Set<Deed> AT_BOARD = EnumSet.of(
            Deed.POWER_OFF,
            Deed.TAKE_OUT,
            Deed.PLUG,
            Deed.POWER_ON,
            Deed.LOOK,
            Deed.STAGE_FIRMWARE,
            Deed.STAGE_ORDER,
            Deed.STAGE_SETTINGS,
            Deed.RESTART);
    static final Set<Deed> HANDLING = EnumSet.of(Deed.POWER_OFF, Deed.TAKE_OUT, Deed.PLUG, Deed.POWER_ON, Deed.LOOK);
    static final Set<Deed> MOVING =
            with(AT_BOARD, Deed.BUY, Deed.PROVE, Deed.COPY, Deed.CLONE, Deed.RESTORE, Deed.GROW, Deed.SET_UP);
    static final Set<Deed> FRESH = with(AT_BOARD, Deed.BUY, Deed.PROVE, Deed.WRITE, Deed.SET_UP);
    static final Set<Deed> ONTO_CARDS =
            EnumSet.of(Deed.BUY, Deed.PROVE, Deed.WRITE, Deed.RESTORE, Deed.SET_UP, Deed.NEW_IDENTITY);

    final PassageFacts facts;
    final Starts starts;
    final BoardProfile profile;

    Choices(PassageFacts facts, Starts starts) {
        this.facts = facts;
        this.starts = starts;
        this.profile = facts.bench().profile();
    }

    static Set<Deed> with(Set<Deed> some, Deed... more) {
        Set<Deed> all = EnumSet.copyOf(some);
        all.addAll(List.of(more));
        return all;
    }

    String none(String what) {
        return "Nothing at hand or in the shops is " + what + " that fits " + facts.name()
                + " and holds what is on its medium.";
    }

    /**
     * Media that may be written: free ones, and of each kind the cheapest that a shop has and that has the room.
     *
     * @param alsoMain whether that of the board itself may be
     */
    List<PassageFacts.Stock> usable(Predicate<MediumKind> kind, boolean alsoMain, ByteSize room) {
        return usable(each -> kind.test(each.medium().kind())
                && each.medium().size().compareTo(room) >= 0
                && (each.port().isEmpty()
                        || (alsoMain && facts.main().filter(each.id()::equals).isPresent())));
    }

    List<PassageFacts.Stock> usable(Predicate<PassageFacts.Stock> which) {
        List<PassageFacts.Stock> all = new ArrayList<>();
        Set<String> offered = new HashSet<>();
        facts.stock().stream()
                .filter(which)
                .sorted(Comparator.comparing((PassageFacts.Stock each) -> !each.owned())
                        .thenComparing(each -> each.medium().price()))
                .filter(each -> each.owned() || offered.add(each.medium().kind().id()))
                .forEach(all::add);
        return all;
    }

    ByteSize room(PassageFacts.Stock main) {
        return facts.contents().get(main.held().content()).inspection().leastMedium();
    }

    Stream<BoardProfile.Port> portsFor(MediumKind kind) {
        return profile.ports().stream()
                .filter(port -> port.soldered().isEmpty() && port.source().holdsMedium() && goesInto(kind, port));
    }

    boolean goesInto(MediumKind kind, BoardProfile.Port port) {
        if (port.buses().contains(kind.bus())) {
            return kind.m2().isEmpty()
                    || port.lengths().isEmpty()
                    || port.lengths().get().contains(kind.m2().get().length());
        }
        return facts.enclosures().stream().anyMatch(box -> box.leads(kind, port.buses()));
    }

    List<PassageFacts.Source> images() {
        return facts.sources().stream()
                .filter(PassageFacts.Source::isImage)
                .filter(source -> source.starts() && !source.installs())
                .toList();
    }

    Optional<PassageFacts.Source> newestCopy() {
        List<PassageFacts.Source> copies =
                facts.sources().stream().filter(PassageFacts.Source::isCopy).toList();
        return copies.isEmpty() ? Optional.empty() : Optional.of(copies.get(copies.size() - 1));
    }

    boolean free(String port, PassageFacts.Stock medium) {
        return facts.stock().stream()
                .noneMatch(each -> each.port().filter(port::equals).isPresent() && !each.equals(medium));
    }

    boolean mainIsBack(Situation now) {
        return facts.mainStock()
                .filter(main -> !now.placeOf(main.id()).equals(main.port().orElse("")))
                .isEmpty();
    }

    String orderOf(Situation now) {
        return now.board()
                .config()
                .value(profile.order().key())
                .orElse(profile.order().usual());
    }

    PassageFacts.Stock requireMain() throws NotPossible {
        return facts.mainStock()
                .filter(main -> !main.held().empty())
                .orElseThrow(() -> new NotPossible(
                        facts.name() + " has no medium with a system in it; the wish new-board comes first."));
    }

    /** One that can be taken out and read at the PC. */
    PassageFacts.Stock requireLooseMain() throws NotPossible {
        PassageFacts.Stock main = requireMain();
        boolean soldered = main.port()
                .flatMap(facts.bench().profile()::port)
                .flatMap(BoardProfile.Port::soldered)
                .isPresent();
        if (soldered) {
            throw new NotPossible("The system of " + facts.name()
                    + " is on storage that is soldered on: it can be neither read" + " nor written at the PC.");
        }
        return main;
    }

    List<OrderPreset> presets() {
        return OrderPreset.of(profile, Set.of());
    }

    static boolean up(Situation now, Starts starts) {
        return now.board().on() && now.board().looked() && Starts.good(starts.of(now));
    }

    static boolean running(Situation now, Starts starts, String port) {
        return up(now, starts) && starts.of(now).rootFrom().filter(port::equals).isPresent();
    }

    Scheme scheme(String target, String port, Optional<String> source, Set<Deed> deeds, Scheme.Goal goal) {
        return new Scheme(
                Optional.of(target),
                Optional.of(port).filter(each -> !each.isEmpty()),
                source,
                deeds,
                presets().stream().map(OrderPreset::value).toList(),
                facts.newestRelease(),
                goal);
    }

    static Offered one(Set<Deed> deeds, List<String> orders, Optional<LocalDate> release, Scheme.Goal goal) {
        return Offered.of(
                List.of(new Scheme(Optional.empty(), Optional.empty(), Optional.empty(), deeds, orders, release, goal)),
                "");
    }
}

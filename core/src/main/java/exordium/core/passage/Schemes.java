// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
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

/** The ways in which a wish may be met, each worth a search of its own; and why there is none. */
final class Schemes {
    private static final Set<Deed> AT_BOARD = EnumSet.of(
            Deed.POWER_OFF,
            Deed.TAKE_OUT,
            Deed.PLUG,
            Deed.POWER_ON,
            Deed.LOOK,
            Deed.STAGE_FIRMWARE,
            Deed.STAGE_ORDER,
            Deed.STAGE_SETTINGS,
            Deed.RESTART);
    private static final Set<Deed> MOVING =
            with(AT_BOARD, Deed.BUY, Deed.PROVE, Deed.COPY, Deed.CLONE, Deed.RESTORE, Deed.GROW, Deed.SET_UP);
    private static final Set<Deed> FRESH = with(AT_BOARD, Deed.BUY, Deed.PROVE, Deed.WRITE, Deed.SET_UP);
    private static final Set<Deed> ONTO_CARDS =
            EnumSet.of(Deed.BUY, Deed.PROVE, Deed.WRITE, Deed.RESTORE, Deed.SET_UP, Deed.NEW_IDENTITY);
    private final PassageFacts facts;
    private final Starts starts;
    private final BoardProfile profile;

    Schemes(PassageFacts facts, Starts starts) {
        this.facts = facts;
        this.starts = starts;
        this.profile = facts.bench().profile();
    }

    private static Set<Deed> with(Set<Deed> some, Deed... more) {
        Set<Deed> all = EnumSet.copyOf(some);
        all.addAll(List.of(more));
        return all;
    }

    /**
     * Where already: that there is nothing to do.
     *
     * @param why there is none, where there is none
     */
    record Offered(List<Scheme> schemes, Optional<String> already, String why, boolean saysWhy) {
        static Offered none(String why) {
            return new Offered(List.of(), Optional.empty(), why, true);
        }

        static Offered done(String already) {
            return new Offered(List.of(), Optional.of(already), "", false);
        }

        static Offered of(List<Scheme> schemes, String why) {
            return new Offered(schemes, Optional.empty(), why, false);
        }

        /** The same where the reason is about the board as it would be. */
        Offered sayingWhy() {
            return new Offered(schemes, already, why, true);
        }
    }

    Offered of(Wish wish, Situation begin) throws NotPossible {
        return switch (wish.kind()) {
            case NEW_BOARD -> newBoard(begin);
            case TO_USB_SSD ->
                moving(
                        "an SSD on USB",
                        StartSource.USB,
                        kind -> kind.lasting()
                                && (kind.bus().equals("usb") || kind.form().equals("m2")));
            case TO_NVME -> moving("NVMe", StartSource.NVME, kind -> kind.bus().equals("nvme"));
            case TO_LARGER -> resized(true);
            case TO_SMALLER -> resized(false);
            case SPARE -> spare();
            case FIRMWARE -> firmware(begin);
            case REVIVE -> revive(begin);
            case ORDER -> order(wish.value().orElseThrow(), begin);
            case READ_ONLY -> readOnly(begin);
            case NETWORK -> network(begin);
            case SEVERAL_SYSTEMS -> several();
            case ON_BOARD -> onBoard();
            case BATCH -> throw new IllegalArgumentException("a batch is planned card by card");
            case PUT_BACK -> putBack();
            case RETIRE -> retire();
        };
    }

    private Offered newBoard(Situation begin) {
        if (begin.board().on()) {
            return Offered.done(facts.name() + " runs already.");
        }
        List<PassageFacts.Source> images = images();
        if (images.isEmpty()) {
            return Offered.none("No image on the shelf starts a " + profile.id() + ": shelve one first.");
        }
        List<Scheme> schemes = new ArrayList<>();
        PassageFacts.Source image = images.get(0);
        for (PassageFacts.Stock each : usable(kind -> true, true, image.least())) {
            portsFor(each.medium().kind())
                    .forEach(port -> schemes.add(scheme(
                            each.id(),
                            port.id(),
                            Optional.of(image.id()),
                            FRESH,
                            (now, any) -> running(now, any, port.id())
                                    && now.placeOf(each.id()).equals(port.id())
                                    && now.held(each.id()).setUp()
                                    && now.held(each.id()).content().equals(image.id()))));
        }
        return Offered.of(schemes, "Nothing at hand or in the shops fits " + facts.name() + " and holds the image.");
    }

    private List<PassageFacts.Source> images() {
        return facts.sources().stream()
                .filter(PassageFacts.Source::isImage)
                .filter(source -> source.starts() && !source.installs())
                .toList();
    }

    private Offered moving(String title, StartSource to, Predicate<MediumKind> kind) throws NotPossible {
        PassageFacts.Stock main = requireMain();
        Optional<BoardProfile.Port> at = main.port().flatMap(profile::port);
        if (at.filter(port -> port.source() == to).isPresent()
                && kind.test(main.medium().kind())) {
            return Offered.done(
                    facts.name() + " starts from " + main.medium().name() + ", which is " + title + ", already.");
        }
        List<BoardProfile.Port> ports = profile.ports().stream()
                .filter(port -> port.source() == to && port.soldered().isEmpty())
                .toList();
        if (ports.isEmpty()) {
            return Offered.none("A " + profile.id() + " has no port for " + title + ".");
        }
        List<Scheme> schemes = new ArrayList<>();
        for (PassageFacts.Stock each : usable(kind, false, room(main))) {
            ports.stream()
                    .filter(port -> goesInto(each.medium().kind(), port))
                    .filter(port -> free(port.id(), each))
                    .findFirst()
                    .ifPresent(port -> schemes.add(moved(main, each, port.id())));
        }
        return Offered.of(schemes, none(title));
    }

    private String none(String what) {
        return "Nothing at hand or in the shops is " + what + " that fits " + facts.name()
                + " and holds what is on its medium.";
    }

    private boolean free(String port, PassageFacts.Stock medium) {
        return facts.stock().stream()
                .noneMatch(each -> each.port().filter(port::equals).isPresent() && !each.equals(medium));
    }

    /** The system of the board's medium on another one, from which it then runs. */
    private Scheme moved(PassageFacts.Stock main, PassageFacts.Stock to, String port) {
        String content = main.held().content();
        return scheme(
                to.id(),
                port,
                Optional.empty(),
                MOVING,
                (now, any) -> running(now, any, port)
                        && now.placeOf(to.id()).equals(port)
                        && now.held(to.id()).content().equals(content)
                        && (now.held(to.id()).grown() || !DeskMoves.isWorthGrowing(facts, to.id(), now.held(to.id()))));
    }

    private Offered resized(boolean larger) throws NotPossible {
        PassageFacts.Stock main = requireMain();
        String port = main.port().orElseThrow();
        ByteSize size = main.medium().size();
        ByteSize room = room(main);
        List<Scheme> schemes = usable(each -> each.port().isEmpty()
                        && goesInto(each.medium().kind(), profile.port(port).orElseThrow())
                        && each.medium().size().compareTo(room) >= 0
                        && (larger
                                ? each.medium().size().compareTo(size) > 0
                                : each.medium().size().compareTo(size) < 0))
                .stream()
                .map(each -> moved(main, each, port))
                .toList();
        return Offered.of(
                schemes,
                none(larger ? "larger than " + size.said() : "smaller than " + size.said())
                        + (larger ? "" : " Its last partition would have to end earlier first."));
    }

    private Offered spare() throws NotPossible {
        PassageFacts.Stock main = requireMain();
        String port = main.port().orElseThrow();
        String content = main.held().content();
        List<Scheme> schemes =
                usable(kind -> goesInto(kind, profile.port(port).orElseThrow()), false, room(main)).stream()
                        .map(each -> scheme(
                                each.id(),
                                port,
                                Optional.empty(),
                                MOVING,
                                (now, any) -> running(now, any, port)
                                        && now.placeOf(main.id()).equals(port)
                                        && now.atDesk(each.id())
                                        && now.held(each.id()).content().equals(content)
                                        && startsWith(now, any, main.id(), each.id(), port)))
                        .toList();
        return Offered.of(schemes, none("a medium for a spare"));
    }

    private static boolean startsWith(Situation now, Starts starts, String out, String in, String port) {
        return Starts.good(starts.of(now.moved(out, Situation.DESK).moved(in, port)));
    }

    private Offered firmware(Situation begin) {
        if (!profile.firmware().updatable() || !profile.firmware().inChip()) {
            return Offered.none("The firmware of a " + profile.id()
                    + " lies on its medium: it comes with the system's image and is not updated on the board.");
        }
        Optional<LocalDate> newest = facts.newestRelease();
        if (newest.isEmpty()) {
            return Offered.none("No release for a " + profile.id() + " is known in the house's channel.");
        }
        if (!begin.board().firmware().isBefore(newest.get())) {
            return Offered.done(facts.name() + " runs " + begin.board().firmware() + ", the newest of its channel.");
        }
        if (begin.board().overlay()) {
            return Offered.none("Its read-only overlay is on: nothing can be updated until it is switched off.");
        }
        return one(
                EnumSet.of(Deed.STAGE_FIRMWARE, Deed.RESTART, Deed.LOOK),
                List.of(),
                newest,
                (now, any) -> up(now, any) && !now.board().firmware().isBefore(newest.get()));
    }

    /** With the order it has, where it starts with that; else with one with which it does. */
    private Offered revive(Situation begin) {
        Optional<LocalDate> release = recoverySet().map(Schemes::release);
        String now = orderOf(begin);
        Optional<String> order = Stream.concat(
                        Stream.of(now), presets().stream().map(OrderPreset::value))
                .filter(value ->
                        release.filter(date -> startsWith(begin, value, date)).isPresent())
                .findFirst();
        return recovery(order.orElse(now));
    }

    private boolean startsWith(Situation begin, String order, LocalDate release) {
        return OrderDialect.judge(profile, order, release).stream().noneMatch(Finding::stops)
                && Starts.good(starts.of(begin.with(begin.board()
                        .recovered(
                                release,
                                FirmwareConfig.factory(profile)
                                        .with(profile.order().key(), order)))));
    }

    private Optional<PassageFacts.Source> recoverySet() {
        return facts.sources().stream().filter(PassageFacts.Source::isRecovery).reduce((first, last) -> last);
    }

    private static LocalDate release(PassageFacts.Source set) {
        return LocalDate.parse(set.id().substring("recovery:".length()));
    }

    /** A card writes the chip anew, settings and order with it. */
    private Offered recovery(String order) {
        if (!profile.firmware().inChip() || profile.firmware().recovery().isEmpty()) {
            return Offered.none("A " + profile.id() + " has no chip that a recovery card writes.");
        }
        if (recoverySet().isEmpty()) {
            return Offered.none("No recovery set for a " + profile.id()
                    + " is here: a real board takes its maker's own, copied onto a FAT card.");
        }
        PassageFacts.Source set = recoverySet().get();
        LocalDate release = release(set);
        List<Scheme> schemes = new ArrayList<>();
        profile.ports().stream()
                .filter(port -> port.source() == StartSource.CARD)
                .findFirst()
                .ifPresent(slot -> usable(
                                kind -> kind.form().equals("card"),
                                false,
                                recoverySet().get().least())
                        .forEach(each -> schemes.add(new Scheme(
                                Optional.of(each.id()),
                                Optional.of(slot.id()),
                                Optional.of(set.id()),
                                with(AT_BOARD, Deed.BUY, Deed.PROVE, Deed.WRITE),
                                List.of(order),
                                Optional.of(release),
                                (now, any) -> up(now, any)
                                        && now.board().firmware().equals(release)
                                        && now.held(each.id()).content().equals(set.id())
                                        && now.atDesk(each.id())
                                        && mainIsBack(now)
                                        && orderOf(now).equals(order)))));
        return Offered.of(schemes, "No card at hand or in the shops can become the recovery card.");
    }

    private boolean mainIsBack(Situation now) {
        return facts.mainStock()
                .filter(main -> !now.placeOf(main.id()).equals(main.port().orElse("")))
                .isEmpty();
    }

    private String orderOf(Situation now) {
        return now.board()
                .config()
                .value(profile.order().key())
                .orElse(profile.order().usual());
    }

    private Offered order(String value, Situation begin) {
        if (profile.order().fuse().isPresent()) {
            return Offered.none("A " + profile.id()
                    + " keeps its order in one-time memory: that is set at its Order station, and never undone.");
        }
        if (orderOf(begin).equals(value)) {
            return Offered.done(facts.name() + " has the order " + value + " already.");
        }
        List<Finding> stops =
                OrderDialect.judge(
                                profile,
                                value,
                                facts.newestRelease().orElse(begin.board().firmware()))
                        .stream()
                        .filter(Finding::stops)
                        .toList();
        if (!stops.isEmpty()) {
            return Offered.none(stops.get(0).text());
        }
        if (!begin.board().on()) {
            return throughCard(value, begin);
        }
        return one(
                EnumSet.of(Deed.STAGE_FIRMWARE, Deed.STAGE_ORDER, Deed.RESTART, Deed.LOOK),
                List.of(value),
                facts.newestRelease(),
                (now, any) -> up(now, any) && orderOf(now).equals(value));
    }

    /** Nothing can be staged on a board that does not start: it is started once from a card, or a recovery card sets the order. */
    private Offered throughCard(String value, Situation begin) {
        List<Scheme> schemes = new ArrayList<>(recovery(value).schemes());
        Optional<BoardProfile.Port> slot = profile.ports().stream()
                .filter(port -> port.source() == StartSource.CARD)
                .findFirst();
        // One whose identifiers are not those of what the board has already.
        Optional<PassageFacts.Source> image = images().stream()
                .filter(each ->
                        slot.filter(port -> startsFrom(begin, each, port)).isPresent())
                .findFirst();
        if (image.isPresent() && slot.isPresent()) {
            usable(kind -> goesInto(kind, slot.get()), false, image.get().least())
                    .forEach(each -> schemes.add(new Scheme(
                            Optional.of(each.id()),
                            slot.map(BoardProfile.Port::id),
                            image.map(PassageFacts.Source::id),
                            with(FRESH, Deed.BUY),
                            List.of(value),
                            facts.newestRelease(),
                            (now, any) -> up(now, any)
                                    && orderOf(now).equals(value)
                                    && now.atDesk(each.id())
                                    && mainIsBack(now))));
        }
        Trace then = starts.of(begin.with(begin.board()
                .recovered(
                        begin.board().firmware(),
                        begin.board().config().with(profile.order().key(), value))));
        return Offered.of(
                        schemes,
                        Starts.good(then)
                                ? facts.name()
                                        + " does not start as it stands, and there is no card and no image from which it could be started once."
                                : "With the order " + value + " it would not be right either: " + Starts.why(then))
                .sayingWhy();
    }

    private boolean startsFrom(Situation begin, PassageFacts.Source image, BoardProfile.Port port) {
        return usable(kind -> goesInto(kind, port), false, image.least()).stream()
                .findFirst()
                .filter(card -> Starts.good(starts.of(
                        begin.moved(card.id(), port.id()).holding(card.id(), Held.NOTHING.writtenWith(image.id())))))
                .isPresent();
    }

    private Offered readOnly(Situation begin) throws NotPossible {
        PassageFacts.Stock main = requireMain();
        if (begin.board().overlay()) {
            return Offered.done(facts.name() + " is read-only already.");
        }
        if (!facts.roomForOverlay()) {
            return Offered.none(facts.name() + " has too little memory for it: with the overlay everything that is"
                    + " written goes to memory, and 2 GB are the least.");
        }
        return Offered.of(
                List.of(scheme(
                        main.id(),
                        main.port().orElseThrow(),
                        Optional.empty(),
                        with(AT_BOARD, Deed.BUY, Deed.COPY, Deed.SET_UP),
                        (now, any) -> up(now, any)
                                && now.board().overlay()
                                && now.copied().contains(main.held().content()))),
                "");
    }

    private Offered network(Situation begin) {
        Optional<String> order = presets().stream()
                .filter(preset -> preset.id().equals("network-first"))
                .map(OrderPreset::value)
                .findFirst();
        if (order.isEmpty()) {
            return Offered.none("The order of a " + profile.id() + " cannot put the network first.");
        }
        if (!facts.kitThere()) {
            return Offered.none("No kit for a start over the network is made for " + facts.name()
                    + " yet: make one at Network, and have its server running first.");
        }
        if (overNetwork(starts.of(begin)) && begin.board().on()) {
            return Offered.done(facts.name() + " starts over the network already.");
        }
        boolean cardStays = profile.firmware().where().equals("card");
        return one(
                AT_BOARD,
                List.of(order.get()),
                facts.newestRelease(),
                (now, any) -> now.board().on()
                        && now.board().looked()
                        && overNetwork(any.of(now))
                        && (cardStays || facts.main().filter(now::inBoard).isEmpty()));
    }

    private static boolean overNetwork(Trace trace) {
        return trace.runs() && trace.rootFrom().filter("network"::equals).isPresent();
    }

    private Offered several() throws NotPossible {
        PassageFacts.Stock main = requireMain();
        List<PassageFacts.Source> others = images().stream()
                .filter(image -> !image.id().equals(main.held().content()))
                .toList();
        if (others.isEmpty()) {
            return Offered.none("No image on the shelf starts a " + profile.id() + ": shelve one first.");
        }
        PassageFacts.Source image = others.get(0);
        String home = main.port().orElseThrow();
        List<Scheme> schemes = new ArrayList<>();
        for (PassageFacts.Stock each : usable(kind -> true, false, image.least())) {
            portsFor(each.medium().kind())
                    .filter(port -> !port.id().equals(home) && free(port.id(), each))
                    .findFirst()
                    .ifPresent(port -> schemes.add(scheme(
                            each.id(),
                            port.id(),
                            Optional.of(image.id()),
                            FRESH,
                            (now, any) -> up(now, any)
                                    && now.placeOf(main.id()).equals(home)
                                    && now.placeOf(each.id()).equals(port.id())
                                    && now.held(each.id()).content().equals(image.id())
                                    && now.held(each.id()).setUp()
                                    && Starts.good(any.of(now.moved(main.id(), Situation.DESK))))));
        }
        return Offered.of(schemes, none("a medium for a second system"));
    }

    private Offered onBoard() {
        boolean storage =
                profile.ports().stream().anyMatch(port -> port.soldered().isPresent());
        return Offered.none(
                storage
                        ? "No image on the shelf is known to write a board's own storage; the image's maker says which one does."
                        : "A " + profile.id() + " has no storage of its own.");
    }

    /** One of a batch: what nobody uses, written and made its own. */
    List<Scheme> card(Set<String> taken) {
        Optional<PassageFacts.Source> copy = newestCopy();
        Optional<PassageFacts.Source> image = images().stream().findFirst();
        boolean fromCopy = copy.isPresent() && facts.wayBack() == exordium.core.copies.care.WayBack.COPY;
        Optional<PassageFacts.Source> source = fromCopy ? copy : image.or(() -> copy);
        if (source.isEmpty()) {
            return List.of();
        }
        boolean own = source.get().isCopy();
        return usable(kind -> kind.form().equals("card"), false, source.get().least()).stream()
                .filter(each -> !taken.contains(each.id()))
                .map(each -> scheme(
                        each.id(),
                        "",
                        source.map(PassageFacts.Source::id),
                        ONTO_CARDS,
                        (now, any) -> now.held(each.id())
                                        .content()
                                        .equals(source.get().id())
                                && (own
                                        ? now.held(each.id()).ownIdentity()
                                        : now.held(each.id()).setUp())))
                .toList();
    }

    private Optional<PassageFacts.Source> newestCopy() {
        List<PassageFacts.Source> copies =
                facts.sources().stream().filter(PassageFacts.Source::isCopy).toList();
        return copies.isEmpty() ? Optional.empty() : Optional.of(copies.get(copies.size() - 1));
    }

    private Offered putBack() {
        Optional<PassageFacts.Source> copy = newestCopy();
        if (copy.isEmpty()) {
            return Offered.none("There is no proven copy of " + facts.name() + " to go back to.");
        }
        List<Scheme> schemes = new ArrayList<>();
        for (PassageFacts.Stock each : usable(kind -> true, true, copy.get().least())) {
            Stream<BoardProfile.Port> ports = facts.mainStock()
                    .flatMap(PassageFacts.Stock::port)
                    .flatMap(profile::port)
                    .map(Stream::of)
                    .orElseGet(() -> portsFor(each.medium().kind()));
            ports.filter(port -> goesInto(each.medium().kind(), port))
                    .findFirst()
                    .ifPresent(port -> schemes.add(scheme(
                            each.id(),
                            port.id(),
                            copy.map(PassageFacts.Source::id),
                            MOVING,
                            (now, any) -> running(now, any, port.id())
                                    && now.placeOf(each.id()).equals(port.id())
                                    && now.held(each.id())
                                            .content()
                                            .equals(copy.get().id()))));
        }
        return Offered.of(schemes, none("a medium"));
    }

    private Offered retire() throws NotPossible {
        PassageFacts.Stock main = requireMain();
        return one(
                EnumSet.of(Deed.BUY, Deed.POWER_OFF, Deed.TAKE_OUT, Deed.COPY, Deed.CLEAR),
                List.of(),
                Optional.empty(),
                (now, any) -> !now.board().on()
                        && now.atDesk(main.id())
                        && now.held(main.id()).empty()
                        && now.copied().contains(main.held().content()));
    }

    private PassageFacts.Stock requireMain() throws NotPossible {
        return facts.mainStock()
                .filter(main -> !main.held().empty())
                .orElseThrow(() -> new NotPossible(
                        facts.name() + " has no medium with a system in it; the wish new-board comes first."));
    }

    private Scheme scheme(String target, String port, Optional<String> source, Set<Deed> deeds, Scheme.Goal goal) {
        return new Scheme(
                Optional.of(target),
                Optional.of(port).filter(each -> !each.isEmpty()),
                source,
                deeds,
                presets().stream().map(OrderPreset::value).toList(),
                facts.newestRelease(),
                goal);
    }

    private static Offered one(Set<Deed> deeds, List<String> orders, Optional<LocalDate> release, Scheme.Goal goal) {
        return Offered.of(
                List.of(new Scheme(Optional.empty(), Optional.empty(), Optional.empty(), deeds, orders, release, goal)),
                "");
    }

    private List<OrderPreset> presets() {
        return OrderPreset.of(profile, Set.of());
    }

    private static boolean up(Situation now, Starts starts) {
        return now.board().on() && now.board().looked() && Starts.good(starts.of(now));
    }

    private static boolean running(Situation now, Starts starts, String port) {
        return up(now, starts) && starts.of(now).rootFrom().filter(port::equals).isPresent();
    }

    /**
     * Media that may be written: free ones, and of each kind the cheapest that a shop has and that has the room.
     *
     * @param alsoMain whether that of the board itself may be
     */
    private List<PassageFacts.Stock> usable(Predicate<MediumKind> kind, boolean alsoMain, ByteSize room) {
        return usable(each -> kind.test(each.medium().kind())
                && each.medium().size().compareTo(room) >= 0
                && (each.port().isEmpty()
                        || (alsoMain && facts.main().filter(each.id()::equals).isPresent())));
    }

    private List<PassageFacts.Stock> usable(Predicate<PassageFacts.Stock> which) {
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

    private ByteSize room(PassageFacts.Stock main) {
        return facts.contents().get(main.held().content()).inspection().leastMedium();
    }

    private Stream<BoardProfile.Port> portsFor(MediumKind kind) {
        return profile.ports().stream()
                .filter(port -> port.soldered().isEmpty() && port.source().holdsMedium() && goesInto(kind, port));
    }

    private boolean goesInto(MediumKind kind, BoardProfile.Port port) {
        if (port.buses().contains(kind.bus())) {
            return kind.m2().isEmpty()
                    || port.lengths().isEmpty()
                    || port.lengths().get().contains(kind.m2().get().length());
        }
        return starts.boxFor(kind)
                .filter(box -> port.buses().contains(box.plugs()))
                .isPresent();
    }
}

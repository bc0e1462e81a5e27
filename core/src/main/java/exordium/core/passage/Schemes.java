// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.NotPossible;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** The ways in which a wish may be met, each worth a search of its own; and why there is none. */
final class Schemes extends Choices {
    private final FirmwareSchemes firmware;

    Schemes(PassageFacts facts, Starts starts) {
        super(facts, starts);
        firmware = new FirmwareSchemes(facts, starts);
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
            case FIRMWARE -> firmware.firmware(begin);
            case REVIVE -> firmware.revive(begin);
            case ORDER -> firmware.order(wish.value().orElseThrow(), begin);
            case READ_ONLY -> readOnly(begin);
            case NETWORK -> firmware.network(begin);
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
        return Offered.of(
                        schemes,
                        schemes.isEmpty()
                                ? "Nothing at hand or in the shops fits " + facts.name() + " and holds the image."
                                : "With nothing that is at hand or in the shops does " + facts.name()
                                        + ", rehearsed, start from the image and nothing against it.")
                .sayingWhy();
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
        requireLooseMain();
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
        PassageFacts.Stock main = requireLooseMain();
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
        PassageFacts.Stock main = requireLooseMain();
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

    private Offered readOnly(Situation begin) throws NotPossible {
        PassageFacts.Stock main = requireLooseMain();
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
        PassageFacts.Stock main = requireLooseMain();
        return one(
                EnumSet.of(Deed.BUY, Deed.POWER_OFF, Deed.TAKE_OUT, Deed.COPY, Deed.CLEAR),
                List.of(),
                Optional.empty(),
                (now, any) -> !now.board().on()
                        && now.atDesk(main.id())
                        && now.held(main.id()).empty()
                        && now.copied().contains(main.held().content()));
    }
}

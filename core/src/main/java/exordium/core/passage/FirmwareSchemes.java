// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.Trace;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** The ways to other firmware, another order, or a start over the network. */
final class FirmwareSchemes extends Choices {
    FirmwareSchemes(PassageFacts facts, Starts starts) {
        super(facts, starts);
    }

    Offered firmware(Situation begin) {
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
    Offered revive(Situation begin) {
        Optional<LocalDate> release = recoverySet().map(FirmwareSchemes::release);
        String now = orderOf(begin);
        Optional<String> order = Stream.concat(
                        Stream.of(now), presets().stream().map(OrderPreset::value))
                .filter(value ->
                        release.filter(date -> startsWith(begin, value, date)).isPresent())
                .findFirst();
        return recovery(order.orElse(now));
    }

    boolean startsWith(Situation begin, String order, LocalDate release) {
        return OrderDialect.judge(profile, order, release).stream().noneMatch(Finding::stops)
                && Starts.good(starts.of(begin.with(begin.board()
                        .recovered(
                                release,
                                FirmwareConfig.factory(profile)
                                        .with(profile.order().key(), order)))));
    }

    Optional<PassageFacts.Source> recoverySet() {
        return facts.sources().stream().filter(PassageFacts.Source::isRecovery).reduce((first, last) -> last);
    }

    static LocalDate release(PassageFacts.Source set) {
        return LocalDate.parse(set.id().substring("recovery:".length()));
    }

    /** A card writes the chip anew, settings and order with it. */
    Offered recovery(String order) {
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
                                with(HANDLING, Deed.BUY, Deed.PROVE, Deed.WRITE),
                                List.of(order),
                                Optional.of(release),
                                (now, any) -> up(now, any)
                                        && now.board().rewritten()
                                        && now.held(each.id()).content().equals(set.id())
                                        && now.atDesk(each.id())
                                        && mainIsBack(now)
                                        && orderOf(now).equals(order)))));
        return Offered.of(schemes, "No card at hand or in the shops can become the recovery card.");
    }

    Offered order(String value, Situation begin) {
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
    Offered throughCard(String value, Situation begin) {
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

    boolean startsFrom(Situation begin, PassageFacts.Source image, BoardProfile.Port port) {
        return usable(kind -> goesInto(kind, port), false, image.least()).stream()
                .findFirst()
                .filter(card -> Starts.good(starts.of(
                        begin.moved(card.id(), port.id()).holding(card.id(), Held.NOTHING.writtenWith(image.id())))))
                .isPresent();
    }

    Offered network(Situation begin) {
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

    static boolean overNetwork(Trace trace) {
        return trace.runs() && trace.rootFrom().filter("network"::equals).isPresent();
    }
}

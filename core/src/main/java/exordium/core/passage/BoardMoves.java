// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Finding;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.Companions;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** What is done at the board. Minutes: common practice, no source. */
final class BoardMoves {
    private static final double PLUGGING = 2;
    private static final double OPENING = 6;
    private static final double STAGING = 1;
    private static final double SHUTTING_DOWN = 1;
    private static final double LOOKING = 1;
    private static final double SECONDS_IN_A_MINUTE = 60;

    private final PassageFacts facts;
    private final Starts starts;
    private final Scheme scheme;
    private final BoardProfile profile;
    private final Map<List<Object>, Boolean> orders = new HashMap<>();

    BoardMoves(PassageFacts facts, Starts starts, Scheme scheme) {
        this.facts = facts;
        this.starts = starts;
        this.scheme = scheme;
        this.profile = facts.bench().profile();
    }

    /** Its own system has to run for that, and write. */
    void stageFirmware(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.STAGE_FIRMWARE)
                || !board.on()
                || board.overlay()
                || !profile.firmware().updatable()
                || !profile.firmware().inChip()
                || board.stagedFirmware().isPresent()) {
            return;
        }
        scheme.release()
                .filter(board.firmware()::isBefore)
                .ifPresent(release -> acts.accept(new Act(
                        Steps.of(Deed.STAGE_FIRMWARE, "Stage firmware " + release + " on " + facts.name() + ".")
                                .value(release.toString())
                                .cost(Cost.minutes(STAGING))
                                .proves("the release stands in its chip as staged")
                                .step(),
                        now.with(board.staging(release)))));
    }

    /** What a drive on a port takes beside the order: probing for a carrier that does not announce itself, the port switched on. */
    void stageSettings(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.STAGE_SETTINGS)
                || !board.on()
                || board.overlay()
                || !profile.firmware().inChip()
                || scheme.target().isEmpty()
                || scheme.port().isEmpty()) {
            return;
        }
        Situation plugged = now.moved(scheme.target().get(), scheme.port().get())
                .with(board.staging(board.nextConfig()).started());
        Optional<StartSource> source = profile.port(scheme.port().get()).map(BoardProfile.Port::source);
        Companions with = Companions.of(starts.bench(plugged), source.stream().toList(), facts.pcie());
        if (!with.changes() || with.config().equals(board.nextConfig())) {
            return;
        }
        String lines = String.join(", ", with.in());
        String gone = with.out().isEmpty()
                ? ""
                : (with.in().isEmpty() ? "" : "; ") + "without " + String.join(", ", with.out());
        acts.accept(new Act(
                Steps.of(Deed.STAGE_SETTINGS, "Stage " + lines + gone + " in the settings of " + facts.name() + ".")
                        .value(with.config().text())
                        .cost(Cost.minutes(STAGING))
                        .proves("the settings stand in its chip as staged")
                        .step(),
                now.with(board.staging(with.config()))));
    }

    void stageOrder(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.STAGE_ORDER)
                || !board.on()
                || board.overlay()
                || profile.order().fuse().isPresent()) {
            return;
        }
        String key = profile.order().key();
        for (String value : scheme.orders()) {
            FirmwareConfig config = board.nextConfig();
            boolean stands = config.value(key).orElse(facts.bench().order()).equals(value);
            if (stands || !known(value, board.firmware())) {
                continue;
            }
            String before = board.config().value(key).orElse(profile.order().usual());
            acts.accept(new Act(
                    Steps.of(
                                    Deed.STAGE_ORDER,
                                    "Stage the order " + value + " on " + facts.name() + "; the way back is " + before
                                            + ".")
                            .value(value)
                            .cost(Cost.minutes(STAGING))
                            .proves("the order stands in its settings as staged")
                            .step(),
                    now.with(board.staging(config.with(key, value)))));
        }
    }

    /** Whether the firmware knows all that an order asks for. */
    private boolean known(String value, LocalDate firmware) {
        return orders.computeIfAbsent(
                List.of(value, firmware),
                each -> OrderDialect.judge(profile, value, firmware).stream().noneMatch(Finding::stops));
    }

    void restart(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.RESTART) || !board.on() || !board.staged()) {
            return;
        }
        Situation after = now.with(board.started());
        Trace trace = starts.of(after);
        if (Starts.good(trace)) {
            acts.accept(new Act(
                    Steps.of(Deed.RESTART, "Restart " + facts.name() + ", so that what was staged counts.")
                            .cost(Cost.minutes(minutes(trace)))
                            .proves("it is up again, with what was staged in force")
                            .step(),
                    ran(after, trace)));
        }
    }

    private static double minutes(Trace trace) {
        return 1 + Math.ceil(trace.seconds() / SECONDS_IN_A_MINUTE);
    }

    /** What it ran from is otherwise than its copy by now; under the overlay nothing is written. */
    private Situation ran(Situation after, Trace trace) {
        Optional<String> root = trace.rootFrom().flatMap(after::in);
        return after.board().overlay() || root.isEmpty() ? after : after.ranFrom(root.get());
    }

    /** Never while something is staged: that would be lost. */
    void powerOff(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.POWER_OFF) || !board.on() || board.staged()) {
            return;
        }
        acts.accept(new Act(
                Steps.of(Deed.POWER_OFF, "Shut " + facts.name() + " down, then take its power away.")
                        .cost(Cost.minutes(SHUTTING_DOWN))
                        .proves("no light on it")
                        .step(),
                now.with(board.off())));
    }

    void takeOut(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.TAKE_OUT) || now.board().on()) {
            return;
        }
        for (String medium : now.places().keySet()) {
            String port = now.placeOf(medium);
            if (now.inBoard(medium) && !soldered(port) && facts.stock(medium).isPresent()) {
                acts.accept(new Act(
                        handling(Deed.TAKE_OUT, now, port, "Take " + name(medium) + " out of " + title(port) + ".")
                                .medium(medium)
                                .port(port)
                                .proves(title(port) + " is empty")
                                .step(),
                        now.moved(medium, Situation.DESK).with(now.board().handled(opens(now, port)))));
            }
        }
    }

    void plug(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.PLUG) || now.board().on()) {
            return;
        }
        for (String medium : now.places().keySet()) {
            if (!now.atDesk(medium)) {
                continue;
            }
            portFor(medium).filter(port -> now.in(port).isEmpty()).ifPresent(port -> {
                MediumKind kind = facts.stock(medium).orElseThrow().medium().kind();
                Optional<Enclosure> inside = starts.box(kind, port);
                Optional<String> box = inside.map(Enclosure::id);
                if (box.isPresent() && !hasPart(now, box.get())) {
                    return;
                }
                Steps steps = handling(
                                Deed.PLUG,
                                now,
                                port,
                                "Plug " + name(medium)
                                        + inside.map(each -> ", in a " + each.title() + ",")
                                                .orElse("") + " into " + title(port) + " of " + facts.name() + ".")
                        .medium(medium)
                        .port(port)
                        .needs(medium)
                        .proves("it sits square in " + title(port));
                box.ifPresent(steps::needs);
                if (kind.m2().isPresent() && box.isEmpty()) {
                    steps.caution("In at a slant until the contacts are hidden, then down; the screw evenly, not tight."
                            + " The ribbon square in its latch, no sharp bends.");
                }
                acts.accept(new Act(
                        steps.step(), now.moved(medium, port).with(now.board().handled(opens(now, port)))));
            });
        }
    }

    private boolean hasPart(Situation now, String id) {
        return facts.atHand().contains(id) || now.bought().contains(id);
    }

    /** The scheme's for its target; for anything else where it was. */
    private Optional<String> portFor(String medium) {
        return scheme.target().filter(medium::equals).isPresent()
                ? scheme.port()
                : facts.stock(medium).flatMap(PassageFacts.Stock::port);
    }

    void powerOn(Situation now, Consumer<Act> acts) {
        if (!scheme.allows(Deed.POWER_ON) || now.board().on()) {
            return;
        }
        Situation after = now.with(now.board().started());
        Trace trace = starts.of(after);
        if (Starts.good(trace)) {
            acts.accept(new Act(
                    Steps.of(Deed.POWER_ON, "Close the box and give " + facts.name() + " its power.")
                            .cost(Cost.minutes(minutes(trace)))
                            .proves("it starts, from " + title(trace.rootFrom().orElse("")))
                            .step(),
                    ran(after, trace)));
        } else if (trace.cause() == Cause.RECOVERY_WRITTEN && scheme.release().isPresent()) {
            LocalDate release = scheme.release().get();
            acts.accept(new Act(
                    Steps.of(Deed.POWER_ON, "Give " + facts.name() + " its power, and wait for the steady blinking.")
                            .cost(Cost.minutes(2))
                            .proves("steady blinking and a green screen")
                            .caution("Do not cut its power while the chip is written.")
                            .step(),
                    now.with(now.board().recovered(release, recovered()))));
        }
    }

    /** The factory's settings, with the order that was put on the card. */
    private FirmwareConfig recovered() {
        FirmwareConfig factory = FirmwareConfig.factory(profile);
        return scheme.orders().stream()
                .findFirst()
                .map(order -> factory.with(profile.order().key(), order))
                .orElse(factory);
    }

    void look(Situation now, Consumer<Act> acts) {
        AtBoard board = now.board();
        if (!scheme.allows(Deed.LOOK) || !board.on() || board.looked() || board.staged()) {
            return;
        }
        Trace trace = starts.of(now);
        if (!Starts.good(trace)) {
            return;
        }
        String from = trace.rootFrom().map(this::title).orElse("its medium");
        acts.accept(new Act(
                Steps.of(Deed.LOOK, "Look what " + facts.name() + " runs from: / is to be on " + from + ".")
                        .cost(Cost.minutes(LOOKING))
                        .proves("/ is on " + from)
                        .step(),
                now.with(board.seen())));
    }

    private Steps handling(Deed deed, Situation now, String port, String text) {
        boolean opens = opens(now, port);
        Cost cost = Cost.minutes(opens ? PLUGGING + OPENING : PLUGGING);
        return Steps.of(deed, opens ? "Open the box. " + text : text).cost(opens ? cost.opening() : cost);
    }

    private boolean opens(Situation now, String port) {
        return !now.board().open() && facts.shut().contains(port);
    }

    private boolean soldered(String port) {
        return profile.port(port).flatMap(BoardProfile.Port::soldered).isPresent();
    }

    private String name(String medium) {
        return facts.stock(medium).orElseThrow().medium().name();
    }

    private String title(String port) {
        return profile.port(port).map(BoardProfile.Port::title).orElse(port.equals("network") ? "the network" : port);
    }
}

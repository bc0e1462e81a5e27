// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Watts;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Goes through a start as the board would: power, firmware, each source in its order, start files, kernel line, kernel,
 * root, what the root mounts. Reads nothing and changes nothing; the same bench gives the same trace.
 */
public final class Rehearsal {
    private final Bench bench;
    private final BoardProfile profile;
    private final TraceBuilder trace = new TraceBuilder();

    private Rehearsal(Bench bench) {
        this.bench = bench;
        this.profile = bench.profile();
    }

    public static Trace of(Bench bench) {
        return new Rehearsal(bench).run();
    }

    private Trace run() {
        if (!powerHolds()) {
            return trace.end(Trace.Outcome.HALTED);
        }
        DecodedOrder order = OrderDialect.of(profile).decode(bench.order());
        trace.works(
                Trace.Stage.FIRMWARE,
                null,
                profile.timing().powerOn(),
                "Firmware of " + bench.firmware() + " reads the order " + bench.order() + ": "
                        + String.join(
                                ", ",
                                order.sources().stream().map(StartSource::code).toList()) + ".");
        order.findings().stream().filter(Finding::stops).forEach(trace::finding);
        for (StartSource source : order.sources()) {
            if (source == StartSource.STOP) {
                trace.fails(
                        Trace.Stage.SOURCE,
                        null,
                        0,
                        Cause.STOPPED_BY_ORDER,
                        "The order says stop here; a blink pattern shows.");
                return trace.end(Trace.Outcome.HALTED);
            }
            if (source == StartSource.RESTART) {
                trace.passesOn(
                        Trace.Stage.SOURCE, null, 0, "Nothing started; the board begins again from the first source.");
                return nothingStarted(Trace.Outcome.LOOPING);
            }
            if (tries(source)) {
                return trace.built();
            }
        }
        unsetFuse(order);
        return nothingStarted(Trace.Outcome.HALTED);
    }

    private boolean powerHolds() {
        Watts need = profile.power().baseWatts();
        for (Bench.Attached medium : bench.attached()) {
            need = need.plus(medium.kind().watts());
        }
        Watts given = bench.supply().power();
        String sum = bench.supply().title() + " gives " + given.said() + "; board and drives draw up to " + need.said()
                + ".";
        if (given.compareTo(need) < 0) {
            trace.fails(Trace.Stage.POWER, null, 0.5, Cause.SUPPLY_TOO_WEAK, sum);
            trace.finding(Finding.stop("supply-too-weak", sum, Basis.computed("volts times amps"))
                    .mendAt(Step.STORAGE));
            return false;
        }
        trace.works(Trace.Stage.POWER, null, 0, sum);
        return true;
    }

    /** True when this source ended the start, well or badly. */
    private boolean tries(StartSource source) {
        if (!source.holdsMedium()) {
            return switch (source) {
                case NETWORK -> new NetworkStart(bench, trace).tries();
                case NETWORK_INSTALL -> {
                    trace.passesOn(
                            Trace.Stage.SOURCE,
                            null,
                            profile.timing().tryEmpty(),
                            "Install over the network waits for a key; none is pressed.");
                    yield false;
                }
                default -> {
                    trace.passesOn(
                            Trace.Stage.SOURCE,
                            null,
                            profile.timing().tryEmpty(),
                            source.title() + ": nobody is connected.");
                    yield false;
                }
            };
        }
        List<Bench.Attached> here = bench.mediaOn(source).toList();
        if (here.isEmpty()) {
            trace.passesOn(
                    Trace.Stage.SOURCE,
                    portOf(source),
                    profile.timing().tryEmpty(),
                    source.title() + ": nothing plugged in.");
            return false;
        }
        for (Bench.Attached medium : here) {
            if (firmwareStarts(source, medium)) {
                new SystemStart(bench, trace, seen()).from(medium);
                return true;
            }
        }
        return false;
    }

    /** Everything the firmware itself checks; a failure here makes it go on to the next source. */
    private boolean firmwareStarts(StartSource source, Bench.Attached medium) {
        BoardProfile.Port port = profile.port(medium.port()).orElseThrow();
        Optional<Obstacle> obstacle = visibility(source, port, medium).or(() -> startFiles(medium));
        double seconds = profile.timing().tryMedium();
        if (obstacle.isPresent()) {
            trace.fails(
                    Trace.Stage.SOURCE,
                    medium.port(),
                    seconds,
                    obstacle.get().cause(),
                    port.title() + ", " + medium.name() + ": " + obstacle.get().text());
            return false;
        }
        trace.works(
                Trace.Stage.SOURCE,
                medium.port(),
                seconds,
                port.title() + ": " + medium.name() + " answers, with start files for this board.");
        trace.startedFrom(medium.port());
        return true;
    }

    private record Obstacle(Cause cause, String text) {}

    private Optional<Obstacle> visibility(StartSource source, BoardProfile.Port port, Bench.Attached medium) {
        LocalDate needed = profile.firmware().needs().get(source);
        if (needed != null && bench.firmware().isBefore(needed)) {
            return obstacle(
                    Cause.FIRMWARE_TOO_OLD,
                    "starting from " + source.code() + " needs firmware of " + needed + " or later.");
        }
        if (!port.buses().contains(medium.kind().bus())) {
            return obstacle(
                    Cause.DRIVE_WRONG_KIND, "a " + medium.kind().bus() + " drive does not work here, though it fits.");
        }
        if (!medium.seated()) {
            return obstacle(
                    Cause.DRIVE_NOT_SEEN,
                    "not seen. Power off, then check that cable and drive sit square and the right way round.");
        }
        boolean probing = port.key().isEmpty()
                || bench.config().value(port.key().get()).orElse("0").equals("1");
        if (medium.silentCarrier() && !probing) {
            return obstacle(
                    Cause.PCIE_OFF,
                    "the carrier does not announce itself, and " + port.key().get() + "=1 is not set.");
        }
        return Optional.empty();
    }

    private Optional<Obstacle> startFiles(Bench.Attached medium) {
        MediumContents contents = medium.contents();
        if (contents.inspection().partitions().isEmpty()) {
            return obstacle(Cause.NO_PARTITION_TABLE, "no partition table on it.");
        }
        if (contents.start().isEmpty()) {
            return obstacle(Cause.NO_START_PARTITION, "no FAT partition to start from.");
        }
        MediumContents.StartPartition start = contents.start().get();
        if (profile.startFiles().loaders().stream().noneMatch(start::has)) {
            return obstacle(
                    Cause.NO_START_FILES,
                    "none of " + String.join(", ", profile.startFiles().loaders()) + " on its first partition.");
        }
        if (!contents.hasKernelFor(profile)) {
            return obstacle(Cause.KERNEL_FOR_OTHER_BOARD, "its kernel or device tree is for another board.");
        }
        return Optional.empty();
    }

    private static Optional<Obstacle> obstacle(Cause cause, String text) {
        return Optional.of(new Obstacle(cause, text));
    }

    /** Media that the kernel will find: seated, and of the kind their port takes. */
    private List<Bench.Attached> seen() {
        List<Bench.Attached> seen = new ArrayList<>();
        for (Bench.Attached medium : bench.attached()) {
            Optional<BoardProfile.Port> port = profile.port(medium.port());
            if (medium.seated()
                    && port.isPresent()
                    && port.get().buses().contains(medium.kind().bus())) {
                seen.add(medium);
            }
        }
        return seen;
    }

    /** A USB drive that would start if only the fuse were set is worth a cause of its own. */
    private void unsetFuse(DecodedOrder order) {
        profile.order().fuse().ifPresent(fuse -> {
            boolean waiting = bench.mediaOn(fuse.allows())
                    .anyMatch(medium -> startFiles(medium).isEmpty());
            if (waiting && !order.sources().contains(fuse.allows())) {
                trace.fails(
                        Trace.Stage.SOURCE,
                        portOf(fuse.allows()),
                        0,
                        Cause.FUSE_NOT_SET,
                        "A drive that could start is plugged in, but bit " + fuse.bit()
                                + " is not set, so it is never tried.");
            }
        });
    }

    private Trace nothingStarted(Trace.Outcome outcome) {
        if (trace.cause() == Cause.NONE) {
            trace.cause(Cause.NO_SOURCE_LEFT);
        }
        List<String> untried = bench.attached().stream()
                .filter(medium -> !trace.tried(medium.port()))
                .map(medium -> medium.name() + " on " + medium.port())
                .toList();
        String text = untried.isEmpty()
                ? "Nothing in the order " + bench.order() + " starts."
                : "Nothing in the order " + bench.order() + " reaches " + String.join(" or ", untried) + ".";
        trace.finding(Finding.stop("start-" + trace.cause().code(), text, Basis.computed("the attached drives"))
                .mendAt(Step.ORDER));
        return trace.end(outcome);
    }

    private String portOf(StartSource source) {
        return profile.ports().stream()
                .filter(port -> port.source() == source)
                .map(BoardProfile.Port::id)
                .findFirst()
                .orElse(null);
    }
}

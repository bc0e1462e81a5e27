// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.RecoverySet;
import exordium.core.layout.PartitionTable;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.KernelChoice;
import exordium.core.rehearsal.contents.MediumContents;
import java.time.LocalDate;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Goes through a start as the board would: power, firmware, each source in its order, start files, kernel line, kernel,
 * root, what the root mounts. Reads nothing and changes nothing; the same bench gives the same trace.
 */
public final class Rehearsal {
    private static final Basis DRIVES = Basis.computed("the attached drives");
    private final Bench bench;
    private final BoardProfile profile;
    private final TraceBuilder trace;
    /** Ports whose USB drives get no power. */
    private final Set<String> unpowered = new LinkedHashSet<>();

    private Rehearsal(Bench bench) {
        this.bench = bench;
        this.profile = bench.profile();
        this.trace = new TraceBuilder(profile.from());
    }

    public static Trace of(Bench bench) {
        return new Rehearsal(bench).run();
    }

    /** What the kernel will find, whatever is started: plugged in square, with power, of a kind that works there, and not switched off. */
    public static List<Bench.Attached> seen(Bench bench) {
        Rehearsal rehearsal = new Rehearsal(bench);
        return rehearsal.powerHolds() ? rehearsal.seenByKernel() : List.of();
    }

    private Trace run() {
        if (!powerHolds()) {
            return trace.end(Trace.Outcome.HALTED);
        }
        if (profile.firmware().inChip() && bench.firmware().equals(FirmwareChip.NONE)) {
            return recoveryCard().map(this::recovered).orElseGet(this::deadChip);
        }
        if (!firmwareIsThere()) {
            return trace.end(Trace.Outcome.HALTED);
        }
        DecodedOrder order = order();
        trace.works(
                Trace.Stage.FIRMWARE,
                null,
                profile.timing().powerOn(),
                "Firmware of " + FirmwareChip.said(bench.firmware()) + " reads the order " + order.value() + ": "
                        + String.join(
                                ", ",
                                order.sources().stream().map(StartSource::code).toList()) + ".");
        Optional<Bench.Attached> recovery = recoveryCard();
        if (recovery.isPresent()) {
            return recovered(recovery.get());
        }
        for (StartSource source : order.sources()) {
            if (source == StartSource.STOP) {
                trace.passesOn(Trace.Stage.SOURCE, null, 0, "The order says stop here; a blink pattern shows.");
                return nothingStarted(order, Trace.Outcome.HALTED, Cause.STOPPED_BY_ORDER);
            }
            if (source == StartSource.RESTART) {
                trace.passesOn(
                        Trace.Stage.SOURCE, null, 0, "Nothing started; the board begins again from the first source.");
                return nothingStarted(order, Trace.Outcome.LOOPING, Cause.NO_SOURCE_LEFT);
            }
            if (tries(source)) {
                return trace.built();
            }
        }
        return nothingStarted(order, Trace.Outcome.HALTED, Cause.NO_SOURCE_LEFT);
    }

    /** None stored, or one that cannot be read, is the family's usual one; the latter with a caution. */
    private DecodedOrder order() {
        OrderDialect dialect = OrderDialect.of(profile);
        if (bench.order().isBlank()) {
            return dialect.decode(profile.order().usual());
        }
        DecodedOrder stored = dialect.decode(bench.order());
        if (stored.readable()) {
            stored.findings().stream().filter(Finding::stops).forEach(each -> trace.finding(asCaution(each)));
            return stored;
        }
        stored.findings().stream()
                .filter(Finding::stops)
                .findFirst()
                .ifPresent(each -> trace.finding(each.asCaution(" The board takes its usual order, "
                                + profile.order().usual() + ".")
                        .mendAt(Step.ORDER)));
        return dialect.decode(profile.order().usual());
    }

    private static Finding asCaution(Finding finding) {
        return finding.asCaution("").mendAt(Step.ORDER);
    }

    private boolean powerHolds() {
        Optional<Set<String>> without = PowerAtStart.unpowered(bench, trace);
        without.ifPresent(unpowered::addAll);
        return without.isPresent();
    }

    /** What a write that was cut leaves of a chip with one slot. */
    private Trace deadChip() {
        String text =
                "The firmware chip holds nothing that is whole: a write to it was cut. The board does nothing at all.";
        trace.fails(Trace.Stage.FIRMWARE, null, profile.timing().powerOn(), Cause.FIRMWARE_MISSING, text);
        trace.finding(Finding.stop(
                        "start-firmware-missing",
                        text + " A recovery card in the slot writes it anew, settings included.",
                        Basis.practice())
                .mendAt(Step.FIRMWARE));
        return trace.end(Trace.Outcome.HALTED);
    }

    /** A family whose firmware lies on the card does nothing without it, whatever else is plugged in. */
    private boolean firmwareIsThere() {
        if (!profile.firmware().where().equals("card")
                || profile.firmware().files().isEmpty()) {
            return true;
        }
        List<String> files = profile.firmware().files().get();
        boolean there = bench.mediaOn(StartSource.CARD).filter(this::isSeen).anyMatch(card -> card.contents()
                .start()
                .filter(start -> files.stream().anyMatch(start::has))
                .isPresent());
        if (!there) {
            String text = "This family's firmware lies on the card, and "
                    + (bench.mediaOn(StartSource.CARD).findAny().isEmpty()
                            ? "there is no card in the slot."
                            : "the card in the slot has none of its files.");
            trace.fails(
                    Trace.Stage.FIRMWARE,
                    portOf(StartSource.CARD),
                    profile.timing().powerOn(),
                    Cause.FIRMWARE_MISSING,
                    text);
            trace.finding(Finding.stop(
                            "start-firmware-missing",
                            text + " Put in a card with it; the system may stand on another drive.",
                            DRIVES)
                    .mendAt(Step.IMAGE));
        }
        return there;
    }

    /** On families with a chip a card may have the chip written anew, before any order is looked at. */
    private Optional<Bench.Attached> recoveryCard() {
        if (!profile.firmware().inChip() || profile.firmware().recovery().isEmpty()) {
            return Optional.empty();
        }
        return bench.mediaOn(StartSource.CARD)
                .filter(this::isSeen)
                .filter(card -> card.contents()
                        .start()
                        .filter(start -> RecoverySet.writes(profile, start.names()))
                        .isPresent())
                .findFirst();
    }

    private Trace recovered(Bench.Attached card) {
        String text = card.name()
                + " is a recovery card: it writes the firmware chip anew. Steady blinking and a green screen"
                + " mean done; take the card out then.";
        trace.startedFrom(card.port());
        trace.fails(Trace.Stage.SOURCE, card.port(), profile.timing().tryMedium(), Cause.RECOVERY_WRITTEN, text);
        trace.finding(Finding.caution(
                        "recovery-written",
                        text + " The settings are the factory's afterwards: the order is "
                                + profile.order().usual() + ".",
                        Basis.practice())
                .mendAt(Step.ORDER));
        return trace.end(Trace.Outcome.HALTED);
    }

    /** True when this source ended the start, well or badly. */
    private boolean tries(StartSource source) {
        if (!source.holdsMedium()) {
            return switch (source) {
                case NETWORK -> new NetworkStart(bench, trace, seenByKernel()).tries();
                case NETWORK_INSTALL -> new NetworkStart(bench, trace, seenByKernel()).installs();
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
                if (medium.contents().startsByLoaderAlone(profile)) {
                    installs(medium);
                    return true;
                }
                new SystemStart(bench, trace, seenByKernel()).from(medium);
                return true;
            }
        }
        return false;
    }

    /** Everything the firmware itself checks; a failure here makes it go on to the next source. */
    private boolean firmwareStarts(StartSource source, Bench.Attached medium) {
        BoardProfile.Port port = profile.port(medium.port()).orElseThrow();
        Optional<KernelChoice.Fault> obstacle = visibility(source, port, medium).or(() -> startFiles(medium));
        double seconds = profile.timing().tryMedium();
        if (obstacle.isPresent()) {
            trace.passedOver(
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

    private Optional<KernelChoice.Fault> visibility(StartSource source, BoardProfile.Port port, Bench.Attached medium) {
        Optional<LocalDate> needed = profile.firmware().lacking(source, bench.firmware());
        if (needed.isPresent()) {
            return obstacle(
                    Cause.FIRMWARE_TOO_OLD,
                    "starting from " + source.code() + " needs firmware of " + needed.get() + " or later.");
        }
        if (medium.bus().isEmpty()) {
            return obstacle(
                    Cause.DRIVE_WRONG_KIND,
                    "its enclosure does not take " + medium.kind().bus() + " drives, though it fits.");
        }
        if (!port.buses().contains(medium.bus().get())) {
            return obstacle(
                    Cause.DRIVE_WRONG_KIND, "a " + medium.kind().bus() + " drive does not work here, though it fits.");
        }
        if (!medium.seated()) {
            return obstacle(
                    Cause.DRIVE_NOT_SEEN,
                    "not seen. Power off, then check that cable and drive sit square and the right way round.");
        }
        if (unpowered.contains(port.id())) {
            return obstacle(
                    Cause.SUPPLY_TOO_WEAK,
                    "not seen, because it wants more power than the ports may give with this supply.");
        }
        if (switchedOff(port)) {
            return obstacle(Cause.PCIE_OFF, "this port is switched off in the firmware's settings.");
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

    private boolean switchedOff(BoardProfile.Port port) {
        return port.off().orElse(List.of()).stream().anyMatch(setting -> {
            String key = setting.substring(0, setting.indexOf('='));
            // A key that may stand more than once, such as dtparam, is off by the line itself.
            return bench.config()
                    .value(key)
                    .filter(setting.substring(key.length() + 1)::equals)
                    .isPresent();
        });
    }

    private Optional<KernelChoice.Fault> startFiles(Bench.Attached medium) {
        MediumContents contents = medium.contents();
        if (contents.unreadable().isPresent()) {
            return obstacle(
                    Cause.NO_PARTITION_TABLE,
                    "it cannot be read where its table is ("
                            + contents.unreadable().get() + ").");
        }
        boolean none = contents.inspection().table().kind() == PartitionTable.TableKind.NONE;
        if (none && contents.start().isEmpty()) {
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
        return contents.startsByLoaderAlone(profile)
                ? Optional.empty()
                : KernelChoice.of(profile, start).fault();
    }

    /** What a loader does that is no part of a system here is its own affair; it was handed over to. */
    private Trace installs(Bench.Attached medium) {
        trace.works(
                Trace.Stage.START_FILES,
                medium.port(),
                profile.timing().tryMedium(),
                "Its loader starts, and there is no system on it: an installer's medium. With keyboard and monitor it goes on"
                        + " from there.");
        trace.finding(Finding.note(
                "installer-medium",
                medium.name()
                        + " is an installer's: it asks where to install to, and writes over that. Take it out when it is"
                        + " through.",
                DRIVES));
        return trace.end(Trace.Outcome.INSTALLING);
    }

    private static Optional<KernelChoice.Fault> obstacle(Cause cause, String text) {
        return Optional.of(new KernelChoice.Fault(cause, text));
    }

    private boolean isSeen(Bench.Attached medium) {
        Optional<BoardProfile.Port> port = profile.port(medium.port());
        return medium.seated()
                && !unpowered.contains(medium.port())
                && port.isPresent()
                && medium.bus().filter(port.get().buses()::contains).isPresent();
    }

    /** Media that the kernel will find: it needs no probing, but what is switched off stays off. */
    private List<Bench.Attached> seenByKernel() {
        return bench.attached().stream()
                .filter(this::isSeen)
                .filter(medium -> !switchedOff(profile.port(medium.port()).orElseThrow()))
                .toList();
    }

    /** A USB drive that would start if only the fuse were set. */
    private Optional<Bench.Attached> behindUnsetFuse(DecodedOrder order) {
        return profile.order()
                .fuse()
                .filter(fuse -> !order.sources().contains(fuse.allows()))
                .flatMap(fuse -> bench.mediaOn(fuse.allows())
                        .filter(this::isSeen)
                        .filter(medium -> startFiles(medium).isEmpty())
                        .findFirst());
    }

    private Trace nothingStarted(DecodedOrder order, Trace.Outcome outcome, Cause byOrder) {
        Optional<TraceBuilder.Fault> fault = trace.decisive();
        Optional<Bench.Attached> fused = behindUnsetFuse(order);
        if (fused.isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().orElseThrow();
            String text = fused.get().name() + " on " + fused.get().port() + " could start, but bit " + fuse.bit()
                    + " of the one-time memory is not set, so it is never tried.";
            trace.passesOn(Trace.Stage.SOURCE, fused.get().port(), 0, text);
            trace.finding(Finding.stop(
                            "start-fuse-not-set",
                            text + " Setting it can never be undone; a card in the slot needs no fuse.",
                            DRIVES)
                    .mendAt(Step.ORDER));
        }
        Cause cause = fault.map(TraceBuilder.Fault::cause).orElse(fused.isPresent() ? Cause.FUSE_NOT_SET : byOrder);
        trace.cause(cause);
        if (cause != Cause.FUSE_NOT_SET) {
            trace.finding(Finding.stop(
                            "start-" + cause.code(), NothingStarted.closing(bench, trace, order, fault, cause), DRIVES)
                    .mendAt(fault.map(each -> NothingStarted.mendAt(each.cause()))
                            .orElse(Step.ORDER)));
        }
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

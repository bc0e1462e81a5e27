// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.FamilyField;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Watts;
import exordium.core.rehearsal.contents.Cause;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;

/** What a supply gives at a start, and who gets it. */
final class PowerAtStart {
    private PowerAtStart() {}

    /**
     * The board and what is soldered or slotted in must have their power; USB drives get what the ports may give, socket by
     * socket, and those that want more are not seen. Gives the ports of these; empty where the board has not enough itself.
     */
    static Optional<Set<String>> unpowered(Bench bench, TraceBuilder trace) {
        BoardProfile profile = bench.profile();
        Set<String> unpowered = new LinkedHashSet<>();
        Watts must = profile.power().baseWatts();
        for (Bench.Attached medium : bench.attached()) {
            must = onUsb(profile, medium) ? must : must.plus(medium.watts());
        }
        Watts given = bench.supply().power();
        String sum = bench.supply().title() + " gives " + given.said() + "; the board with what must run draws up to "
                + must.said() + ".";
        String doubt = profile.from().doubt(FamilyField.POWER);
        if (given.compareTo(must) < 0 && !doubt.isEmpty()) {
            trace.works(Trace.Stage.POWER, null, 0, sum);
            trace.finding(Finding.caution("supply-too-weak", sum + doubt, Basis.computed("volts times amps"))
                    .mendAt(Step.STORAGE));
            return Optional.of(Set.of());
        }
        if (given.compareTo(must) < 0) {
            trace.fails(Trace.Stage.POWER, null, 0.5, Cause.SUPPLY_TOO_WEAK, sum);
            trace.finding(Finding.stop(
                            "supply-too-weak",
                            sum + " Use the supply it is made for, "
                                    + profile.power().supply().title() + ".",
                            Basis.computed("volts times amps"))
                    .mendAt(Step.STORAGE));
            return Optional.empty();
        }
        trace.works(Trace.Stage.POWER, null, 0, sum);
        Watts left = profile.power().usbAllowance(bench.supply());
        if (profile.power().heldBackBy(bench.supply())) {
            trace.finding(Finding.caution(
                            "usb-held-back",
                            bench.supply().title()
                                    + " does not tell the board its current: the board gives its USB ports "
                                    + left.said() + " in all, whatever the supply could, and says so on the screen.",
                            Basis.practice())
                    .mendAt(Step.STORAGE));
        }
        Watts spare = given.minus(must);
        left = spare.compareTo(left) < 0 ? spare : left;
        for (BoardProfile.Port port : profile.ports()) {
            for (Bench.Attached medium : bench.attached()) {
                if (!medium.port().equals(port.id()) || !onUsb(profile, medium)) {
                    continue;
                }
                if (medium.watts().compareTo(left) > 0 && doubt.isEmpty()) {
                    unpowered.add(port.id());
                    trace.finding(Finding.caution(
                                    "usb-power",
                                    medium.name() + " on " + port.id() + " draws up to "
                                            + medium.watts().said() + "; with this supply the USB ports have "
                                            + left.said() + " left for it, so it is not seen.",
                                    Basis.computed("what the ports may give"))
                            .mendAt(Step.STORAGE));
                } else if (medium.watts().compareTo(left) > 0) {
                    trace.finding(Finding.caution(
                                    "usb-power",
                                    medium.name() + " on " + port.id() + " draws up to "
                                            + medium.watts().said() + "; with this supply the USB ports may have only "
                                            + left.said() + " left for it." + doubt,
                                    Basis.computed("what the ports may give"))
                            .mendAt(Step.STORAGE));
                } else {
                    left = left.minus(medium.watts());
                }
            }
        }
        return Optional.of(unpowered);
    }

    private static boolean onUsb(BoardProfile profile, Bench.Attached medium) {
        return profile.port(medium.port())
                .filter(port -> port.source() == StartSource.USB || port.source() == StartSource.USB_DEVICE)
                .isPresent();
    }
}

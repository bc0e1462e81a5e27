// SPDX-License-Identifier: Apache-2.0
package exordium.cli.house;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.Common;
import exordium.cli.common.KnownOut;
import exordium.cli.common.PlugOut;
import exordium.core.access.BoardState;
import exordium.core.access.Knowledge;
import exordium.core.firmware.FirmwareChip;
import exordium.core.storage.media.Supply;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A board as it is printed, each fact with how it is known. */
record BoardOut(
        String board,
        String name,
        String place,
        String profile,
        String reach,
        String memory,
        SupplyOut supply,
        String serial,
        String mac,
        Optional<LocalDate> firmware,
        @JsonUnwrapped(prefix = "firmware") KnownOut firmwareKnown,
        Optional<LocalDate> stagedFirmware,
        String channel,
        String order,
        @JsonUnwrapped(prefix = "order") KnownOut orderKnown,
        Optional<String> stagedOrder,
        Optional<String> root,
        @JsonUnwrapped(prefix = "root") KnownOut rootKnown,
        Optional<String> started,
        @JsonUnwrapped(prefix = "started") KnownOut startedKnown,
        Optional<String> trouble,
        @JsonUnwrapped(prefix = "trouble") KnownOut troubleKnown,
        boolean overlay,
        Optional<BoardState.Carrier> carrier,
        boolean lightlyUsed,
        boolean slotReachable,
        String note,
        List<PlugOut> attached,
        List<Common.FindingOut> findings) {

    record SupplyOut(double volts, double amps, String via, double watts) {
        static SupplyOut of(Supply supply) {
            return new SupplyOut(
                    supply.volts(), supply.amps(), supply.via(), supply.power().value());
        }
    }

    static BoardOut of(Common.House house, Workbench.BoardAtHand at, List<Common.FindingOut> findings)
            throws IOException {
        return of(new PlugOut.Plugs(house), at, findings);
    }

    static BoardOut of(PlugOut.Plugs plugs, Workbench.BoardAtHand at, List<Common.FindingOut> findings)
            throws IOException {
        BoardState state = at.board();
        Knowledge known = state.known();
        return new BoardOut(
                at.register().id(),
                at.register().name(),
                at.register().place(),
                at.register().profile(),
                at.register().way().code(),
                state.memory(),
                SupplyOut.of(state.supply()),
                state.serial(),
                state.mac(),
                FirmwareChip.known(state.firmware()),
                KnownOut.of(known.firmware()),
                state.chip().staged(),
                at.register().channel().code(),
                at.order(),
                KnownOut.of(known.order()),
                at.stagedOrder(),
                known.root().map(Knowledge.Seen::what),
                KnownOut.seen(known.root()),
                known.started().map(Knowledge.Seen::what),
                KnownOut.seen(known.started()),
                known.trouble().map(Knowledge.Seen::what),
                KnownOut.seen(known.trouble()),
                state.overlay(),
                state.carrier(),
                at.register().lightlyUsed(),
                at.register().slotReachable(),
                at.register().note(),
                plugs.of(at),
                findings);
    }

    List<String> lines() {
        List<String> lines = new ArrayList<>();
        lines.add(board + "  " + name + ", " + place + ", " + profile + ", " + memory + ", " + reach);
        lines.add("  firmware " + firmware.map(LocalDate::toString).orElse("not known") + KnownOut.words(firmwareKnown)
                + stagedFirmware
                        .map(each -> ", " + each + " to be restarted into")
                        .orElse(""));
        lines.add("  order " + order + KnownOut.words(orderKnown)
                + stagedOrder.map(each -> ", " + each + " to be restarted into").orElse(""));
        started.ifPresent(port -> lines.add("  started from " + port + KnownOut.words(startedKnown)));
        root.ifPresent(device -> lines.add("  / on " + device + KnownOut.words(rootKnown)));
        trouble.ifPresent(what -> lines.add("  did not start: " + what + KnownOut.words(troubleKnown)));
        attached.forEach(plug -> lines.add("  " + plug.port() + "  " + plug.medium() + (plug.here() ? "" : ", away")
                + KnownOut.words(plug.contentsKnown())));
        findings.forEach(each -> lines.add(each.severity() + ": " + each.text()));
        return lines;
    }
}

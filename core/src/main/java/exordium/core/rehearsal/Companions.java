// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.contents.KernelChoice;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Settings that have to go with an order for it to do what it says, by the board and by what its drives sit in.
 *
 * @param config the firmware's settings with them; the order itself is not in it
 * @param in lines that come, and out: lines that go
 */
public record Companions(FirmwareConfig config, List<String> in, List<String> out, List<Finding> findings) {
    /** The generation such ports are rated for; common practice, no source. */
    private static final int RATED = 2;

    /** @param pcie the house rule: the generation the board is rated for, or the one above it */
    public static Companions of(Bench bench, List<StartSource> sources, int pcie) {
        BoardProfile profile = bench.profile();
        FirmwareConfig config = bench.config();
        List<String> in = new ArrayList<>();
        List<String> out = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        Basis board = Basis.computed("the board's profile");
        for (BoardProfile.Port port : profile.ports()) {
            if (!sources.contains(port.source())) {
                continue;
            }
            for (String off : port.off().orElse(List.of())) {
                if (config.lines().contains(off)) {
                    config = config.withoutLine(off);
                    out.add(off);
                    findings.add(Finding.caution(
                                    "companion-port-off",
                                    off + " switches the " + port.title()
                                            + " off, and the order asks for it: that line goes.",
                                    board)
                            .mendAt(Step.ORDER));
                }
            }
            Optional<Bench.Attached> medium = bench.attached().stream()
                    .filter(each -> each.port().equals(port.id()))
                    .findFirst();
            if (port.key().isPresent()
                    && medium.filter(Bench.Attached::silentCarrier).isPresent()) {
                String line = port.key().get() + "=1";
                if (!config.value(port.key().get()).orElse("").equals("1")) {
                    config = config.with(port.key().get(), "1");
                    in.add(line);
                    findings.add(Finding.caution(
                                    "companion-probing",
                                    "The carrier on " + port.id() + " does not announce itself: " + line
                                            + " has the firmware look for the drive.",
                                    board)
                            .mendAt(Step.ORDER));
                }
            }
            medium.filter(each -> each.contents().start().isPresent())
                    .flatMap(each -> KernelChoice.of(
                                    profile, each.contents().start().orElseThrow())
                            .fault()
                            .map(fault -> Finding.caution(
                                            "companion-start-files",
                                            each.name() + " on " + port.id() + ": " + fault.text(),
                                            Basis.computed("the attached drives"))
                                    .mendAt(Step.IMAGE)))
                    .ifPresent(findings::add);
            if (port.speed().isPresent()) {
                String key = port.speed().get();
                Optional<String> before = config.value(key);
                boolean faster = pcie > RATED;
                String line = key + "=" + pcie;
                if (faster && !before.orElse("").equals(Integer.toString(pcie))) {
                    config = config.with(key, Integer.toString(pcie));
                    in.add(line);
                } else if (!faster && before.isPresent() && !before.get().equals(Integer.toString(RATED))) {
                    config = config.withoutLine(key + "=" + before.get());
                    out.add(key + "=" + before.get());
                }
                findings.add(speed(port, faster, line, before.filter(each -> !each.equals(Integer.toString(RATED)))));
            }
        }
        return new Companions(config, List.copyOf(in), List.copyOf(out), Finding.worstFirst(findings));
    }

    private static Finding speed(BoardProfile.Port port, boolean faster, String line, Optional<String> before) {
        Basis house = Basis.houseRule("PCIe");
        if (faster) {
            return Finding.caution(
                            "companion-speed",
                            "The house takes PCIe 3.0: " + line + " drives " + port.id()
                                    + " beyond what it is rated for;"
                                    + " go back to 2.0 first when its drive is not seen or its start is not steady.",
                            house)
                    .mendAt(Step.ORDER);
        }
        return before.isPresent()
                ? Finding.caution(
                                "companion-speed",
                                "The house takes PCIe 2.0, what " + port.id() + " is rated for, and it is set to "
                                        + before.get() + ".0: that line goes.",
                                house)
                        .mendAt(Step.ORDER)
                : Finding.note("companion-speed", "PCIe 2.0, what this port is rated for: nothing to set.", house);
    }

    public boolean changes() {
        return !in.isEmpty() || !out.isEmpty();
    }
}

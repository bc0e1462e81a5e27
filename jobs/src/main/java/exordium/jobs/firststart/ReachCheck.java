// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Reach;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** Whether a board is reached after its first start: of one of the register as it stands, or of any medium in a usual board. */
public final class ReachCheck {
    /** A straight cable hands out no addresses. */
    private static final Bench.Network CABLE = new Bench.Network(true, false, false, Optional.empty(), List.of());

    private final Workbench workbench;

    private final BenchReader benches;

    public ReachCheck(Workbench workbench) {
        this(workbench, new BenchReader(workbench));
    }

    /** Where benches: has read most of it already. */
    public ReachCheck(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** Of a board with what is plugged into it; empty where nothing is known of its medium. */
    public Optional<Reach> of(Workbench.BoardAtHand at) throws IOException {
        Optional<FirstStartFiles> found = benches.mainFiles(at);
        Optional<MediumContents> contents = benches.mainContents(at);
        if (found.isEmpty() || contents.isEmpty() || contents.get().start().isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(
                reach(found.get(), contents.get(), benches.of(at), at.board().mac()));
    }

    /** Of a medium in the first port of a board of a family that it goes into. */
    public Reach of(Targets.Target target, BoardProfile profile, String mac) throws IOException {
        try (BlockDevice device = target.opener().open(false)) {
            MediumContents contents = ContentsReader.read(device, profile.startFiles());
            FirstStartFiles found = FilesOnMedium.read(device, contents, profile.startFiles());
            BoardProfile.Port port = profile.ports().stream()
                    .filter(each -> each.source().holdsMedium())
                    .findFirst()
                    .orElseThrow();
            Bench bench = new Bench(
                    profile,
                    "",
                    mac,
                    LocalDate.MAX,
                    FirmwareConfig.EMPTY,
                    profile.order().usual(),
                    profile.power().supply(),
                    List.of(new Bench.Attached(
                            port.id(), device.name(), workbench.kind("card"), false, true, contents)),
                    Bench.Network.USUAL);
            return reach(found, contents, bench, mac);
        }
    }

    private static Reach reach(FirstStartFiles found, MediumContents contents, Bench bench, String mac) {
        Reach usual = Reach.of(found, contents, bench.profile(), mac, Rehearsal.of(bench));
        boolean straight =
                usual.address().filter(each -> each.startsWith("169.254.")).isPresent();
        return straight
                ? Reach.of(found, contents, bench.profile(), mac, Rehearsal.of(bench.withNetwork(CABLE)))
                : usual;
    }
}

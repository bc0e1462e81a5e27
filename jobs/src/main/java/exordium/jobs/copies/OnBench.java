// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies;

import exordium.core.block.BlockDevice;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.ContentsReader;
import exordium.core.rehearsal.MediumContents;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.store.Media;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A board with another drive in the place of the one it starts from: whether that starts as well. */
final class OnBench {
    private final Workbench workbench;
    private final BenchReader benches;

    OnBench(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** The original is out. */
    Trace instead(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        Bench bench = benches.of(at);
        MediumContents contents = contents(at, drive);
        String port = mainPort(at);
        return Rehearsal.of(bench.withAttached(bench.attached().stream()
                .map(each -> each.port().equals(port) ? with(each, drive, contents) : each)
                .toList()));
    }

    /** Both stay in, the other on a port that is free; empty where there is none. */
    Optional<Trace> beside(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        Bench bench = benches.of(at);
        MediumContents contents = contents(at, drive);
        String main = mainPort(at);
        Bench.Attached original = bench.attached().stream()
                .filter(each -> each.port().equals(main))
                .findFirst()
                .orElseThrow();
        return at.profile().ports().stream()
                .filter(port -> port.source().holdsMedium()
                        && bench.attached().stream()
                                .noneMatch(each -> each.port().equals(port.id())))
                .filter(port -> !port.buses().isEmpty())
                .findFirst()
                .map(port -> {
                    List<Bench.Attached> both = new ArrayList<>(bench.attached());
                    both.add(new Bench.Attached(
                            port.id(),
                            drive.description().id(),
                            workbench.kinds().stream()
                                    .filter(kind -> port.buses().contains(kind.bus()))
                                    .findFirst()
                                    .orElse(original.kind()),
                            false,
                            true,
                            contents));
                    return Rehearsal.of(bench.withAttached(both));
                });
    }

    private String mainPort(Workbench.BoardAtHand at) {
        Optional<Media.Medium> main = workbench.mainMedium(at);
        return at.board().attached().stream()
                .filter(plug -> main.filter(medium -> medium.file().equals(plug.drive()))
                        .isPresent())
                .findFirst()
                .orElseThrow()
                .port();
    }

    private static Bench.Attached with(Bench.Attached place, Targets.Target drive, MediumContents contents) {
        return new Bench.Attached(
                place.port(),
                drive.description().id(),
                place.kind(),
                place.silentCarrier(),
                place.seated(),
                contents,
                place.enclosure());
    }

    private static MediumContents contents(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        try (BlockDevice device = drive.opener().open(false)) {
            return ContentsReader.read(device, at.profile().startFiles());
        }
    }
}

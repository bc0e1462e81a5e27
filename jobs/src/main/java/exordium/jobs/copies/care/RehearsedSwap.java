// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.block.MachineDrive;
import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.UnreadableInput;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Companions;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A board with another drive in it than the one it starts from, where that drive can be plugged in: whether it starts as well. */
final class RehearsedSwap {
    private final Workbench workbench;
    private final BenchReader benches;

    RehearsedSwap(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** Where a drive goes; enclosure: what it is put into to fit there. */
    private record Place(BoardProfile.Port port, MediumKind kind, Optional<Enclosure> enclosure) {}

    /**
     * How the board starts with the original out.
     *
     * @param port where the drive is then
     * @param order the value of the start order under which it starts from there, where it does not under the one it has
     */
    record Instead(BoardProfile.Port port, Trace trace, Optional<String> order) {}

    /** The original is out; empty where the board has no place for the drive. */
    Optional<Instead> instead(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        Bench bench = benches.of(at);
        String main = mainPort(at);
        Optional<Place> place = place(at, drive, main, bench, true);
        if (place.isEmpty()) {
            return Optional.empty();
        }
        List<Bench.Attached> attached = new ArrayList<>(bench.attached());
        attached.removeIf(each -> each.port().equals(main)
                || each.port().equals(place.get().port().id()));
        attached.add(attached(at, drive, place.get()));
        Bench with = bench.withAttached(attached);
        Trace trace = Rehearsal.of(with);
        Optional<String> order = trace.runs() && startsFrom(trace, place.get())
                ? Optional.empty()
                : orderFor(with, place.get(), workbench.rules().pcie());
        return Optional.of(new Instead(place.get().port(), trace, order));
    }

    private static boolean startsFrom(Trace trace, Place place) {
        return trace.startedFrom().filter(place.port().id()::equals).isPresent();
    }

    /** The order with this drive's kind of source in the first place, else in the second, under which it starts from it. */
    private static Optional<String> orderFor(Bench bench, Place place, int pcie) {
        OrderDialect dialect = OrderDialect.of(bench.profile());
        List<StartSource> had = dialect.decode(bench.order()).sources();
        StartSource wanted = place.port().source();
        for (int at = 0; at < Math.min(2, had.size() + 1); at++) {
            List<StartSource> sources = new ArrayList<>(had);
            sources.removeIf(wanted::equals);
            sources.add(Math.min(at, sources.size()), wanted);
            try {
                String value = dialect.encode(sources);
                Trace trace = Rehearsal.of(
                        bench.withConfig(Companions.of(bench, sources, pcie).config())
                                .withOrder(value));
                if (trace.runs() && startsFrom(trace, place) && !value.equals(bench.order())) {
                    return Optional.of(value);
                }
            } catch (UnreadableInput | IllegalArgumentException e) {
                // This family cannot write such an order down.
                return Optional.empty();
            }
        }
        return Optional.empty();
    }

    /** Both stay in, the other on a port that is free; empty where there is none. */
    Optional<Trace> beside(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        Bench bench = benches.of(at);
        Optional<Place> place = place(at, drive, mainPort(at), bench, false);
        if (place.isEmpty()) {
            return Optional.empty();
        }
        List<Bench.Attached> both = new ArrayList<>(bench.attached());
        both.add(attached(at, drive, place.get()));
        return Optional.of(Rehearsal.of(bench.withAttached(both)));
    }

    /** The port of the original where that is left and takes it, else the first free one that does. */
    private Optional<Place> place(
            Workbench.BoardAtHand at, Targets.Target drive, String main, Bench bench, boolean left) throws IOException {
        Bench.Attached original = bench.attached().stream()
                .filter(each -> each.port().equals(main))
                .findFirst()
                .orElseThrow();
        Optional<MediumKind> known = kind(drive);
        List<BoardProfile.Port> ports = new ArrayList<>();
        at.profile().port(main).filter(port -> left).ifPresent(ports::add);
        at.profile().ports().stream()
                .filter(port -> port.source().holdsMedium()
                        && bench.attached().stream()
                                .noneMatch(each -> each.port().equals(port.id())))
                .forEach(ports::add);
        for (BoardProfile.Port port : ports) {
            // Of a plain file nobody knows what it will be written to; then it is as the original.
            MediumKind kind = known.orElse(original.kind());
            if (port.buses().contains(kind.bus())) {
                return Optional.of(new Place(port, kind, Optional.empty()));
            }
        }
        for (BoardProfile.Port port : ports) {
            Optional<Enclosure> box = known.flatMap(kind -> workbench.media().enclosures().stream()
                    .filter(each -> each.leads(kind, port.buses()))
                    .findFirst());
            if (box.isPresent()) {
                return Optional.of(new Place(port, known.get(), box));
            }
        }
        return Optional.empty();
    }

    private Optional<MediumKind> kind(Targets.Target drive) throws IOException {
        Optional<Media.Medium> medium = workbench.registered(drive);
        if (medium.isPresent()) {
            return Optional.of(workbench.kind(medium.get().kind()));
        }
        Path path = drive.description().path();
        Optional<String> bus =
                drive.opener().ofMachine().map(MachineDrive::bus).map(name -> name.equals("mmc") ? "sd" : name);
        if (bus.isEmpty() && VirtualDrive.isOne(path)) {
            bus = Optional.of(VirtualDrive.describe(workbench.reader(), path).bus());
        }
        return bus.flatMap(name -> workbench.kinds().stream()
                .filter(kind -> kind.bus().equals(name))
                .findFirst());
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

    private static Bench.Attached attached(Workbench.BoardAtHand at, Targets.Target drive, Place place)
            throws IOException {
        boolean silent = place.port().source() == StartSource.NVME
                && at.board().carrier().filter(carrier -> !carrier.announcing()).isPresent();
        return new Bench.Attached(
                place.port().id(),
                drive.description().id(),
                place.kind(),
                silent,
                true,
                contents(at, drive),
                place.enclosure());
    }

    private static MediumContents contents(Workbench.BoardAtHand at, Targets.Target drive) throws IOException {
        try (BlockDevice device = drive.opener().open(false)) {
            return ContentsReader.read(device, at.profile().startFiles());
        }
    }
}

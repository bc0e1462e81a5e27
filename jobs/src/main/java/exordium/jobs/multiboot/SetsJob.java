// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.multiboot;

import exordium.core.access.Ability;
import exordium.core.access.BoardState;
import exordium.core.access.HandSteps;
import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.board.BoardProfile;
import exordium.core.bootorder.OrderDialect;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.multiboot.StartSets;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.BoardDeed;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Start sets of a board: kept in a file, proven by rehearsal, chosen in one staged change. */
public final class SetsJob {
    private static final JobRunner.DeedKind USE =
            JobRunner.DeedKind.reading("start-set", Step.ORDER, "staging a start set for");

    private static final JobRunner.DeedKind KEEP =
            JobRunner.DeedKind.reading("start-set-kept", Step.ORDER, "keeping the start sets of");

    private final Workbench workbench;
    private final BenchReader benches;

    public SetsJob(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    private Path file(String board) {
        return workbench.workspace().folder().resolve("sets").resolve(board + ".yaml");
    }

    public StartSets of(String board) throws IOException {
        Path file = file(board);
        return Files.exists(file) ? workbench.reader().user(file, StartSets.SCHEMA, StartSets.class) : StartSets.NONE;
    }

    private interface Change {
        StartSets of(StartSets sets) throws IOException;
    }

    /** Changes a board's sets by a function of those there are. */
    private void change(String board, Change change) throws IOException {
        Path file = file(board);
        Files.createDirectories(file.getParent());
        FolderLock.holding(file.getParent(), () -> {
            byte[] text =
                    workbench.reader().writeForPeople(change.of(of(board))).getBytes(StandardCharsets.UTF_8);
            // What is put down can be read again, or is not put down.
            workbench.reader().user("the start set", text, StartSets.SCHEMA, StartSets.class);
            Durable.replace(file, text);
            return file;
        });
    }

    /**
     * A set with what a rehearsal says of it.
     *
     * @param atTheBoard what is to be plugged, taken out or held for it
     * @param chosen whether the board is as it wants it now, or will be at the next restart
     */
    public record Proven(
            StartSets.StartSet set, Trace trace, List<String> atTheBoard, boolean chosen, List<Finding> findings) {
        public Pennant pennant() {
            if (!trace.runs() || Finding.anyStops(findings)) {
                return Pennant.FAILING;
            }
            return chosen ? Pennant.PROVEN : Pennant.SET;
        }
    }

    public List<Proven> proven(Workbench.BoardAtHand at) throws IOException {
        List<Proven> all = new ArrayList<>();
        for (StartSets.StartSet set : of(at.register().id()).sets()) {
            all.add(proven(at, set));
        }
        return all;
    }

    public Proven proven(Workbench.BoardAtHand at, StartSets.StartSet set) throws IOException {
        Bench bench = benches.of(at);
        FirmwareConfig config = set.in(bench.config(), at.profile());
        List<Bench.Attached> attached = new ArrayList<>(bench.attached());
        attached.removeIf(
                each -> set.unplug().contains(each.port()) || set.plug().containsKey(each.port()));
        List<Finding> findings = new ArrayList<>();
        for (Map.Entry<String, String> plug : set.plug().entrySet()) {
            Optional<Media.Medium> medium = medium(plug.getValue());
            if (medium.isEmpty()) {
                findings.add(Finding.stop(
                        "set-medium-gone",
                        plug.getValue() + ", which " + set.said() + " wants, is not among the media.",
                        Basis.computed("the register")));
                continue;
            }
            attached.removeIf(each -> each.name().equals(medium.get().name()));
            boolean silent = at.board().attached().stream()
                    .filter(each -> each.port().equals(plug.getKey()))
                    .anyMatch(BoardState.Plug::silent);
            attached.add(new Bench.Attached(
                    plug.getKey(),
                    medium.get().name(),
                    workbench.kind(medium.get().kind()),
                    silent,
                    true,
                    benches.contents(medium.get(), at.profile())));
            elsewhere(at, set, medium.get()).ifPresent(findings::add);
        }
        String order = set.order().orElse(bench.order());
        findings.addAll(OrderDialect.judge(at.profile(), order, at.board().firmware()));
        Bench with = bench.withAttached(attached).withConfig(config).withOrder(order);
        Trace trace = Rehearsal.of(set.holdsButton() ? with.withButtonHeld() : with);
        return new Proven(set, trace, atTheBoard(at, set), chosen(at, set), Finding.worstFirst(findings));
    }

    /** A medium of a set that is in service at another board has to be fetched from there. */
    private Optional<Finding> elsewhere(Workbench.BoardAtHand at, StartSets.StartSet set, Media.Medium medium)
            throws IOException {
        return workbench
                .holder(medium.file())
                .filter(holder -> !holder.register().id().equals(at.register().id()))
                .map(holder -> Finding.caution(
                        "set-medium-elsewhere",
                        medium.name() + ", which " + set.said() + " wants, is in "
                                + holder.register().name() + " now.",
                        Basis.computed("the register")));
    }

    private List<String> atTheBoard(Workbench.BoardAtHand at, StartSets.StartSet set) throws IOException {
        List<String> steps = new ArrayList<>();
        List<BoardState.Plug> plugs = at.board().attached();
        for (BoardState.Plug plug : plugs) {
            if (set.unplug().contains(plug.port())) {
                steps.add("Power off, then take what is in " + title(at.profile(), plug.port()) + " out.");
            }
        }
        for (Map.Entry<String, String> each : set.plug().entrySet()) {
            Optional<Media.Medium> medium = medium(each.getValue());
            boolean there = medium.isPresent()
                    && plugs.stream()
                            .anyMatch(plug -> plug.port().equals(each.getKey())
                                    && plug.drive().equals(medium.get().file()));
            if (!there) {
                steps.add(
                        "Power off, then put " + medium.map(Media.Medium::name).orElse(each.getValue()) + " into "
                                + title(at.profile(), each.getKey()) + ".");
            }
        }
        if (set.holdsButton()) {
            steps.add("Hold its button while power comes on.");
        }
        return steps;
    }

    private Optional<Media.Medium> medium(String name) {
        try {
            return Optional.of(workbench.workspace().media().require(name));
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** The media that go into each port of a family. */
    public Map<String, List<Media.Medium>> media(BoardProfile profile) throws IOException {
        Map<String, List<Media.Medium>> byPort = new LinkedHashMap<>();
        List<Media.Medium> all = workbench.workspace().media().all();
        for (BoardProfile.Port port : profile.ports()) {
            if (port.source().holdsMedium()) {
                List<Media.Medium> fitting = new ArrayList<>();
                for (Media.Medium medium : all) {
                    if (port.buses().contains(workbench.kind(medium.kind()).bus())) {
                        fitting.add(medium);
                    }
                }
                byPort.put(port.id(), fitting);
            }
        }
        return byPort;
    }

    private static String title(BoardProfile profile, String port) {
        return profile.port(port).map(BoardProfile.Port::title).orElse(port);
    }

    private boolean chosen(Workbench.BoardAtHand at, StartSets.StartSet set) throws IOException {
        FirmwareConfig now = at.board().chip().nextConfig();
        boolean order = set.order().isEmpty()
                || set.order()
                        .get()
                        .equals(now.value(at.profile().order().key()).orElse(at.order()));
        return order
                && set.in(now, at.profile()).lines().equals(now.lines())
                && atTheBoard(at, set).isEmpty();
    }

    /** Puts a set down, new or in the place of that of its name. @throws Refused when its order cannot be used */
    public Proven keep(Workbench.BoardAtHand at, StartSets.StartSet set) throws IOException {
        for (String port : set.plug().keySet()) {
            requirePort(at.profile(), port);
        }
        for (String port : set.unplug()) {
            requirePort(at.profile(), port);
        }
        if (at.profile().order().fuse().isPresent() && set.order().isPresent()) {
            throw new BadArgument(
                    "A " + at.profile().id()
                            + " keeps its order in one-time memory; its sets can only differ in what is plugged in.",
                    set.order().get());
        }
        if (set.holdsButton() && !at.profile().hasButton()) {
            throw new BadArgument("A " + at.profile().id() + " has no button that counts at a start.", set.name());
        }
        return new BoardDeed(workbench, at).run(KEEP, now -> {
            Proven proven = proven(now.at(), set);
            Refused.ifAnyStops(proven.findings());
            change(now.at().register().id(), sets -> sets.with(set));
            return now.outcome(proven, "", "");
        });
    }

    private static void requirePort(BoardProfile profile, String port) throws BadArgument {
        if (profile.port(port).filter(each -> each.source().holdsMedium()).isEmpty()) {
            throw new BadArgument(
                    "A " + profile.id() + " has no port \"" + port + "\" that holds a medium; there are "
                            + String.join(
                                    ", ",
                                    profile.ports().stream()
                                            .filter(each -> each.source().holdsMedium())
                                            .map(BoardProfile.Port::id)
                                            .toList())
                            + ".",
                    port);
        }
    }

    public void remove(Workbench.BoardAtHand at, String name) throws IOException {
        new BoardDeed(workbench, at).run(KEEP, now -> {
            String board = now.at().register().id();
            of(board).require(name);
            change(board, sets -> sets.without(name));
            return now.outcome(null, "", "");
        });
    }

    /** What was staged, and what is left to do. */
    public record Used(Proven proven, BoardState state, List<String> steps) {}

    /**
     * Stages a set in one change: its order with all settings that go with it.
     *
     * @param once whether the board goes back to what it had at the restart after the next
     * @throws Refused when its order cannot be used
     */
    public Used use(Workbench.BoardAtHand at, String name, boolean once) throws IOException {
        return new BoardDeed(workbench, at).run(USE, now -> {
            now.requireSettingsAsIn(at);
            String board = now.at().register().id();
            StartSets sets = of(board);
            Proven proven = proven(now.at(), sets.require(name));
            Refused.ifAnyStops(proven.findings());
            FirmwareChip chip = now.at().board().chip();
            FirmwareConfig before = sets.fallback()
                    .map(each -> new FirmwareConfig(each.config()))
                    .orElse(chip.config());
            Optional<StartSets.Fallback> fallback =
                    once ? Optional.of(new StartSets.Fallback(name, before.text())) : Optional.empty();
            // First what to go back to: killed in between, nothing was staged yet.
            change(board, each -> each.with(fallback));
            BoardState state = now.deeds()
                    .stage(proven.set().in(chip.nextConfig(), now.at().profile()));
            return now.outcome(
                    new Used(proven, state, steps(now.at(), proven, state, once)),
                    "set-staged",
                    proven.set().said() + " staged" + (once ? " for one start" : "")
                            + "; it takes effect at the next restart.");
        });
    }

    private static List<String> steps(Workbench.BoardAtHand at, Proven proven, BoardState state, boolean once) {
        List<String> steps = new ArrayList<>(proven.atTheBoard());
        List<String> byHand = HandSteps.restart(at.register().way(), at.profile(), state.chip());
        steps.addAll(
                byHand.isEmpty() ? List.of("Restart it; do not switch it off, or what is staged is lost.") : byHand);
        if (once) {
            steps.add("At the restart after that it goes back to what it had"
                    + (at.register().can(Ability.STAGE) ? "." : ": \"sets use\" with --back says what to set."));
        }
        return steps;
    }

    /** Goes back from a set that is tried. @throws BadArgument when none is */
    public BoardState back(Workbench.BoardAtHand at) throws IOException {
        return new BoardDeed(workbench, at).run(USE, now -> {
            now.requireSettingsAsIn(at);
            String board = now.at().register().id();
            StartSets.Fallback fallback = of(board)
                    .fallback()
                    .orElseThrow(() -> new BadArgument(
                            "No start set is being tried on "
                                    + now.at().register().name() + ".",
                            board));
            BoardState state = now.deeds().stage(new FirmwareConfig(fallback.config()));
            change(board, sets -> sets.with(Optional.empty()));
            return now.outcome(
                    state,
                    "set-staged",
                    "Back from " + fallback.set()
                            + ": what was set before is staged; it takes effect at the next restart.");
        });
    }

    /** After a restart into a set that is tried once, what was before is staged for the next one. */
    public void restarted(Workbench.BoardAtHand at) throws IOException {
        String board = at.register().id();
        StartSets sets = of(board);
        if (sets.fallback().isPresent()) {
            back(at);
        }
    }
}

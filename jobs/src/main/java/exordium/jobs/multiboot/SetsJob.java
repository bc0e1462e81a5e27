// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.multiboot;

import exordium.core.access.BoardState;
import exordium.core.access.HandSteps;
import exordium.core.board.BoardProfile;
import exordium.core.bootorder.OrderDialect;
import exordium.core.daysheet.Pennant;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.multiboot.StartSets;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.OnBoard;
import exordium.store.Media;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Start sets of a board: kept in a file, proven by rehearsal, chosen in one staged change. */
public final class SetsJob {
    private static final JobRunner.Kind USE =
            JobRunner.Kind.reading("start-set", Step.ORDER, "staging a start set for");

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

    private void put(String board, StartSets sets) throws IOException {
        byte[] text = workbench.reader().writeForPeople(sets).getBytes(StandardCharsets.UTF_8);
        // What is put down can be read again, or is not put down.
        workbench.reader().user("the start set", text, StartSets.SCHEMA, StartSets.class);
        Path file = file(board);
        Files.createDirectories(file.getParent());
        Path working = file.resolveSibling(file.getFileName() + ".new");
        Files.write(working, text);
        Files.move(working, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
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
        Proven proven = proven(at, set);
        Refused.ifAnyStops(proven.findings());
        put(at.register().id(), of(at.register().id()).with(set));
        return proven;
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

    public void remove(String board, String name) throws IOException {
        StartSets sets = of(board);
        sets.require(name);
        put(board, sets.without(name));
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
        String board = at.register().id();
        StartSets sets = of(board);
        Proven proven = proven(at, sets.require(name));
        Refused.ifAnyStops(proven.findings());
        FirmwareConfig before = sets.fallback()
                .map(each -> new FirmwareConfig(each.config()))
                .orElse(at.board().chip().config());
        FirmwareConfig wanted = proven.set().in(at.board().chip().nextConfig(), at.profile());
        // First what to go back to: killed in between, nothing was staged yet.
        put(board, sets.with(once ? Optional.of(new StartSets.Fallback(name, before.text())) : Optional.empty()));
        BoardState state = stage(
                at,
                wanted,
                proven.set().said() + " staged" + (once ? " for one start" : "")
                        + "; it takes effect at the next restart.");
        return new Used(proven, state, steps(at, proven, state, once));
    }

    private BoardState stage(Workbench.BoardAtHand at, FirmwareConfig config, String words) throws IOException {
        OnBoard board = new OnBoard(workbench, at);
        return board.run(USE, now -> {
            now.requireSettingsAsIn(at);
            return now.outcome(now.access().stage(config), "set-staged", words);
        });
    }

    private static List<String> steps(Workbench.BoardAtHand at, Proven proven, BoardState state, boolean once) {
        List<String> steps = new ArrayList<>(proven.atTheBoard());
        if (at.register().byHand()) {
            steps.addAll(HandSteps.restart(at.profile(), state.chip()));
        } else {
            steps.add("Restart it; do not switch it off, or what is staged is lost.");
        }
        if (once) {
            steps.add("At the restart after that it goes back to what it had"
                    + (at.register().byHand() ? ": \"sets use\" with --back says what to set." : "."));
        }
        return steps;
    }

    /** Goes back from a set that is tried. @throws BadArgument when none is */
    public BoardState back(Workbench.BoardAtHand at) throws IOException {
        String board = at.register().id();
        StartSets sets = of(board);
        StartSets.Fallback fallback = sets.fallback()
                .orElseThrow(() -> new BadArgument(
                        "No start set is being tried on " + at.register().name() + ".", board));
        BoardState state = stage(
                at,
                new FirmwareConfig(fallback.config()),
                "Back from " + fallback.set()
                        + ": what was set before is staged; it takes effect at the next restart.");
        put(board, sets.with(Optional.empty()));
        return state;
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

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.network.BoardAsk;
import exordium.core.network.ClientFiles;
import exordium.core.network.NetworkPlan;
import exordium.core.network.PlanCheck;
import exordium.core.network.ServerLog;
import exordium.core.network.StartTimes;
import exordium.core.profile.InputFile;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.jobs.bench.KitNetwork;
import exordium.jobs.bench.Workbench;
import exordium.sim.network.NetworkFault;
import exordium.sim.network.SimulatedNetwork;
import exordium.sim.network.SimulatedStarts;
import exordium.store.Boards;
import exordium.store.Images;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What is asked of a plan or a kit, by the window and by commands. */
public final class NetworkJob {
    private static final long LARGEST_LOG = 64L << 20;

    private final Workbench workbench;
    private final NetworkKit kit;

    public NetworkJob(Workbench workbench, NetworkKit kit) {
        this.workbench = workbench;
        this.kit = kit;
    }

    /**
     * One board as it is planned.
     *
     * @param folder of its start files, below the server's
     * @param root on the server
     * @param alone seconds until it is up; together: with all others at once
     */
    public record Row(
            NetworkPlan.Client client,
            String folder,
            String root,
            ByteSize rootSize,
            double alone,
            double together,
            String kernelLine) {}

    /**
     * A plan with all that is worked out of it.
     *
     * @param lastTogether seconds until the last is up when all start at once; simulated: the same request by request
     * @param apart seconds between two starts at which none waits for the server, and lastApart until the last is up then
     */
    public record Planned(
            NetworkPlan plan,
            List<Row> rows,
            PlanCheck.Space space,
            double lastTogether,
            double simulated,
            double apart,
            double lastApart,
            List<Finding> findings) {}

    public Planned planned(NetworkPlan plan) throws IOException {
        NetworkFacts facts = new NetworkFacts(workbench);
        List<Finding> findings = facts.findings(plan);
        List<Row> rows = new ArrayList<>();
        List<StartTimes> times = new ArrayList<>();
        int boards = plan.clients().size();
        double last = 0;
        for (NetworkPlan.Client client : plan.clients()) {
            if (workbench.profiles().find(client.profile()).isEmpty()) {
                continue;
            }
            BoardProfile profile = workbench.profiles().require(client.profile());
            StartTimes each = facts.times(plan, client);
            times.add(each);
            last = Math.max(last, each.together(boards));
            rows.add(new Row(
                    client,
                    ClientFiles.folder(client, profile),
                    plan.server().at(ClientFiles.rootFolder(client)),
                    facts.rootSize(plan, client),
                    each.alone(),
                    each.together(boards),
                    facts.files(plan.server(), client).kernelLine()));
        }
        double apart = times.stream().mapToDouble(StartTimes::busy).max().orElse(0);
        double longest = times.stream().mapToDouble(StartTimes::alone).max().orElse(0);
        return new Planned(
                plan,
                rows,
                facts.space(plan),
                last,
                SimulatedStarts.of(times, 0).stream()
                        .mapToDouble(Double::doubleValue)
                        .max()
                        .orElse(0),
                apart,
                times.isEmpty() ? 0 : (times.size() - 1) * apart + longest,
                findings);
    }

    /** What a plan can be made of: boards that can start over the network, images of the shelf, and the plan there is. */
    public record Offer(List<Boards.Board> boards, List<Images.Image> images, Optional<NetworkPlan> plan) {}

    public Offer offer() throws IOException {
        List<Boards.Board> able = new ArrayList<>();
        for (Boards.Board each : workbench.workspace().boards().all()) {
            if (BoardAsk.possible(workbench.board(each.id()).profile())) {
                able.add(each);
            }
        }
        return new Offer(
                able,
                workbench.workspace().imageShelf().all(),
                kit.exists() ? Optional.of(kit.plan()) : Optional.empty());
    }

    /** A plan that came from elsewhere than a file, held against the same rules. @throws UnreadableInput naming what is wrong */
    public NetworkPlan checked(NetworkPlan plan) throws IOException {
        return workbench
                .reader()
                .user(
                        "The plan",
                        workbench.reader().writeForPeople(plan).getBytes(StandardCharsets.UTF_8),
                        NetworkPlan.SCHEMA,
                        NetworkPlan.class)
                .settled();
    }

    /** A board of the register as it would be in a plan. @throws UnreadableInput when its serial or hardware address is missing */
    public NetworkPlan.Client ofRegister(String board, String image, Optional<NetworkPlan.Root> root)
            throws IOException {
        Workbench.BoardAtHand at = workbench.board(board);
        String mac = at.board().mac();
        if (!mac.matches("([0-9a-fA-F]{2}[:-]){5}[0-9a-fA-F]{2}")) {
            throw new UnreadableInput("Nobody has told the hardware address of "
                    + at.register().name() + "; a server knows it by that. Tell it with \"board edit --mac\".");
        }
        return new NetworkPlan.Client(
                at.register().id(),
                at.profile().id(),
                at.board().serial(),
                mac,
                Optional.empty(),
                image,
                Optional.empty(),
                root,
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /**
     * What a log says, with what the kit itself says where the log ends before the reason.
     *
     * @param rehearsed what a rehearsal from the kit says; empty for a stranger
     */
    public record LogLine(ServerLog.Line line, Optional<Trace> rehearsed) {
        /** The log's cause; where a log does not show more, that of the rehearsal. */
        public Cause cause() {
            boolean open = line.cause() == Cause.NONE
                    || line.cause() == Cause.ROOT_NOT_FOUND
                    || line.cause() == Cause.NETWORK_NO_FILES;
            return open && rehearsed.filter(trace -> !trace.runs()).isPresent()
                    ? rehearsed.get().cause()
                    : line.cause();
        }
    }

    public List<LogLine> readLog(Path file) throws IOException {
        return readLog(new String(InputFile.read(file, LARGEST_LOG), StandardCharsets.UTF_8));
    }

    public List<LogLine> readLog(String text) throws IOException {
        NetworkPlan plan = kit.plan();
        NetworkTry tries = new NetworkTry(workbench, kit);
        KitNetwork network = new KitNetwork(kit.folder());
        List<LogLine> lines = new ArrayList<>();
        for (ServerLog.Line line :
                ServerLog.read(text, plan, id -> workbench.profiles().find(id).orElseThrow())) {
            Optional<NetworkPlan.Client> client = plan.client(line.board());
            lines.add(new LogLine(
                    line, client.isPresent() ? Optional.of(tries.rehearse(client.get(), network)) : Optional.empty()));
        }
        return lines;
    }

    /** Faults that can be played, with what each means. */
    public static Map<String, String> faults() {
        Map<String, String> all = new java.util.LinkedHashMap<>();
        Arrays.stream(NetworkFault.values()).forEach(each -> all.put(each.code(), each.said()));
        return all;
    }

    /** Those that are played, in words. */
    public List<String> playedFaults() throws IOException {
        SimulatedNetwork network = SimulatedNetwork.read(kit.folder());
        List<String> all = new ArrayList<>(
                network.server().stream().map(NetworkFault::said).toList());
        for (NetworkPlan.Client client : kit.plan().clients()) {
            network.boards()
                    .getOrDefault(client.plainMac(), List.of())
                    .forEach(each -> all.add(client.id() + ": " + each.said()));
        }
        return all;
    }

    /** Plays a fault, at the server or at a board; "none" takes all away. */
    public void play(String code, Optional<String> board) throws IOException {
        NetworkPlan plan = kit.plan();
        if (code.equals("none")) {
            SimulatedNetwork.WELL.write(kit.folder());
            return;
        }
        NetworkFault fault;
        try {
            fault = NetworkFault.of(code);
        } catch (IllegalArgumentException e) {
            throw new BadArgument(e.getMessage(), code);
        }
        if (!fault.ofServer() && board.isEmpty()) {
            throw new BadArgument("Say at which board: " + fault.said() + ".", code);
        }
        String mac = board.isEmpty()
                ? ""
                : plan.client(board.get())
                        .orElseThrow(() -> new exordium.core.finding.UnknownName(
                                "There is no board " + board.get() + " in the kit.", board.get()))
                        .plainMac();
        SimulatedNetwork.read(kit.folder()).with(fault, mac).write(kit.folder());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.Refused;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.inspection.DriveInspection;
import exordium.core.layout.PartitionTable;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.core.network.ServerConfig;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.Trace;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.KitNetwork;
import exordium.jobs.bench.Workbench;
import exordium.sim.network.NetworkFault;
import exordium.sim.network.PlayedServer;
import exordium.sim.network.SimulatedNetwork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** What each board of a kit would see: by rehearsal, from a server that is played, from real servers where they can run. */
public final class NetworkTry {
    private static final Set<Cause> OWN_WORDS = EnumSet.of(Cause.NETWORK_NO_LINK, Cause.NETWORK_NO_LEASE);
    /** Newer than any release there is. */
    private static final LocalDate NEWEST = LocalDate.of(2999, 1, 1);

    private final Workbench workbench;
    private final NetworkKit kit;
    private final NetworkPlan plan;

    public NetworkTry(Workbench workbench, NetworkKit kit) throws IOException {
        this.workbench = workbench;
        this.kit = kit;
        this.plan = kit.plan();
    }

    /**
     * How one board fares.
     *
     * @param asked request by request
     * @param rehearsed what the rehearsal says of the same kit
     */
    public record Seen(String board, BoardAsk.Come asked, Trace rehearsed) {
        /** Whether both come to the same end. */
        public boolean agrees() {
            Cause real = asked.cause();
            Cause own = rehearsed.cause();
            boolean neverCame = OWN_WORDS.contains(real) && OWN_WORDS.contains(own);
            return real == own || neverCame;
        }

        public boolean starts() {
            return asked.cause() == Cause.NONE && rehearsed.runs();
        }
    }

    /**
     * What came of it.
     *
     * @param real whether real servers answered; why: they did not, where they did not
     * @param log of the server, in its own words
     * @param broken files that are not as the kit was made, by board
     */
    public record Report(
            boolean real, Optional<String> why, List<Seen> boards, List<String> log, Map<String, String> broken) {
        public boolean good() {
            return broken.isEmpty() && boards.stream().allMatch(each -> each.starts() && each.agrees());
        }
    }

    /** Names of start files that are there, from the top of the folder they are handed out from. */
    static List<String> startFiles(Path kitFolder) throws IOException {
        Path top = kitFolder.resolve("tftp");
        if (!Files.isDirectory(top)) {
            return List.of();
        }
        try (Stream<Path> all = Files.walk(top)) {
            return all.filter(Files::isRegularFile)
                    .map(each -> top.relativize(each).toString())
                    .sorted()
                    .toList();
        }
    }

    /** By a server that is played, with the faults that are played in it. */
    public Report played(Optional<String> only, Optional<String> why) throws IOException {
        KitNetwork network = new KitNetwork(kit.folder());
        ServerConfig config = network.config();
        SimulatedNetwork simulated = SimulatedNetwork.read(kit.folder());
        List<String> known = startFiles(kit.folder());
        List<Seen> seen = new ArrayList<>();
        List<String> log = new ArrayList<>();
        for (NetworkPlan.Client client : chosen(only)) {
            Set<NetworkFault> faults = simulated.faultsOf(client.plainMac());
            PlayedServer server =
                    new PlayedServer(config, kit.folder(), plan.server().folder(), faults);
            BoardProfile profile = workbench.profiles().require(client.profile());
            seen.add(new Seen(client.id(), BoardAsk.of(profile, client, known, server), rehearse(client, network)));
            log.addAll(server.log());
        }
        return new Report(false, why, seen, log, broken(only));
    }

    /**
     * By real servers in a network of their own; by the played one, with the reason, where they cannot run.
     *
     * @throws Refused when something in the kit is nothing that a kit is made of
     */
    public Report real(Optional<String> only) throws IOException {
        CheckedKit.of(kit.folder(), plan.server());
        Optional<String> silent = RealServers.silent(plan.server());
        if (silent.isPresent()) {
            return played(only, silent);
        }
        KitNetwork network = new KitNetwork(kit.folder());
        List<String> known = startFiles(kit.folder());
        List<Seen> seen = new ArrayList<>();
        try (RealServers servers = RealServers.start(kit.folder(), plan)) {
            for (NetworkPlan.Client client : chosen(only)) {
                BoardProfile profile = workbench.profiles().require(client.profile());
                seen.add(
                        new Seen(client.id(), BoardAsk.of(profile, client, known, servers), rehearse(client, network)));
            }
            return new Report(true, Optional.empty(), seen, servers.log(), broken(only));
        }
    }

    private List<NetworkPlan.Client> chosen(Optional<String> only) throws IOException {
        if (only.isEmpty()) {
            return plan.clients();
        }
        return List.of(plan.client(only.get())
                .orElseThrow(() -> new exordium.core.finding.UnknownName(
                        "There is no board " + only.get() + " in the kit.", only.get())));
    }

    private Map<String, String> broken(Optional<String> only) throws IOException {
        Map<String, String> all = new java.util.LinkedHashMap<>();
        for (NetworkPlan.Client client : chosen(only)) {
            kit.broken(client.id()).ifPresent(what -> all.put(client.id(), what));
        }
        return all;
    }

    /** A board with nothing plugged in that its family can do without, and an order that goes to the network. */
    public Trace rehearse(NetworkPlan.Client client, KitNetwork network) throws IOException {
        BoardProfile profile = workbench.profiles().require(client.profile());
        Bench.Network seen = network.of(
                        client.plainMac(), profile, plan.server().folder())
                .orElse(new Bench.Network(true, false, false, Optional.empty(), List.of()));
        String order = OrderDialect.of(profile).encode(List.of(StartSource.NETWORK));
        Bench bench = new Bench(
                profile,
                client.serial(),
                client.plainMac(),
                NEWEST,
                FirmwareConfig.EMPTY,
                order,
                profile.power().supply(),
                firmwareCard(profile),
                seen);
        return Rehearsal.of(bench);
    }

    /** A family whose firmware lies on a card has one in with nothing else on it. */
    private List<Bench.Attached> firmwareCard(BoardProfile profile) throws IOException {
        if (!profile.firmware().where().equals("card")) {
            return List.of();
        }
        List<String> files = profile.firmware().files().orElse(List.of()).stream()
                .map(name -> name.replace("*", "firmware"))
                .toList();
        BoardProfile.Port slot = profile.ports().stream()
                .filter(port -> port.source() == StartSource.CARD)
                .findFirst()
                .orElseThrow();
        MediumKind kind = workbench.usualKind(slot);
        MediumContents contents = new MediumContents(
                new DriveInspection(
                        ByteSize.ofGigabytes(1), PartitionTable.none(512), List.of(), Optional.empty(), List.of()),
                Optional.of(new MediumContents.StartPartition(
                        1,
                        files,
                        Optional.empty(),
                        profile.startFiles().kernelLine(),
                        Optional.<byte[]>empty(),
                        Optional.empty(),
                        Optional.empty(),
                        Optional.empty())),
                Map.of(),
                Optional.empty());
        return List.of(new Bench.Attached(slot.id(), "firmware card", kind, false, true, contents));
    }
}

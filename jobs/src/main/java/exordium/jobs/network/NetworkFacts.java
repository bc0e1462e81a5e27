// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.network.BoardAsk;
import exordium.core.network.ClientFiles;
import exordium.core.network.NetworkPlan;
import exordium.core.network.PlanCheck;
import exordium.core.network.StartTimes;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.Link;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.Workbench;
import exordium.sim.network.SimulatedNetwork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What a plan's images hold, each read once: what boards get of them, how large their roots are, how long they take. */
public final class NetworkFacts {
    /** What a small system reads of its root until it is up. Common practice, no source. */
    private static final ByteSize USUAL_READ = ByteSize.ofGigabytes(0.2);

    private final Workbench workbench;
    private final Map<String, Read> read = new HashMap<>();

    public NetworkFacts(Workbench workbench) {
        this.workbench = workbench;
    }

    private record Read(ClientFiles files, ByteSize root, ByteSize small) {}

    /** Where an image of a plan is: a path, or a file of the shelf. */
    Path image(NetworkPlan.Client client) throws UnreadableInput {
        Path asIs = Path.of(client.image());
        Path shelf = workbench.images().resolve(client.image());
        if (Files.isRegularFile(asIs)) {
            return asIs;
        }
        if (Files.isRegularFile(shelf)) {
            return shelf;
        }
        throw new UnreadableInput(
                "There is no image " + client.image() + " for " + client.id() + ", neither there nor on the shelf.");
    }

    /** By which it is told whether an image is still the same. */
    String mark(NetworkPlan.Client client) throws IOException {
        Path file = image(client);
        return "image of " + Files.size(file) + " bytes, "
                + Files.getLastModifiedTime(file).toInstant();
    }

    ClientFiles files(NetworkPlan.Server server, NetworkPlan.Client client) throws IOException {
        return read(server, client).files();
    }

    private Read read(NetworkPlan.Server server, NetworkPlan.Client client) throws IOException {
        String key = server + " " + client;
        Read known = read.get(key);
        if (known == null) {
            BoardProfile profile = workbench.profiles().require(client.profile());
            try (KitImage image = KitImage.open(image(client), TransferWatch.NONE)) {
                ClientFiles files = ClientFiles.of(server, client, profile, image.found(profile));
                long small = 0;
                for (KitImage.StartFile each : image.startFiles(profile)) {
                    small += asked(profile, each.path()) ? each.size() : 0;
                }
                known = new Read(files, image.rootUsed(profile), ByteSize.of(small));
            }
            read.put(key, known);
        }
        return known;
    }

    /** What a family's firmware fetches of all that is in the folder. */
    private static boolean asked(BoardProfile profile, String path) {
        BoardProfile.StartFiles files = profile.startFiles();
        List<String> patterns = new ArrayList<>(files.loaders());
        patterns.addAll(files.kernels().keySet());
        patterns.addAll(files.deviceTrees());
        files.settings().ifPresent(patterns::add);
        patterns.add(files.kernelLine());
        patterns.add("initramfs*");
        patterns.add("initrd*");
        return NamePattern.isLikeAny(path, patterns);
    }

    public ByteSize rootSize(NetworkPlan plan, NetworkPlan.Client client) throws IOException {
        return read(plan.server(), client).root();
    }

    public StartTimes times(NetworkPlan plan, NetworkPlan.Client client) throws IOException {
        BoardProfile profile = workbench.profiles().require(client.profile());
        Read facts = read(plan.server(), client);
        ByteRate link = profile.ports().stream()
                .filter(port -> port.source() == StartSource.NETWORK)
                .map(BoardProfile.Port::link)
                .map(Link::ceiling)
                .findFirst()
                .orElse(Link.ETHERNET_100M.ceiling());
        ByteSize reads =
                client.readAtStart().orElse(facts.root().compareTo(USUAL_READ) < 0 ? facts.root() : USUAL_READ);
        return StartTimes.of(profile, facts.small(), reads, link, server(plan));
    }

    /** Of the server's storage. @throws UnreadableInput when there is no such kind */
    private Optional<MediumKind> kind(NetworkPlan plan) throws UnreadableInput {
        Optional<String> named = plan.server().medium();
        Optional<MediumKind> kind = named.flatMap(id -> workbench.media().kind(id));
        if (named.isPresent() && kind.isEmpty()) {
            List<String> known =
                    workbench.media().kinds().stream().map(MediumKind::id).toList();
            throw new UnknownName(
                    "There is no kind of medium \"" + named.get() + "\"; there are " + String.join(", ", known) + ".",
                    named.get(),
                    known);
        }
        return kind;
    }

    /** Reads with what its kind of storage does, where nobody said more, or as it is played. */
    private NetworkPlan.Server server(NetworkPlan plan) throws IOException {
        NetworkPlan.Server server = kind(plan)
                .map(each -> plan.server().withDiskRate(each.readRate()))
                .orElse(plan.server());
        Optional<ByteRate> played =
                SimulatedNetwork.read(NetworkKit.of(workbench).folder()).storage();
        return played.isPresent() ? server.atDiskRate(played.get()) : server;
    }

    /** All that is wrong with a plan, and what is to be said of it. */
    public List<Finding> findings(NetworkPlan plan) throws IOException {
        Map<String, ByteSize> roots = new LinkedHashMap<>();
        Map<String, StartTimes> times = new LinkedHashMap<>();
        List<Finding> all = new ArrayList<>();
        for (NetworkPlan.Client client : plan.clients()) {
            Optional<BoardProfile> profile = workbench.profiles().find(client.profile());
            if (profile.isPresent() && BoardAsk.possible(profile.get())) {
                roots.put(client.id(), rootSize(plan, client));
                times.put(client.id(), times(plan, client));
                all.addAll(files(plan.server(), client).findings());
            }
        }
        List<Finding> once = new ArrayList<>(Finding.onePerCode(all));
        once.addAll(PlanCheck.of(plan, id -> workbench.profiles().find(id), roots, times, kind(plan)));
        return Finding.worstFirst(once);
    }

    public PlanCheck.Space space(NetworkPlan plan) throws IOException {
        Map<String, ByteSize> roots = new HashMap<>();
        for (NetworkPlan.Client client : plan.clients()) {
            roots.put(client.id(), rootSize(plan, client));
        }
        return PlanCheck.space(plan, roots);
    }
}

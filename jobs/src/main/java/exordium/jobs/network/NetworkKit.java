// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.Durable;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.network.ClientFiles;
import exordium.core.network.NetworkPlan;
import exordium.core.network.ServerFiles;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * The folder that is to stand on a server (docs/formats/network.md). Each board has files of its own and a signed list of them, put down
 * last: killed half-way, a board is in it as it was, or not at all. Nothing of this machine but the folder is changed.
 */
public final class NetworkKit {
    private static final JobRunner.DeedKind KIND = JobRunner.DeedKind.keyed(
            "network-kit", Step.ORDER, "changing", "Boards that were not reached are as they were.");

    private static final String SERVER = "server.yaml";
    static final String HALF = ".half-";

    private final Workbench workbench;
    private final Path folder;
    private final KitSeal seal;
    private final KitBoards boards;

    public NetworkKit(Workbench workbench, Path folder) {
        this.workbench = workbench;
        this.folder = folder.toAbsolutePath().normalize();
        this.seal = new KitSeal(workbench.workspace().folder().toAbsolutePath(), this.folder);
        this.boards = new KitBoards(workbench, this.folder, seal);
    }

    /** That of the workspace. */
    public static NetworkKit of(Workbench workbench) {
        return new NetworkKit(workbench, workbench.workspace().folder().resolve("network"));
    }

    public Path folder() {
        return folder;
    }

    public boolean exists() {
        return Files.isRegularFile(folder.resolve(SERVER));
    }

    /** A text file as it would stand in the kit; what for: in a few words. */
    public record Shown(String path, String text) {}

    /** What came of it. */
    public record Done(List<String> written, List<String> kept, List<String> removed, List<Finding> findings) {
        private boolean changesNothing() {
            return written.isEmpty() && removed.isEmpty();
        }

        private String said() {
            return (written.isEmpty() ? "" : "made for " + String.join(", ", written))
                    + (written.isEmpty() || removed.isEmpty() ? "" : "; ")
                    + (removed.isEmpty() ? "" : "taken out " + String.join(", ", removed));
        }
    }

    /** How roots are put down. */
    public enum Roots {
        /** As tars, for whoever is the server. */
        TAR,
        /** Unpacked here, where this is the server and its user may give files away. */
        UNPACKED
    }

    /** @throws UnreadableInput when there is no kit, or what is in it cannot be read */
    public NetworkPlan plan() throws IOException {
        if (!exists()) {
            throw new UnreadableInput("There is no kit in " + folder + "; make one with \"network kit PLAN.yaml\".");
        }
        NetworkPlan plan = workbench.reader().user(folder.resolve(SERVER), NetworkPlan.SCHEMA, NetworkPlan.class);
        for (Path each : files("clients", ".yaml")) {
            NetworkPlan one = workbench.reader().user(each, NetworkPlan.SCHEMA, NetworkPlan.class);
            for (NetworkPlan.Client client : one.clients()) {
                plan = plan.with(client);
            }
        }
        return plan.settled();
    }

    List<Path> files(String below, String ending) throws IOException {
        Path place = folder.resolve(below);
        if (!Files.isDirectory(place)) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(place)) {
            return all.filter(each -> each.toString().endsWith(ending)).sorted().toList();
        }
    }

    /** Every text file that would be written for a plan; nothing is changed. */
    public List<Shown> shown(NetworkPlan plan, NetworkFacts facts) throws IOException {
        List<Shown> all = new ArrayList<>();
        ServerFiles.of(plan.server()).forEach((path, text) -> all.add(new Shown(path, text)));
        for (NetworkPlan.Client client : plan.clients()) {
            all.addAll(shown(plan.server(), client, facts));
        }
        all.sort(java.util.Comparator.comparing(Shown::path));
        return all;
    }

    private List<Shown> shown(NetworkPlan.Server server, NetworkPlan.Client client, NetworkFacts facts)
            throws IOException {
        BoardProfile profile = workbench.profiles().require(client.profile());
        List<Shown> all = new ArrayList<>();
        ServerFiles.of(server, client, profile).forEach((path, text) -> all.add(new Shown(path, text)));
        ClientFiles files = facts.files(server, client);
        files.start().forEach((path, body) -> all.add(new Shown("tftp/" + path, said(body))));
        files.root()
                .forEach((path, body) -> all.add(new Shown(ClientFiles.rootFolder(client) + "/" + path, said(body))));
        return all;
    }

    private static String said(Optional<FileBody> body) {
        return body.map(each -> each.link() ? "-> " + each.text() : each.mode() == 0600 ? "(secret)" : each.text())
                .orElse("(left out)");
    }

    /**
     * Brings the kit to a plan: boards that changed are made anew, those that are gone are taken out, others are left as they are.
     *
     * @throws Refused when the plan has a stop
     */
    public Done bringTo(NetworkPlan plan, Roots roots, TransferWatch watch) throws IOException {
        return alone(() -> brought(plan, roots, watch));
    }

    /** Whatever changes the kit; a board that was half-made when it is cut off is taken out by the next who changes it. */
    private Done alone(Change change) throws IOException {
        return new JobRunner(workbench).keyed(KIND, Key.kit(), Optional.empty(), () -> {
            Done done = change.run();
            return new JobRunner.Outcome<>(
                    done,
                    done.changesNothing() ? "" : "network-kit",
                    "Kit for a start over the network: " + done.said() + ".");
        });
    }

    private interface Change {
        Done run() throws IOException;
    }

    private Done brought(NetworkPlan plan, Roots roots, TransferWatch watch) throws IOException {
        NetworkFacts facts = new NetworkFacts(workbench);
        List<Finding> findings = facts.findings(plan);
        Refused.ifAnyStops(findings);
        requireMayUnpack(roots);
        begin(plan);
        List<String> written = new ArrayList<>();
        List<String> kept = new ArrayList<>();
        List<String> removed = new ArrayList<>();
        for (Path each : files("clients", ".yaml")) {
            String id = each.getFileName().toString().replaceFirst("\\.yaml$", "");
            if (plan.client(id).isEmpty()) {
                boards.takeOut(id);
                removed.add(id);
            }
        }
        for (NetworkPlan.Client client : plan.clients()) {
            if (boards.stands(plan, client)) {
                kept.add(client.id());
            } else {
                boards.put(plan, client, facts, roots, watch);
                written.add(client.id());
            }
        }
        sweep();
        return new Done(written, kept, removed, findings);
    }

    /** One board more; only its own files change. */
    public Done add(NetworkPlan.Client client, Roots roots, TransferWatch watch) throws IOException {
        return alone(() -> added(client, roots, watch));
    }

    private Done added(NetworkPlan.Client client, Roots roots, TransferWatch watch) throws IOException {
        NetworkPlan before = plan();
        if (before.client(client.id()).isPresent()) {
            throw new BadArgument(
                    client.id() + " is in the kit already; take it out first, or change the plan.", client.id());
        }
        NetworkPlan plan = before.with(client).settled();
        NetworkFacts facts = new NetworkFacts(workbench);
        List<Finding> findings = facts.findings(plan);
        Refused.ifAnyStops(findings);
        requireMayUnpack(roots);
        boards.put(plan, plan.client(client.id()).orElseThrow(), facts, roots, watch);
        return new Done(
                List.of(client.id()),
                before.clients().stream().map(NetworkPlan.Client::id).toList(),
                List.of(),
                findings);
    }

    /** A board that came from elsewhere than a file, held against the same rules. @throws UnreadableInput naming what is wrong */
    public static NetworkPlan.Client checked(Workbench workbench, NetworkPlan.Client client) throws IOException {
        NetworkPlan.Server any = NetworkPlan.Server.plain("any", "192.168.0.2", "/srv/any");
        String text = workbench
                .reader()
                .writeForPeople(new NetworkPlan(any, Optional.empty(), Optional.empty(), List.of(client)));
        return workbench
                .reader()
                .user("the board", text.getBytes(StandardCharsets.UTF_8), NetworkPlan.SCHEMA, NetworkPlan.class)
                .clients()
                .get(0);
    }

    /** Takes a board out with all that is its own. */
    public Done remove(String id) throws IOException {
        return alone(() -> removed(id));
    }

    private Done removed(String id) throws IOException {
        NetworkPlan plan = plan();
        if (plan.client(id).isEmpty()) {
            List<String> known =
                    plan.clients().stream().map(NetworkPlan.Client::id).toList();
            throw new UnknownName(
                    "There is no board " + id + " in the kit"
                            + (known.isEmpty() ? "." : "; there are " + String.join(", ", known) + "."),
                    id,
                    known);
        }
        boards.takeOut(id);
        sweep();
        return new Done(
                List.of(),
                plan.without(id).clients().stream().map(NetworkPlan.Client::id).toList(),
                List.of(id),
                List.of());
    }

    private static void requireMayUnpack(Roots roots) throws NotPossible {
        if (roots == Roots.UNPACKED && !"root".equals(System.getProperty("user.name"))) {
            throw new NotPossible(
                    "Roots keep their owners only when they are unpacked as root: leave them as tars, or do it as root on the server.");
        }
    }

    private void begin(NetworkPlan plan) throws IOException {
        Files.createDirectories(folder);
        sweepHalf();
        for (String each : List.of("tftp", "roots", "clients", "dnsmasq.d", "exports.d")) {
            Files.createDirectories(folder.resolve(each));
        }
        for (Map.Entry<String, String> each : ServerFiles.of(plan.server()).entrySet()) {
            write(folder.resolve(each.getKey()), each.getValue().getBytes(StandardCharsets.UTF_8));
        }
        write(
                folder.resolve(SERVER),
                workbench
                        .reader()
                        .writeForPeople(new NetworkPlan(plan.server(), plan.root(), plan.growth(), List.of()))
                        .getBytes(StandardCharsets.UTF_8));
        try {
            seal.putPublic();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
        KitModes.ofServer(folder);
    }

    /** In one move, and only where it is another. */
    static void write(Path file, byte[] content) throws IOException {
        if (Files.isRegularFile(file) && java.util.Arrays.equals(Files.readAllBytes(file), content)) {
            return;
        }
        Files.createDirectories(file.getParent());
        Durable.replace(file, content);
    }

    /** Shared roots nobody uses any more, and what was left half-way. */
    private void sweep() throws IOException {
        List<String> used = plan().clients().stream().map(ClientFiles::rootName).toList();
        for (Path each : files("roots", "")) {
            String name = each.getFileName().toString();
            boolean orphan = name.startsWith("shared-")
                    && !used.contains(name.replaceFirst("\\.(tar|image|sha256|sha256\\.sig)$", ""));
            if (orphan && Files.isDirectory(each)) {
                Folders.delete(each);
            } else if (orphan) {
                Files.delete(each);
            }
        }
    }

    private void sweepHalf() throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            for (Path each : all.filter(path -> path.getFileName().toString().startsWith(HALF))
                    .toList()) {
                Folders.delete(each);
            }
        }
    }

    /** The first thing of a board that is not as it was when the kit was made; empty where all is. */
    public Optional<String> broken(String id) throws IOException {
        return boards.broken(id);
    }
}

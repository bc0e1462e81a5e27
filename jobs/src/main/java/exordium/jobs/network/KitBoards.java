// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.HostName;
import exordium.core.network.ClientFiles;
import exordium.core.network.NetworkPlan;
import exordium.core.network.ServerFiles;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;

/** The boards in a kit, each with files of its own and a signed list of them, put down last. */
final class KitBoards {
    private final Workbench workbench;
    private final Path folder;
    private final KitSeal seal;

    KitBoards(Workbench workbench, Path folder, KitSeal seal) {
        this.workbench = workbench;
        this.folder = folder;
        this.seal = seal;
    }

    /** Whether a board is in it as the plan wants it, nothing of it changed. */
    boolean stands(NetworkPlan plan, NetworkPlan.Client client) throws IOException {
        Path file = folder.resolve("clients/" + client.id() + ".yaml");
        return Files.isRegularFile(file)
                && Files.readString(file).equals(text(plan, client))
                && seal.broken(list(client.id())).isEmpty();
    }

    private String text(NetworkPlan plan, NetworkPlan.Client client) throws IOException {
        String image = new NetworkFacts(workbench).mark(client);
        return "# " + image + "\n"
                + workbench
                        .reader()
                        .writeForPeople(new NetworkPlan(plan.server(), plan.root(), plan.growth(), List.of(client)));
    }

    private Path list(String id) {
        return folder.resolve("clients/" + id + ".sha256");
    }

    void put(
            NetworkPlan plan,
            NetworkPlan.Client client,
            NetworkFacts facts,
            NetworkKit.Roots roots,
            TransferWatch watch)
            throws IOException {
        Path half = folder.resolve(NetworkKit.HALF + client.id());
        if (Files.exists(half)) {
            Folders.delete(half);
        }
        boolean whole = false;
        try {
            fill(half, plan, client, facts, roots, watch);
            whole = true;
        } finally {
            if (!whole && Files.exists(half)) {
                Folders.delete(half);
            }
        }
    }

    private void fill(
            Path half,
            NetworkPlan plan,
            NetworkPlan.Client client,
            NetworkFacts facts,
            NetworkKit.Roots roots,
            TransferWatch watch)
            throws IOException {
        BoardProfile profile = workbench.profiles().require(client.profile());
        ClientFiles files = facts.files(plan.server(), client);
        Files.createDirectories(half);
        Map<String, byte[]> texts = new TreeMap<>();
        ServerFiles.of(plan.server(), client, profile)
                .forEach((path, text) -> texts.put(path, text.getBytes(StandardCharsets.UTF_8)));
        texts.put("clients/" + client.id() + ".yaml", text(plan, client).getBytes(StandardCharsets.UTF_8));
        for (Map.Entry<String, byte[]> each : texts.entrySet()) {
            NetworkKit.write(half.resolve(each.getKey()), each.getValue());
        }
        try (KitImage image = KitImage.open(facts.image(client), watch)) {
            startFiles(half, files, image, profile);
            new KitRoots(workbench, folder, seal).put(half, client, files, image, profile, roots, watch);
        }
        KitModes.ofServer(half);
        if (Files.exists(folder.resolve("clients/" + client.id() + ".yaml"))) {
            takeOut(client.id());
        }
        List<Path> own = new ArrayList<>();
        try (Stream<Path> all = Files.walk(half)) {
            for (Path each : all.filter(Files::isRegularFile).toList()) {
                Path to = folder.resolve(half.relativize(each));
                boolean unpacked = roots == NetworkKit.Roots.UNPACKED
                        && (half.relativize(each).startsWith("roots")
                                || half.relativize(each).startsWith("state"));
                if (!unpacked) {
                    Files.createDirectories(to.getParent());
                    Files.move(each, to, StandardCopyOption.REPLACE_EXISTING);
                    own.add(to);
                }
            }
        }
        moveUnpacked(half);
        Folders.delete(half);
        seal.seal(list(client.id()), own);
        KitModes.ofServer(folder);
    }

    private void moveUnpacked(Path half) throws IOException {
        for (String below : List.of("roots", "state")) {
            Path place = half.resolve(below);
            if (!Files.isDirectory(place)) {
                continue;
            }
            try (Stream<Path> all = Files.list(place)) {
                for (Path each : all.filter(Files::isDirectory).toList()) {
                    Path to = folder.resolve(below).resolve(each.getFileName());
                    if (Files.exists(to)) {
                        Folders.delete(to);
                    }
                    Files.createDirectories(to.getParent());
                    Files.move(each, to);
                }
            }
        }
    }

    private static void startFiles(Path half, ClientFiles files, KitImage image, BoardProfile profile)
            throws IOException {
        Path tftp = half.resolve("tftp");
        FileSystemReader start = image.start(profile);
        for (KitImage.StartFile each : image.startFiles(profile)) {
            String path = files.folder() + "/" + each.path();
            if (!files.start().containsKey(path)) {
                Path to = tftp.resolve(path);
                Files.createDirectories(to.getParent());
                try (OutputStream out = Files.newOutputStream(to)) {
                    start.copy("/" + each.path(), out);
                }
            }
        }
        for (Map.Entry<String, Optional<FileBody>> each : files.start().entrySet()) {
            if (each.getValue().isPresent()) {
                NetworkKit.write(
                        tftp.resolve(each.getKey()), each.getValue().get().bytes());
            }
        }
    }

    /** All that is on a board's list goes, and its list first: what is left half-way is nobody's. */
    void takeOut(String id) throws IOException {
        Path list = list(id);
        List<String> lines = Files.exists(list) ? Files.readAllLines(list) : List.of();
        Path yaml = folder.resolve("clients/" + id + ".yaml");
        Optional<NetworkPlan.Client> client = readable(id);
        String starts = client.flatMap(each ->
                        workbench.profiles().find(each.profile()).map(profile -> ClientFiles.folder(each, profile)))
                .filter(name -> name.matches("[a-z0-9][a-z0-9-]*"))
                .orElse(id);
        String host =
                client.map(NetworkPlan.Client::host).filter(HostName::valid).orElse(id);
        Files.deleteIfExists(list);
        Files.deleteIfExists(KitSeal.signatureOf(list));
        for (String line : lines) {
            String[] parts = line.split("  ", 2);
            Path file = parts.length < 2 ? folder : folder.resolve(parts[1]).normalize();
            if (parts.length == 2 && file.startsWith(folder)) {
                Files.deleteIfExists(file);
            }
        }
        Files.deleteIfExists(yaml);
        for (String each :
                List.of("dnsmasq.d/" + id + ".conf", "exports.d/" + id + ".exports", "roots/" + id + ".tar")) {
            Files.deleteIfExists(folder.resolve(each));
        }
        for (Path each : List.of(
                folder.resolve("roots/" + id), folder.resolve("state/" + host), folder.resolve("tftp/" + starts))) {
            if (Files.isDirectory(each)) {
                Folders.delete(each);
            }
        }
    }

    /** A board as its own file has it; empty where that cannot be read. */
    private Optional<NetworkPlan.Client> readable(String id) throws IOException {
        try {
            return workbench
                    .reader()
                    .user(folder.resolve("clients/" + id + ".yaml"), NetworkPlan.SCHEMA, NetworkPlan.class)
                    .clients()
                    .stream()
                    .findFirst();
        } catch (UnreadableInput e) {
            return Optional.empty();
        }
    }

    /** The first thing of a board that is not as it was when the kit was made; empty where all is. */
    Optional<String> broken(String id) throws IOException {
        return seal.broken(list(id));
    }
}

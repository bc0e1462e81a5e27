// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.Machine;
import exordium.core.finding.NotPossible;
import exordium.core.network.BoardAsk;
import exordium.core.network.NetworkPlan;
import exordium.core.network.ServerConfig;
import exordium.jobs.bench.Folders;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * dnsmasq and an NFS server by a kit's own files, in a network and with a view of the folders that nobody else has, and general clients
 * that ask them as a board would. Everything goes away with the shell it runs in; nothing of this machine is changed.
 */
public final class RealServers implements BoardAsk.Answers, Closeable {
    /** What must be there, and the package of Debian that brings it. */
    private static final Map<String, String> TOOLS = new TreeMap<>(Map.of(
            "unshare", "util-linux",
            "ip", "iproute2",
            "dnsmasq", "dnsmasq-base",
            "udhcpc", "udhcpc",
            "curl", "curl",
            "ganesha.nfsd", "nfs-ganesha nfs-ganesha-vfs",
            "rpcbind", "rpcbind",
            "nfs-ls", "libnfs-utils"));

    private static final List<String> MAY_HIDE = List.of("/srv", "/mnt", "/opt", "/media", "/home");
    private static final Pattern BOUND = Pattern.compile("bound ip=(\\S*) boot_file=(\\S*)");
    private static final Pattern TOLD_OF_REQUEST = Pattern.compile(
            "DHCP(DISCOVER|OFFER|REQUEST|ACK|NAK)\\(|dnsmasq-tftp.*(sent|not found|failed|error|cannot)");
    private static final int ABSENT = 68;
    private static final long LARGEST = 1L << 30;

    private final NetworkPlan plan;
    private final Folders.Working work;
    private final ShellSession shell;
    private final List<String> said = new ArrayList<>();
    private int askedTold;
    private int mountedTold;

    private RealServers(NetworkPlan plan, Folders.Working work, ShellSession shell) {
        this.plan = plan;
        this.work = work;
        this.shell = shell;
    }

    /** Why real servers cannot run here; empty where they can. */
    public static Optional<String> silent(NetworkPlan.Server server) {
        if (!Machine.here().makesNetworks()) {
            return Optional.of("Real servers were not asked: that needs root on Linux, for a network of their own.");
        }
        List<String> missing = TOOLS.entrySet().stream()
                .filter(each -> where(each.getKey()).isEmpty())
                .map(Map.Entry::getValue)
                .distinct()
                .toList();
        if (!missing.isEmpty()) {
            return Optional.of("Real servers were not asked: sudo apt-get install " + String.join(" ", missing));
        }
        if (server.besideRouter()) {
            return Optional.of("Real servers were not asked: addresses come from the router, which is not here.");
        }
        return hidden(server).isEmpty()
                ? Optional.of("Real servers were not asked: " + server.folder()
                        + " cannot be played here; plan a folder below /srv to have it tried.")
                : Optional.empty();
    }

    private static Optional<Path> where(String tool) {
        for (String folder : List.of("/usr/bin", "/usr/sbin", "/bin", "/sbin")) {
            if (Files.isExecutable(Path.of(folder, tool))) {
                return Optional.of(Path.of(folder, tool));
            }
        }
        return Optional.empty();
    }

    /** The folder over which an empty one is laid, so that the server's folder can be made in it; never one that the servers live from. */
    private static Optional<String> hidden(NetworkPlan.Server server) {
        String top = "/" + server.folder().split("/")[1];
        boolean own = MAY_HIDE.contains(top) && !server.folder().equals(top);
        Optional<String> over = own && Files.isDirectory(Path.of(server.folder()))
                ? Optional.of(server.folder())
                : own && Files.isDirectory(Path.of(top)) ? Optional.of(top) : Optional.empty();
        Path working = Path.of(System.getProperty("java.io.tmpdir"));
        return over.filter(each -> !working.startsWith(each));
    }

    /** @throws Refused when something in the kit is nothing that a kit is made of */
    public static RealServers start(Path kit, NetworkPlan plan) throws IOException {
        CheckedKit checked = CheckedKit.of(kit, plan.server());
        ServerConfig config = checked.config();
        Folders.Working work = Folders.Working.in(Path.of(System.getProperty("java.io.tmpdir")));
        ShellSession shell = null;
        try {
            shell = ShellSession.of(
                    "unshare",
                    "--mount",
                    "--net",
                    "--pid",
                    "--mount-proc",
                    "--fork",
                    "--kill-child",
                    "bash",
                    "--norc",
                    "--noprofile");
            RealServers servers = new RealServers(plan, work, shell);
            checked.put(work.path().resolve("conf"));
            servers.place(kit, config);
            servers.network();
            servers.serve(config);
            return servers;
        } catch (IOException | RuntimeException e) {
            if (shell != null) {
                shell.close();
            }
            Folders.delete(work.path());
            throw e;
        }
    }

    private Path at(String name) {
        return work.path().resolve(name);
    }

    private void place(Path kit, ServerConfig config) throws IOException {
        String folder = plan.server().folder();
        must("mount --make-rprivate /");
        must("mount -t tmpfs tmpfs /run && mkdir -p /run/netns /run/rpcbind /run/ganesha /run/dbus /run/lock /run/kit");
        must("mount --bind " + quoted(kit.toString()) + " /run/kit");
        must("mount -t tmpfs tmpfs " + quoted(hidden(plan.server()).orElseThrow()) + " && mkdir -p " + quoted(folder));
        // What dnsmasq goes by is what was looked through, and not whatever stands in the kit by then.
        must("cd " + quoted(folder) + " && cp -r " + quoted(at("conf").toString()) + "/. . && mkdir -p tftp && { [ ! -d"
                + " /run/kit/tftp ] || mount --bind /run/kit/tftp tftp; }");
        for (ServerConfig.Export each : config.exports()) {
            if (each.path().startsWith(folder + "/") && !each.path().startsWith(folder + "/tftp/")) {
                root(kit, each.path().substring(folder.length() + 1));
            }
        }
    }

    /** A root that is still a tar is unpacked where it goes away again. */
    private void root(Path kit, String path) throws IOException {
        Path unpacked = kit.resolve(path);
        Path tar = unpacked.resolveSibling(unpacked.getFileName() + ".tar");
        if (Files.isDirectory(unpacked)) {
            must("mkdir -p " + quoted(path) + " && mount --bind " + quoted("/run/kit/" + path) + " " + quoted(path));
        } else if (Files.isRegularFile(tar)) {
            String place = quoted(at("roots").resolve(path).toString());
            must("mkdir -p " + quoted(path) + " " + place + " && { [ -n \"$(ls -A " + place + ")\" ] || tar -C " + place
                    + " --numeric-owner --xattrs '--xattrs-include=*' -xpf " + quoted("/run/kit/" + path + ".tar")
                    + "; } && mount --bind " + place + " " + quoted(path));
        }
    }

    private void network() throws IOException {
        NetworkPlan.Server server = plan.server();
        String device = server.device();
        must("ip link set lo up && ip link add " + device + " type bridge && ip addr add " + server.address() + "/"
                + server.prefix() + " dev " + device + " && ip link set " + device + " up");
        must(
                "ip netns add board && ip link add toboard type veth peer name eth0 netns board && ip link set toboard master "
                        + device + " && ip link set toboard up && ip -n board link set lo up");
        Files.writeString(
                at("lease.sh"),
                "#!/bin/sh\n[ \"$1\" = bound ] || exit 0\nip addr flush dev $interface\nip addr add $ip/"
                        + server.prefix() + " dev $interface\necho \"bound ip=$ip boot_file=$boot_file\"\n");
        must("chmod 755 " + quoted(at("lease.sh").toString()));
    }

    private void serve(ServerConfig config) throws IOException {
        // What only the try needs: no waiting for an answer to a ping, files of its own for leases and log.
        ShellSession.Ended started =
                shell.run("dnsmasq --conf-file=" + plan.server().at("dnsmasq.conf")
                        + " --no-ping --user=root --log-dhcp --dhcp-leasefile="
                        + quoted(at("leases").toString()) + " --pid-file="
                        + quoted(at("dnsmasq.pid").toString()) + " --log-facility="
                        + quoted(at("dnsmasq.log").toString()));
        if (started.exit() != 0) {
            said.add("dnsmasq: " + started.output().strip());
        }
        Files.writeString(at("ganesha.conf"), exports(config));
        must("mkdir -p " + quoted(at("recovery").toString()) + " && { rpcbind -f < /dev/null > /dev/null 2>&1 & }");
        must("for i in $(seq 200); do [ -S /run/rpcbind.sock ] && break; sleep 0.05; done; { ganesha.nfsd -F -f "
                + quoted(at("ganesha.conf").toString()) + " -L "
                + quoted(at("ganesha.log").toString())
                + " -N NIV_EVENT -p " + quoted(at("ganesha.pid").toString()) + " < /dev/null > /dev/null 2>&1 & }");
        must("for i in $(seq 600); do (exec 3<> /dev/tcp/" + plan.server().address()
                + "/20048) 2> /dev/null && break; sleep 0.05; done");
    }

    private String exports(ServerConfig config) {
        StringBuilder text = new StringBuilder();
        text.append("NFS_CORE_PARAM { Protocols = 3; NFS_Port = 2049; MNT_Port = 20048; Bind_Addr = ")
                .append(plan.server().address())
                .append("; Enable_NLM = false; Enable_RQUOTA = false; }\n")
                .append("NFSv4 { RecoveryBackend = fs; RecoveryRoot = ")
                .append(at("recovery"))
                .append("; Graceless = true; }\nLOG { Default_Log_Level = EVENT; COMPONENTS { NFS3 = DEBUG; } }\n");
        Map<String, List<ServerConfig.Export>> byPath = new TreeMap<>();
        config.exports().forEach(each -> byPath.computeIfAbsent(each.path(), key -> new ArrayList<>())
                .add(each));
        int number = 1;
        for (Map.Entry<String, List<ServerConfig.Export>> each : byPath.entrySet()) {
            text.append("EXPORT { Export_Id = ")
                    .append(number++)
                    .append("; Path = ")
                    .append(each.getKey());
            text.append("; Pseudo = ").append(each.getKey()).append("; Access_Type = None; Squash = No_Root_Squash;");
            text.append(" SecType = sys; Protocols = 3; Transports = TCP,UDP; FSAL { Name = VFS; }\n");
            for (ServerConfig.Export client : each.getValue()) {
                text.append("  CLIENT { Clients = ").append(client.client());
                text.append("; Access_Type = ").append(client.writable() ? "RW" : "RO");
                text.append("; Squash = No_Root_Squash; }\n");
            }
            text.append("}\n");
        }
        return text.toString();
    }

    @Override
    public Optional<BoardAsk.Lease> lease(String mac) throws IOException {
        must("ip -n board link set eth0 down; ip -n board addr flush dev eth0; ip -n board link set eth0 address " + mac
                + " && ip -n board link set eth0 up");
        ShellSession.Ended asked = board(
                "udhcpc -i eth0 -n -q -f -t 4 -T 1 -s " + quoted(at("lease.sh").toString()));
        Matcher bound = BOUND.matcher(asked.output());
        if (!bound.find()) {
            return Optional.empty();
        }
        return Optional.of(new BoardAsk.Lease(
                bound.group(1), bound.group(2).isEmpty() ? Optional.empty() : Optional.of(bound.group(2))));
    }

    @Override
    public Optional<byte[]> fetch(String path) throws IOException {
        Path got = at("fetched");
        Files.deleteIfExists(got);
        ShellSession.Ended asked = board("timeout 120 curl -s -o " + quoted(got.toString()) + " "
                + quoted("tftp://" + plan.server().address() + "/" + escaped(path)));
        if (asked.exit() == ABSENT || !Files.isRegularFile(got) || Files.size(got) > LARGEST) {
            return Optional.empty();
        }
        return asked.exit() == 0 ? Optional.of(Files.readAllBytes(got)) : Optional.empty();
    }

    @Override
    public boolean mounts(String path) throws IOException {
        ShellSession.Ended asked =
                board("timeout 60 nfs-ls " + quoted(nfs(path)) + " 2>&1 | tail -3; exit ${PIPESTATUS[0]}");
        return asked.exit() == 0 && !asked.output().contains("MNT3ERR");
    }

    @Override
    public Optional<byte[]> look(String mounted, String path) throws IOException {
        Path got = at("looked");
        Path errors = at("looked.errors");
        Files.deleteIfExists(got);
        // It ends well whatever it found, and says on the side what it did not.
        ShellSession.Ended asked = board("timeout 60 nfs-cat " + quoted(nfs(mounted + path)) + " > "
                + quoted(got.toString()) + " 2> " + quoted(errors.toString()));
        boolean there = asked.exit() == 0 && Files.isRegularFile(got) && Files.size(errors) == 0;
        return there ? Optional.of(Files.readAllBytes(got)) : Optional.empty();
    }

    private String nfs(String path) {
        return "nfs://" + plan.server().address() + escaped(path) + "?version=3";
    }

    private static String escaped(String path) {
        StringBuilder text = new StringBuilder();
        for (byte each : path.getBytes(java.nio.charset.StandardCharsets.UTF_8)) {
            boolean plain = each > 0 && (Character.isLetterOrDigit(each) || "/._-~".indexOf(each) >= 0);
            text.append(plain ? String.valueOf((char) each) : String.format(Locale.ROOT, "%%%02X", each));
        }
        return text.toString();
    }

    /** Runs something else beside the servers, in their network. */
    public String beside(String command) throws IOException {
        return shell.run(command).output();
    }

    /** In the place of a board. */
    private ShellSession.Ended board(String command) throws IOException {
        return shell.run("ip netns exec board bash -c " + quoted(command));
    }

    /** What dnsmasq said so far, then what the NFS server did. */
    public List<String> log() throws IOException {
        List<String> lines = new ArrayList<>(leases());
        lines.addAll(mounts());
        return lines;
    }

    private List<String> leases() throws IOException {
        List<String> lines = new ArrayList<>(lines("dnsmasq.log"));
        lines.addAll(said);
        return lines;
    }

    private List<String> mounts() throws IOException {
        return lines("ganesha.log").stream()
                .filter(line -> line.contains(" mnt_Mnt :"))
                .toList();
    }

    private List<String> lines(String name) throws IOException {
        return Files.exists(at(name))
                ? Files.readAllLines(at(name), java.nio.charset.StandardCharsets.ISO_8859_1)
                : List.of();
    }

    /** Without what it says of itself and of every option it sends. */
    @Override
    public List<String> said() throws IOException {
        List<String> asked = leases().stream()
                .filter(line -> TOLD_OF_REQUEST.matcher(line).find())
                .toList();
        List<String> mounted = mounts();
        List<String> since = new ArrayList<>(asked.subList(Math.min(askedTold, asked.size()), asked.size()));
        since.addAll(mounted.subList(Math.min(mountedTold, mounted.size()), mounted.size()));
        askedTold = asked.size();
        mountedTold = mounted.size();
        return since;
    }

    private void must(String command) throws IOException {
        ShellSession.Ended ended = shell.run(command);
        if (ended.exit() != 0) {
            throw new NotPossible("A network of its own could not be set up here: "
                    + ended.output().strip());
        }
    }

    static String quoted(String word) {
        return "'" + word.replace("'", "'\\''") + "'";
    }

    @Override
    public void close() throws IOException {
        shell.run("kill $(cat " + quoted(at("dnsmasq.pid").toString())
                + ") 2> /dev/null; kill $(jobs -p) 2> /dev/null; true");
        shell.close();
        Folders.delete(work.path());
    }
}

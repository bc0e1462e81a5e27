// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The text files a server works by: dnsmasq(8), exports(5), and the steps for whoever puts them in place. */
public final class ServerFiles {
    public static final String DHCP = "dnsmasq.conf";
    public static final String STEPS = "STEPS.txt";

    private ServerFiles() {}

    /** What a board gets from its server apart from files: by their paths in the kit. */
    public static Map<String, String> of(NetworkPlan.Server server, NetworkPlan.Client client, BoardProfile profile) {
        Map<String, String> files = new TreeMap<>();
        files.put("dnsmasq.d/" + client.id() + ".conf", lease(server, client, profile));
        files.put("exports.d/" + client.id() + ".exports", exports(server, client, profile));
        return files;
    }

    public static Map<String, String> of(NetworkPlan.Server server) throws UnreadableInput {
        return Map.of(DHCP, dhcp(server), STEPS, steps(server));
    }

    private static String dhcp(NetworkPlan.Server server) throws UnreadableInput {
        Addresses addresses = new Addresses(server);
        List<String> lines = new ArrayList<>();
        lines.add(
                "# Addresses and start files for boards that start over the network; each board has a file in dnsmasq.d.");
        lines.add("# Put in place with one line in /etc/dnsmasq.d: conf-file=" + server.at(DHCP));
        lines.add("port=0");
        lines.add("interface=" + server.device());
        lines.add("bind-interfaces");
        if (server.besideRouter()) {
            lines.add("# Addresses come from the router: this only adds where the start files are.");
            lines.add("dhcp-range=" + addresses.network() + ",proxy," + addresses.netmask());
            lines.add("dhcp-ignore=tag:!known");
            lines.add("pxe-service=0,\"Start over the network\"");
        } else {
            lines.add("# Only boards that are named in dnsmasq.d get an address.");
            lines.add("dhcp-range=" + addresses.network() + ",static," + addresses.netmask() + ",12h");
            server.router().ifPresent(router -> lines.add("dhcp-option=option:router," + router));
        }
        lines.add("enable-tftp");
        lines.add("tftp-root=" + server.at("tftp"));
        lines.add("log-dhcp");
        lines.add("conf-dir=" + server.at("dnsmasq.d") + ",*.conf");
        return String.join("\n", lines) + "\n";
    }

    private static String lease(NetworkPlan.Server server, NetworkPlan.Client client, BoardProfile profile) {
        // Beside a router the address is the one that is reserved there; here it only says which board it is.
        StringBuilder text = new StringBuilder("dhcp-host=" + client.plainMac() + ",set:" + client.id() + ","
                + client.address().orElseThrow() + "," + client.host() + "\n");
        if (profile.network().by().equals("boot-file")) {
            String file = client.id() + "/" + bootFile(profile);
            text.append(
                    server.besideRouter()
                            ? "pxe-service=tag:" + client.id() + ",11,\"Start over the network\"," + file + "\n"
                            : "dhcp-boot=tag:" + client.id() + "," + file + "\n");
        } else {
            text.append("dhcp-option=tag:" + client.id() + ",option:tftp-server," + server.address() + "\n");
        }
        return text.toString();
    }

    /** The first name a family's firmware takes that is one and no pattern. */
    static String bootFile(BoardProfile profile) {
        return profile.network().names().stream()
                .filter(name -> !name.contains("*") && name.contains("/"))
                .findFirst()
                .or(() -> profile.network().names().stream()
                        .filter(name -> !name.contains("*"))
                        .findFirst())
                .orElse("EFI/BOOT/BOOTAA64.EFI");
    }

    private static String exports(NetworkPlan.Server server, NetworkPlan.Client client, BoardProfile profile) {
        String address = client.address().orElseThrow();
        StringBuilder text = new StringBuilder();
        boolean own = client.rootKind() == NetworkPlan.Root.OWN;
        text.append(line(server.at(ClientFiles.rootFolder(client)), address, own));
        if (client.rootKind() == NetworkPlan.Root.STATE) {
            text.append(line(server.at("state/" + client.host()), address, true));
        }
        if (own && profile.network().by().equals("serial")) {
            text.append(line(server.at("tftp/" + ClientFiles.folder(client, profile)), address, true));
        }
        return text.toString();
    }

    private static String line(String path, String address, boolean writable) {
        return path + " " + address + "(" + (writable ? "rw" : "ro") + ",sync,no_subtree_check,no_root_squash)\n";
    }

    private static String steps(NetworkPlan.Server server) {
        return """
                What to do, in this order. Nothing here has been done yet.

                On the server, %1$s:
                1. Its storage should be an SSD, not a card; give it the address %2$s.
                2. Install dnsmasq and an NFS server (nfs-kernel-server).
                3. Copy this folder to %3$s, owners kept, as root.
                4. Unpack each root that is still a tar, as root, such as:
                   mkdir -p %3$s/roots/NAME
                   tar -C %3$s/roots/NAME --numeric-owner --xattrs --xattrs-include='*' -xpf %3$s/roots/NAME.tar
                   and likewise what lies in state.
                5. Check what arrived: sha256sum -c clients/NAME.sha256, and who made the list:
                   openssl pkeyutl -verify -pubin -inkey kit.pub -rawin -in clients/NAME.sha256 -sigfile clients/NAME.sha256.sig
                6. echo conf-file=%3$s/dnsmasq.conf > /etc/dnsmasq.d/boards.conf; restart dnsmasq.
                7. Copy exports.d/*.exports to /etc/exports.d; exportfs -ra.
                   %4$s

                At each board, one after the other, the server first:
                8. Power off before anything is plugged; power goes in last.
                9. Set its start order so that the network is in it, and restart it: do not switch it off, or the order is lost.
                10. Only when it runs from the network, take its card out and keep it as its rescue.

                Start files are handed out to whoever asks: keep passwords out of them. Mains adapters and Power over Ethernet:
                use approved ones, follow local codes, leave fixed wiring to licensed people.
                """
                .formatted(
                        server.name(),
                        server.address(),
                        server.folder(),
                        server.besideRouter()
                                ? "In the router, reserve each board's address for its hardware address (both are in clients)."
                                : "Nobody else on this network may hand out addresses to these boards: switch that off for them"
                                        + " in the router, or plan beside it.");
    }
}

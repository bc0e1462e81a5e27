// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What a server would do by its files, as far as boards are concerned: who gets which address and boot file, what is handed out, who may
 * mount what (dnsmasq(8), exports(5)). Other lines are passed over.
 *
 * @param addresses whether it hands any out
 * @param files whether it hands out start files, and from which folder
 * @param hosts by hardware address
 */
public record ServerConfig(boolean addresses, Optional<String> files, Map<String, Host> hosts, List<Export> exports) {

    /** A board it knows; address is empty where a router gives it. */
    public record Host(Optional<String> address, Optional<String> bootFile) {}

    /** A folder somebody may mount. */
    public record Export(String path, String client, boolean writable) {
        boolean covers(String asked) {
            String plain = path.length() > 1 ? path.replaceFirst("/+$", "") : path;
            return asked.equals(plain) || asked.startsWith(plain + "/");
        }

        boolean allows(String address) {
            return client.equals("*") || client.equals(address);
        }
    }

    /** Where leases: texts of dnsmasq's files; exports: of the NFS server's. */
    public static ServerConfig parse(Collection<String> leases, Collection<String> exports) {
        boolean range = false;
        boolean handsOut = false;
        Optional<String> root = Optional.empty();
        Map<String, Host> hosts = new HashMap<>();
        Map<String, String> tagOf = new HashMap<>();
        Map<String, String> bootOf = new HashMap<>();
        for (String text : leases) {
            for (String raw : text.lines().toList()) {
                String line = raw.strip();
                String value = line.substring(line.indexOf('=') + 1).strip();
                if (line.startsWith("dhcp-range=")) {
                    range = true;
                } else if (line.equals("enable-tftp")) {
                    handsOut = true;
                } else if (line.startsWith("tftp-root=")) {
                    root = Optional.of(value.replaceFirst("/+$", ""));
                } else if (line.startsWith("dhcp-host=")) {
                    host(value, hosts, tagOf);
                } else if (line.startsWith("dhcp-boot=tag:")) {
                    String[] parts = value.split(",");
                    if (parts.length > 1) {
                        bootOf.put(parts[0].substring(4), parts[1]);
                    }
                }
            }
        }
        tagOf.forEach((mac, tag) -> hosts.computeIfPresent(
                mac, (key, host) -> new Host(host.address(), Optional.ofNullable(bootOf.get(tag)))));
        List<Export> all = new ArrayList<>();
        for (String text : exports) {
            text.lines().map(String::strip).filter(line -> line.startsWith("/")).forEach(line -> export(line, all));
        }
        return new ServerConfig(range, handsOut ? root : Optional.empty(), Map.copyOf(hosts), List.copyOf(all));
    }

    private static void host(String value, Map<String, Host> hosts, Map<String, String> tags) {
        String mac = "";
        Optional<String> address = Optional.empty();
        for (String part : value.split(",")) {
            String word = part.strip();
            if (word.matches("([0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}")) {
                mac = word.toLowerCase(Locale.ROOT);
            } else if (word.startsWith("set:")) {
                tags.put(mac, word.substring(4));
            } else if (word.matches("\\d{1,3}(\\.\\d{1,3}){3}")) {
                address = Optional.of(word);
            }
        }
        if (!mac.isEmpty()) {
            hosts.put(mac, new Host(address, Optional.empty()));
        }
    }

    private static void export(String line, List<Export> all) {
        String[] words = line.split("\\s+");
        for (int i = 1; i < words.length; i++) {
            int open = words[i].indexOf('(');
            String who = open < 0 ? words[i] : words[i].substring(0, open);
            all.add(new Export(words[0], who, words[i].contains("(rw") || words[i].contains(",rw")));
        }
    }

    /** What somebody with this address may mount. */
    public List<Export> exportsFor(String address) {
        return exports.stream().filter(each -> each.allows(address)).toList();
    }

    public boolean mounts(String address, String path) {
        return exportsFor(address).stream().anyMatch(each -> each.covers(path));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import static exordium.core.firststart.lint.TextFlaws.shown;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.core.firststart.kernelline.HostName;
import exordium.core.firststart.kernelline.IpWord;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.quantity.Slips;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Looks through the files of cloud-init's NoCloud: user-data and network-config (cloud-init documentation: modules, network config
 * versions 1 and 2).
 */
public final class CloudLint {
    static final Basis DOCUMENTATION = Basis.standard("cloud-init documentation");
    private static final int LARGEST = 1 << 20;

    /** Those that belong to no single product or maker; what is none of them is a note unless it is nearly one. */
    private static final Set<String> USER_KEYS = Set.of(
            "apt",
            "apt_pipelining",
            "bootcmd",
            "ca_certs",
            "chpasswd",
            "create_hostname_file",
            "device_aliases",
            "disable_root",
            "disable_root_opts",
            "disk_setup",
            "drivers",
            "enable_ssh",
            "final_message",
            "fqdn",
            "fs_setup",
            "groups",
            "growpart",
            "grub_dpkg",
            "hostname",
            "hotplug",
            "keyboard",
            "keys_to_console",
            "launch-index",
            "locale",
            "locale_configfile",
            "manage_etc_hosts",
            "manage_resolv_conf",
            "merge_how",
            "merge_type",
            "migrate",
            "mount_default_fields",
            "mounts",
            "network",
            "no_ssh_fingerprints",
            "ntp",
            "output",
            "package_reboot_if_required",
            "package_update",
            "package_upgrade",
            "packages",
            "password",
            "phone_home",
            "power_state",
            "prefer_fqdn_over_hostname",
            "preserve_hostname",
            "random_seed",
            "reporting",
            "resize_rootfs",
            "resolv_conf",
            "rsyslog",
            "runcmd",
            "ssh",
            "ssh_authorized_keys",
            "ssh_deletekeys",
            "ssh_fp_console_blacklist",
            "ssh_genkeytypes",
            "ssh_import_id",
            "ssh_keys",
            "ssh_publish_hostkeys",
            "ssh_pwauth",
            "ssh_quiet_keygen",
            "swap",
            "system_info",
            "timezone",
            "updates",
            "user",
            "users",
            "vendor_data",
            "version",
            "write_files",
            "swap_size");

    private static final Set<String> NETWORK_KEYS = Set.of(
            "version", "renderer", "ethernets", "wifis", "bonds", "bridges", "vlans", "config", "modems", "tunnels");
    private static final Set<String> DEVICE_KEYS = Set.of(
            "match",
            "set-name",
            "wakeonlan",
            "dhcp4",
            "dhcp6",
            "dhcp4-overrides",
            "dhcp6-overrides",
            "dhcp-identifier",
            "addresses",
            "gateway4",
            "gateway6",
            "mtu",
            "nameservers",
            "routes",
            "optional",
            "macaddress",
            "access-points",
            "regulatory-domain",
            "renderer",
            "link-local",
            "accept-ra",
            "critical",
            "routing-policy",
            "auth",
            "optional-addresses");

    private final List<LineFinding> found = new ArrayList<>();
    private final List<String> lines;

    private CloudLint(String text) {
        this.lines = List.of(text.split("\n", -1));
    }

    /** The file user-data. */
    public static List<LineFinding> userData(byte[] content) {
        return run(content, true);
    }

    /** The file network-config, with or without its outermost key. */
    public static List<LineFinding> network(byte[] content) {
        return run(content, false);
    }

    private static List<LineFinding> run(byte[] content, boolean user) {
        Optional<Finding> broken = TextFlaws.notText(content);
        if (broken.isPresent()) {
            return List.of(LineFinding.of(broken.get(), 1));
        }
        String text = TextFlaws.text(content);
        CloudLint lint = new CloudLint(text);
        if (content.length > LARGEST) {
            lint.add(
                    Severity.STOP,
                    "cloud-not-yaml",
                    "The file is larger than any such file; nothing of it is taken.",
                    1);
            return lint.found;
        }
        if (user && !text.stripLeading().startsWith("#cloud-config")) {
            lint.add(
                    Severity.STOP,
                    "cloud-not-yaml",
                    "Line 1: it must begin with #cloud-config, and begins with \"" + shown(lint.lines.get(0)) + "\".",
                    1);
            return lint.found;
        }
        try {
            JsonNode all = new ObjectMapper(new YAMLFactory()).readTree(text);
            if (all == null || all.isMissingNode() || all.isNull()) {
                return lint.found;
            }
            if (!all.isObject()) {
                lint.add(Severity.STOP, "cloud-not-yaml", "Line 1: it holds no keys with values.", 1);
                return lint.found;
            }
            if (user) {
                lint.user(all);
            } else {
                lint.networkOf(all.path("network").isObject() ? all.path("network") : all);
            }
        } catch (JsonProcessingException e) {
            int line = e.getLocation() == null ? 1 : Math.max(1, e.getLocation().getLineNr());
            lint.add(
                    Severity.STOP,
                    "cloud-not-yaml",
                    "Line " + line + ": it cannot be read as YAML there; look at its colons, quotes and indents.",
                    line);
        }
        lint.found.sort(Comparator.comparingInt(LineFinding::line));
        return lint.found;
    }

    private void add(Severity severity, String code, String words, int line) {
        found.add(LineFinding.of(
                new Finding(severity, code, words, DOCUMENTATION, Optional.of(Step.FIRST_START), Optional.empty()),
                line));
    }

    private void add(Finding finding, int line) {
        found.add(LineFinding.of(finding, line));
    }

    /** The first line with that word as a key; values are not looked at. */
    private int lineOf(String key) {
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).matches("\\s*(-\\s+)?[\"']?" + java.util.regex.Pattern.quote(key) + "[\"']?\\s*:.*")) {
                return i + 1;
            }
        }
        return 1;
    }

    private void keys(JsonNode node, Set<String> known) {
        for (Iterator<String> names = node.fieldNames(); names.hasNext(); ) {
            String name = names.next();
            if (!known.contains(name)) {
                Optional<String> near = known.stream()
                        .filter(each -> Slips.between(name, each) <= 2)
                        .sorted()
                        .findFirst();
                add(
                        near.isPresent() ? Severity.CAUTION : Severity.NOTE,
                        "cloud-key-unknown",
                        "Line " + lineOf(name) + ": \"" + shown(name) + "\" is no key known here"
                                + near.map(each -> "; did you mean " + each + "?")
                                        .orElse("."),
                        lineOf(name));
            }
        }
    }

    private void user(JsonNode all) {
        keys(all, USER_KEYS);
        for (String key : List.of("hostname", "fqdn")) {
            if (all.hasNonNull(key) && !HostName.valid(all.path(key).asText())) {
                add(
                        new Finding(
                                Severity.STOP,
                                "host-name-malformed",
                                "Line " + lineOf(key) + ": \""
                                        + shown(all.path(key).asText())
                                        + "\" is no host name: letters, digits and dashes, at most 63, no dash at either end.",
                                Basis.standard("RFC 1123, section 2.1"),
                                Optional.of(Step.FIRST_START),
                                Optional.empty()),
                        lineOf(key));
            }
        }
        secret("the usual account", all.path("password"), "password");
        for (JsonNode each : all.path("users")) {
            String name = each.path("name").asText("an account");
            secret(name, each.path("plain_text_passwd"), "plain_text_passwd");
            secret(name, each.path("passwd"), "passwd");
            secret(name, each.path("hashed_passwd"), "hashed_passwd");
        }
        JsonNode list = all.path("chpasswd").path("list");
        List<String> pairs = new ArrayList<>();
        list.forEach(each -> pairs.add(each.asText()));
        if (list.isTextual()) {
            pairs.addAll(List.of(list.asText().split("\n")));
        }
        for (String pair : pairs) {
            String[] halves = pair.strip().split(":", 2);
            if (halves.length == 2 && !Set.of("R", "RANDOM").contains(halves[1]) && !UserFileLint.isHash(halves[1])) {
                add(UserFileLint.inClear(halves[0], halves[1], "Line " + lineOf("list") + ": "), lineOf("list"));
            }
        }
        for (JsonNode each : all.path("chpasswd").path("users")) {
            if (!each.path("type").asText("hash").equals("RANDOM")) {
                secret(each.path("name").asText("an account"), each.path("password"), "password");
            }
        }
        if (all.path("network").isObject()) {
            networkOf(all.path("network"));
        }
    }

    private void secret(String name, JsonNode value, String key) {
        if (value.isValueNode()
                && !value.isNull()
                && !value.asText().isEmpty()
                && !UserFileLint.locked(value.asText())
                && !UserFileLint.isHash(value.asText())) {
            add(UserFileLint.inClear(name, value.asText(), "Line " + lineOf(key) + ": "), lineOf(key));
        }
    }

    private void networkOf(JsonNode network) {
        keys(network, NETWORK_KEYS);
        for (String kind : List.of("ethernets", "wifis", "bonds", "bridges", "vlans")) {
            for (Iterator<Map.Entry<String, JsonNode>> all = network.path(kind).fields(); all.hasNext(); ) {
                JsonNode device = all.next().getValue();
                if (kind.equals("ethernets") || kind.equals("wifis")) {
                    keys(device, DEVICE_KEYS);
                }
                addresses(device);
                if (kind.equals("wifis")) {
                    new CloudRadio(this::lineOf, found).look(device);
                }
            }
        }
    }

    private void addresses(JsonNode device) {
        List<String> own = new ArrayList<>();
        for (JsonNode each : device.path("addresses")) {
            String address = each.isTextual()
                    ? each.asText()
                    : each.fieldNames().hasNext() ? each.fieldNames().next() : "";
            if (address.contains(":")) {
                continue;
            }
            String[] halves = address.split("/", -1);
            boolean right = halves.length == 2
                    && IpWord.number(halves[0]).isPresent()
                    && halves[1].matches("\\d{1,2}")
                    && Integer.parseInt(halves[1]) <= 32;
            if (right) {
                own.add(address);
                new IpWord(List.of(halves[0]))
                        .faults().stream()
                                .filter(fault -> fault.flaw() == IpWord.Flaw.RESERVED)
                                .forEach(fault -> add(Severity.STOP, fault.code(), fault.text(), lineOf("addresses")));
            } else {
                add(
                        Severity.STOP,
                        "address-malformed",
                        "Line " + lineOf("addresses") + ": \"" + shown(address)
                                + "\" is no address with the length of its network, such as 192.168.4.20/24.",
                        lineOf("addresses"));
            }
        }
        gateway(device.path("gateway4"), own, "gateway4");
        for (JsonNode route : device.path("routes")) {
            if (Set.of("default", "0.0.0.0/0").contains(route.path("to").asText())) {
                gateway(route.path("via"), own, "via");
            }
        }
    }

    private void gateway(JsonNode value, List<String> own, String key) {
        String gateway = value.asText("");
        if (gateway.isEmpty() || gateway.contains(":")) {
            return;
        }
        Optional<Long> number = IpWord.number(gateway);
        if (number.isEmpty()) {
            add(
                    Severity.STOP,
                    "address-malformed",
                    "Line " + lineOf(key) + ": the gateway \"" + shown(gateway) + "\" is no IPv4 address.",
                    lineOf(key));
        } else if (!own.isEmpty() && own.stream().noneMatch(address -> holds(address, number.get()))) {
            add(
                    Severity.CAUTION,
                    "address-outside-network",
                    "Line " + lineOf(key) + ": the gateway " + gateway + " is not in the network of " + own.get(0)
                            + "; it is never reached.",
                    lineOf(key));
        }
    }

    private static boolean holds(String address, long gateway) {
        String[] halves = address.split("/");
        int bits = Integer.parseInt(halves[1]);
        long mask = bits == 0 ? 0 : 0xFFFFFFFFL << (32 - bits) & 0xFFFFFFFFL;
        return (IpWord.number(halves[0]).orElseThrow() & mask) == (gateway & mask);
    }
}

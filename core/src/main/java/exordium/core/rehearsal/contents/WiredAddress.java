// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The IPv4 address a root fixes for its wired socket: systemd.network(5), NetworkManager's keyfiles
 * (nm-settings-keyfile(5)), interfaces(5), dhcpcd.conf(5). Wireless connections are not looked at.
 */
final class WiredAddress {
    private static final String IPV4 = "((?:\\d{1,3}\\.){3}\\d{1,3})";
    private static final Pattern NETWORKD = Pattern.compile("(?m)^\\s*Address\\s*=\\s*" + IPV4);
    private static final Pattern WIRELESS = Pattern.compile("(?mi)^\\s*(Name\\s*=\\s*wl.*|Type\\s*=\\s*wlan)");
    private static final Pattern WIRED_KEYFILE = Pattern.compile("(?m)^\\s*type\\s*=\\s*(802-3-)?ethernet\\s*$");
    private static final Pattern MANUAL =
            Pattern.compile("(?s)\\[ipv4\\](?:(?!\\n\\[).)*?\\n\\s*address(?:es|1)\\s*=\\s*" + IPV4);
    private static final Pattern INTERFACES = Pattern.compile(
            "(?m)^\\s*iface\\s+e\\S+\\s+inet\\s+static\\s*\\n(?:\\s+(?!address).*\\n)*\\s+address\\s+" + IPV4);
    private static final Pattern DHCPCD = Pattern.compile(
            "(?m)^\\s*interface\\s+e\\S+\\s*\\n(?:(?!\\s*interface).*\\n)*?\\s*static\\s+ip_address\\s*=\\s*" + IPV4);

    private WiredAddress() {}

    static Optional<String> in(RootFacts.Contents root) throws IOException {
        for (String text : texts(root, "/etc/systemd/network", ".network")) {
            Optional<String> address = WIRELESS.matcher(text).find() ? Optional.empty() : first(NETWORKD, text);
            if (address.isPresent()) {
                return address;
            }
        }
        for (String text : texts(root, "/etc/NetworkManager/system-connections", ".nmconnection")) {
            Optional<String> address = WIRED_KEYFILE.matcher(text).find() ? first(MANUAL, text) : Optional.empty();
            if (address.isPresent()) {
                return address;
            }
        }
        Optional<String> interfaces = first(INTERFACES, text(root, "/etc/network/interfaces"));
        return interfaces.isPresent() ? interfaces : first(DHCPCD, text(root, "/etc/dhcpcd.conf"));
    }

    private static List<String> texts(RootFacts.Contents root, String folder, String ending) throws IOException {
        List<String> texts = new ArrayList<>();
        for (String name : new TreeSet<>(root.list(folder))) {
            if (name.endsWith(ending)) {
                texts.add(text(root, folder + "/" + name));
            }
        }
        return texts;
    }

    private static String text(RootFacts.Contents root, String path) throws IOException {
        return root.read(path)
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .orElse("");
    }

    private static Optional<String> first(Pattern pattern, String text) {
        Matcher matcher = pattern.matcher(text);
        return matcher.find() ? Optional.of(matcher.group(1)) : Optional.empty();
    }
}

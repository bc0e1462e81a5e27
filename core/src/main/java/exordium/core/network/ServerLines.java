// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * Whether a server may be started by the files of a kit, whoever made them. dnsmasq(8) runs programs, reads other files and listens elsewhere
 * when its files say so: only lines of the kinds a kit is made of are let through, each with what belongs into it. Everything else, comments
 * apart, is not.
 */
public final class ServerLines {
    private static final Pattern COMMENT = Pattern.compile("\\s*(#[\\t\\x20-\\x7e\\x{a0}-\\x{ffff}]*)?");
    private static final Pattern LINE = Pattern.compile("\\s*([a-z][a-z0-9-]*)(?:\\s*=\\s*(.*?))?\\s*");
    /** Words as they stand in options, addresses and titles: nothing that begins a file of options or a program. */
    private static final Pattern WORDS = Pattern.compile("[A-Za-z0-9_.:,/!*\\[\\] \"+-]{1,500}");

    private static final Pattern NOTHING = Pattern.compile("");
    private static final Pattern EXPORT_CLIENT = Pattern.compile("[A-Za-z0-9_.:/*-]{1,100}");
    private static final Pattern EXPORT_PATH = Pattern.compile("(/[A-Za-z0-9_-][A-Za-z0-9_.-]*)+");
    private static final int LONGEST = 1000;

    private static final Map<String, Pattern> MAY = Map.ofEntries(
            Map.entry("port", Pattern.compile("0")),
            Map.entry("bind-interfaces", NOTHING),
            Map.entry("enable-tftp", NOTHING),
            Map.entry("tftp-no-blocksize", NOTHING),
            Map.entry("log-dhcp", NOTHING),
            Map.entry("no-ping", NOTHING),
            Map.entry("dhcp-authoritative", NOTHING),
            Map.entry("dhcp-range", WORDS),
            Map.entry("dhcp-host", WORDS),
            Map.entry("dhcp-boot", WORDS),
            Map.entry("dhcp-option", WORDS),
            Map.entry("dhcp-option-force", WORDS),
            Map.entry("dhcp-ignore", WORDS),
            Map.entry("dhcp-match", WORDS),
            Map.entry("dhcp-vendorclass", WORDS),
            Map.entry("pxe-service", WORDS),
            Map.entry("pxe-prompt", WORDS));

    private final NetworkPlan.Server server;

    public ServerLines(NetworkPlan.Server server) {
        this.server = server;
    }

    /** Why a server is not started by one of dnsmasq's files; empty where it may be. Where name: of the file, for its user. */
    public Optional<String> strange(String name, String text) {
        List<String> lines = text.lines().toList();
        for (int i = 0; i < lines.size(); i++) {
            if (!may(lines.get(i))) {
                String word = lines.get(i).strip().split("[=\\s]", 2)[0];
                return Optional.of(name + ", line " + (i + 1) + ": \""
                        + word.substring(0, Math.min(word.length(), 40)).replaceAll("[^\\x20-\\x7e]", "?")
                        + "\" is not carried out, since a kit needs no such line and it may run a program, read other files or"
                        + " listen elsewhere. Take it out, or make the kit again.");
            }
        }
        return Optional.empty();
    }

    private boolean may(String line) {
        if (COMMENT.matcher(line).matches()) {
            return true;
        }
        var words = LINE.matcher(line);
        if (line.length() > LONGEST || !words.matches()) {
            return false;
        }
        String value = words.group(2) == null ? "" : words.group(2);
        return switch (words.group(1)) {
            case "interface" -> value.equals(server.device());
            case "tftp-root" -> isOurs(value);
            case "conf-dir" -> value.equals(server.at("dnsmasq.d") + ",*.conf");
            default -> {
                Pattern belongs = MAY.get(words.group(1));
                yield belongs != null && belongs.matcher(value).matches();
            }
        };
    }

    private boolean isOurs(String path) {
        String plain = path.replaceFirst("/+\\z", "");
        return EXPORT_PATH.matcher(plain).matches() && plain.startsWith(server.folder() + "/");
    }

    /** Why a folder is not handed out; empty where it may be. Another server's folders are nobody's business here. */
    public Optional<String> strange(ServerConfig.Export export) {
        boolean ours = !export.path().startsWith(server.folder() + "/")
                || (EXPORT_PATH.matcher(export.path()).matches()
                        && EXPORT_CLIENT.matcher(export.client()).matches());
        return ours
                ? Optional.empty()
                : Optional.of("exports.d: \"" + export.path().replaceAll("[^\\x20-\\x7e]", "?")
                        + "\" is no folder of the kit for a board; make the kit again.");
    }
}

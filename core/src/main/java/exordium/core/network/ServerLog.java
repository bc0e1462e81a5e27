// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.rehearsal.contents.Cause;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How far each board came, by its server's log: dnsmasq 2.90's own lines (held against the real one in a test), and those of rpc.mountd(8)
 * (from memory) or of NFS-Ganesha 4.3.
 */
public final class ServerLog {
    private static final int MOST = 8 << 20;
    private static final String MAC = "([0-9a-fA-F]{2}(?::[0-9a-fA-F]{2}){5})";
    private static final String IP = "(\\d{1,3}(?:\\.\\d{1,3}){3})";
    private static final Pattern ASKED = Pattern.compile("DHCPDISCOVER\\(\\S+\\) (?:" + IP + " )?" + MAC + "(.*)");
    private static final Pattern GIVEN = Pattern.compile("DHCPACK\\(\\S+\\) " + IP + " " + MAC);
    private static final Pattern PROXY = Pattern.compile("PXE\\(\\S+\\) (?:" + IP + " )?" + MAC + " (?:proxy|(\\S+))");
    private static final Pattern REFUSED = Pattern.compile("DHCPNAK\\(\\S+\\) " + IP + " " + MAC);
    private static final Pattern SENT = Pattern.compile("sent (\\S+) to " + IP);
    private static final Pattern MISSING = Pattern.compile("file (\\S+) not found for " + IP);
    private static final Pattern CUT =
            Pattern.compile("(?:failed sending|error \\d+ .*received from) (?:\\S+ to )?" + IP);
    private static final Pattern DENIED_FILE = Pattern.compile("cannot access (\\S+): (.*)");
    private static final Pattern MOUNTED =
            Pattern.compile("authenticated mount request from " + IP + "(?::\\d+)? for (\\S+)");
    private static final Pattern GANESHA = Pattern.compile(
            "\\[(svc_\\d+)\\] mnt_Mnt :.*(?:Calling MNT_MNT path=(\\S+)|MOUNT: (.*) for client (?:::ffff:)?" + IP
                    + ")");
    private static final Pattern NO_MOUNT =
            Pattern.compile("refused mount request from " + IP + "(?::\\d+)? for (\\S+)");

    private final Map<String, Heard> byMac = new LinkedHashMap<>();
    private final Map<String, String> macOf = new LinkedHashMap<>();
    private final Map<String, Heard> byAddress = new LinkedHashMap<>();
    private final Map<String, String> asking = new LinkedHashMap<>();
    private final Set<String> denied = new LinkedHashSet<>();

    private ServerLog() {}

    /** All that a log has of one address. */
    public static final class Heard {
        private int asked;
        private int given;
        private boolean ignored;
        private final Set<String> sent = new LinkedHashSet<>();
        private final Set<String> missing = new LinkedHashSet<>();
        private final Set<String> mounted = new LinkedHashSet<>();
        private final Set<String> refused = new LinkedHashSet<>();
        private boolean cut;
        private String address = "";

        private void add(Heard other) {
            sent.addAll(other.sent);
            missing.addAll(other.missing);
            mounted.addAll(other.mounted);
            refused.addAll(other.refused);
            cut |= other.cut;
        }
    }

    /**
     * What it says of a board.
     *
     * @param board its name in the plan; its hardware address where it is a stranger there
     * @param files it was sent; missing: asked for and not there
     */
    public record Line(
            String board,
            String mac,
            String address,
            BoardAsk.Reached reached,
            Cause cause,
            String text,
            List<String> files,
            List<String> missing) {}

    /** The boards of a plan first, in its order, then strangers that asked. */
    public static List<Line> read(String text, NetworkPlan plan, Function<String, BoardProfile> profiles) {
        ServerLog log = new ServerLog();
        String end = text.length() > MOST ? text.substring(text.length() - MOST) : text;
        end.lines().forEach(log::take);
        List<Line> lines = new ArrayList<>();
        Set<String> known = new TreeSet<>();
        for (NetworkPlan.Client client : plan.clients()) {
            known.add(client.plainMac());
            lines.add(log.of(client, plan.server(), profiles.apply(client.profile())));
        }
        for (String mac : log.byMac.keySet()) {
            if (!known.contains(mac)) {
                lines.add(log.stranger(mac, plan));
            }
        }
        return lines;
    }

    private void take(String line) {
        Matcher found;
        if ((found = ASKED.matcher(line)).find()) {
            Heard heard = heard(found.group(2));
            heard.asked++;
            heard.ignored |=
                    found.group(3).contains("ignored") || found.group(3).contains("no address");
        } else if ((found = GIVEN.matcher(line)).find()) {
            given(found.group(2), found.group(1));
        } else if ((found = REFUSED.matcher(line)).find()) {
            heard(found.group(2)).ignored = true;
        } else if ((found = PROXY.matcher(line)).find()) {
            Heard heard = heard(found.group(2));
            heard.asked++;
            if (found.group(1) != null) {
                given(found.group(2), found.group(1));
            }
        } else if ((found = SENT.matcher(line)).find()) {
            at(found.group(2)).sent.add(found.group(1));
        } else if ((found = MISSING.matcher(line)).find()) {
            at(found.group(2)).missing.add(found.group(1));
        } else if ((found = CUT.matcher(line)).find()) {
            at(found.group(1)).cut = true;
        } else if ((found = DENIED_FILE.matcher(line)).find()) {
            denied.add(found.group(1));
        } else if ((found = GANESHA.matcher(line)).find()) {
            ganesha(found);
        } else if ((found = NO_MOUNT.matcher(line)).find()) {
            at(found.group(1)).refused.add(found.group(2));
        } else if ((found = MOUNTED.matcher(line)).find()) {
            at(found.group(1)).mounted.add(found.group(2));
        }
    }

    /** One line says what is asked for, the next one of the same worker who asked and whether it may. */
    private void ganesha(Matcher line) {
        if (line.group(2) != null) {
            asking.put(line.group(1), line.group(2));
            return;
        }
        String path = asking.getOrDefault(line.group(1), "");
        Heard heard = at(line.group(4));
        (line.group(3).contains("does not") ? heard.refused : heard.mounted).add(path);
    }

    private void given(String mac, String address) {
        Heard heard = heard(mac);
        heard.given++;
        heard.address = address;
        macOf.put(address, mac.toLowerCase(Locale.ROOT));
    }

    private Heard heard(String mac) {
        return byMac.computeIfAbsent(mac.toLowerCase(Locale.ROOT), each -> new Heard());
    }

    private Heard at(String address) {
        return byAddress.computeIfAbsent(address, each -> new Heard());
    }

    /** By its hardware address, and by the address it has by the plan where the log does not show how it came by one. */
    private Heard all(String mac, Optional<String> planned) {
        Heard all = new Heard();
        Heard asked = byMac.get(mac);
        if (asked != null) {
            all.asked = asked.asked;
            all.given = asked.given;
            all.ignored = asked.ignored;
            all.address = asked.address;
        }
        for (Map.Entry<String, Heard> each : byAddress.entrySet()) {
            String owner = macOf.get(each.getKey());
            if (mac.equals(owner)
                    || (owner == null && planned.filter(each.getKey()::equals).isPresent())) {
                all.add(each.getValue());
                all.address = each.getKey();
            }
        }
        return all;
    }

    private Line of(NetworkPlan.Client client, NetworkPlan.Server server, BoardProfile profile) {
        Heard heard = all(client.plainMac(), client.address());
        List<String> sent = heard.sent.stream().map(path -> below(path, server)).toList();
        List<String> missing = heard.missing.stream()
                .map(path -> below(path, server))
                .filter(path -> !sent.contains(path))
                .toList();
        Judged judged = judge(client, server, profile, heard, sent, missing);
        return new Line(
                client.id(),
                client.plainMac(),
                heard.address,
                judged.reached(),
                judged.cause(),
                judged.text(),
                sent,
                missing);
    }

    private record Judged(BoardAsk.Reached reached, Cause cause, String text) {}

    private Judged judge(
            NetworkPlan.Client client,
            NetworkPlan.Server server,
            BoardProfile profile,
            Heard heard,
            List<String> sent,
            List<String> missing) {
        boolean quiet = heard.asked == 0 && heard.given == 0 && sent.isEmpty() && missing.isEmpty();
        if (quiet && heard.mounted.isEmpty() && heard.refused.isEmpty()) {
            return new Judged(
                    BoardAsk.Reached.NOTHING,
                    Cause.NETWORK_NO_LINK,
                    "The server never heard of it: no cable, another network, or an order that does not come to the network.");
        }
        if (!heard.mounted.isEmpty()) {
            return new Judged(
                    BoardAsk.Reached.ROOT,
                    Cause.NONE,
                    "It mounted " + last(heard.mounted) + "; what fails after that is in its root.");
        }
        if (!heard.refused.isEmpty()) {
            return new Judged(
                    BoardAsk.Reached.KERNEL,
                    Cause.NETWORK_NO_EXPORT,
                    "The server refused it " + last(heard.refused) + ": no export of that for "
                            + (heard.address.isEmpty() ? "it" : heard.address) + ".");
        }
        if (heard.given == 0 && sent.isEmpty() && missing.isEmpty()) {
            return new Judged(
                    BoardAsk.Reached.ASKED,
                    Cause.NETWORK_NO_LEASE,
                    heard.ignored
                            ? "It asked " + times(heard.asked) + " and got no address: the server has none for it."
                            : "It asked " + times(heard.asked) + " and never took an address.");
        }
        return files(client, server, profile, sent, missing);
    }

    private Judged files(
            NetworkPlan.Client client,
            NetworkPlan.Server server,
            BoardProfile profile,
            List<String> sent,
            List<String> missing) {
        List<String> barred = denied.stream().map(path -> below(path, server)).toList();
        boolean bySerial = profile.network().by().equals("serial");
        String folder = ClientFiles.folder(client, profile);
        if (sent.isEmpty() && missing.isEmpty() && barred.isEmpty()) {
            return new Judged(
                    BoardAsk.Reached.LEASE,
                    Cause.NETWORK_NO_FILES,
                    "It has an address and asked for no file: nobody told it where they are, or they are not handed out.");
        }
        if (sent.isEmpty() && bySerial) {
            return new Judged(
                    BoardAsk.Reached.LEASE,
                    Cause.NETWORK_NO_DIRECTORY,
                    "It was sent nothing of " + folder + ": " + wrongFolder(missing, folder));
        }
        Optional<String> lacks = needed(profile, folder, sent).filter(each -> !missing.isEmpty() || !barred.isEmpty());
        boolean line = lacks.filter(profile.startFiles().kernelLine()::equals).isPresent();
        if (lacks.isPresent()) {
            return new Judged(
                    sent.isEmpty() ? BoardAsk.Reached.LEASE : BoardAsk.Reached.FILES,
                    line ? Cause.KERNEL_LINE_BROKEN : Cause.NETWORK_NO_FILES,
                    "It was not sent " + lacks.get() + "; it asked for "
                            + (missing.isEmpty() ? last(new LinkedHashSet<>(barred)) : missing.get(missing.size() - 1))
                            + ".");
        }
        if (!bySerial && !missing.isEmpty() && needsAll(profile, sent)) {
            return new Judged(
                    sent.isEmpty() ? BoardAsk.Reached.LEASE : BoardAsk.Reached.FILES,
                    Cause.NETWORK_NO_FILES,
                    "It asked for " + missing.get(missing.size() - 1) + ", which is not there.");
        }
        return new Judged(
                BoardAsk.Reached.KERNEL,
                Cause.ROOT_NOT_FOUND,
                "It has all its start files and never asked for its root: look at the kernel line it got.");
    }

    /** Of a family that goes by menus: whether it is without a kernel or a menu. */
    private static boolean needsAll(BoardProfile profile, List<String> sent) {
        return profile.startFiles().kernels().keySet().stream()
                .noneMatch(kernel -> sent.stream().anyMatch(path -> path.endsWith(kernel)));
    }

    private static String wrongFolder(List<String> missing, String folder) {
        Optional<String> other = missing.stream()
                .filter(path -> path.contains("/"))
                .map(path -> path.substring(0, path.indexOf('/')))
                .filter(name -> !name.equals(folder))
                .findFirst();
        return other.isPresent()
                ? "it asks below " + other.get() + "."
                : "there is no such folder, or nothing it wants is in it.";
    }

    /** What the family's firmware cannot do without and was not sent, in the order it asks. */
    private static Optional<String> needed(BoardProfile profile, String folder, List<String> sent) {
        if (!profile.network().by().equals("serial")) {
            return Optional.empty();
        }
        BoardProfile.StartFiles files = profile.startFiles();
        List<List<String>> groups = new ArrayList<>();
        groups.add(files.loaders());
        groups.add(List.copyOf(files.kernels().keySet()));
        groups.add(files.deviceTrees());
        groups.add(List.of(files.kernelLine()));
        for (List<String> group : groups) {
            boolean got = group.isEmpty()
                    || group.stream().anyMatch(pattern -> sent.stream()
                            .anyMatch(path -> NamePattern.isSpeltLike(path, folder + "/" + pattern)));
            if (!got) {
                return Optional.of(String.join(" or ", group));
            }
        }
        return Optional.empty();
    }

    private Line stranger(String mac, NetworkPlan plan) {
        Heard heard = all(mac, Optional.empty());
        List<String> missing =
                heard.missing.stream().map(path -> below(path, plan.server())).toList();
        boolean nothing = heard.given == 0;
        return new Line(
                mac,
                mac,
                heard.address,
                nothing ? BoardAsk.Reached.ASKED : BoardAsk.Reached.LEASE,
                nothing ? Cause.NETWORK_NO_LEASE : Cause.NETWORK_NO_DIRECTORY,
                "No board of the plan has this hardware address"
                        + nearest(mac, plan)
                                .map(each -> "; that of " + each + " is nearly the same")
                                .orElse("")
                        + (missing.isEmpty() ? "." : "; it asked for " + missing.get(0) + "."),
                heard.sent.stream().map(path -> below(path, plan.server())).toList(),
                missing);
    }

    /** One of another board that differs in one place is a slip of the pen. */
    private static Optional<String> nearest(String mac, NetworkPlan plan) {
        return plan.clients().stream()
                .filter(each -> {
                    int other = 0;
                    for (int i = 0; i < mac.length(); i++) {
                        other += mac.charAt(i) == each.plainMac().charAt(i) ? 0 : 1;
                    }
                    return other > 0 && other <= 2;
                })
                .map(NetworkPlan.Client::id)
                .findFirst();
    }

    private static String below(String path, NetworkPlan.Server server) {
        String top = server.at("tftp") + "/";
        return path.startsWith(top) ? path.substring(top.length()) : path.replaceFirst("^/+", "");
    }

    private static String times(int count) {
        return count == 1 ? "once" : count + " times";
    }

    private static String last(Set<String> all) {
        return all.stream().reduce((first, second) -> second).orElse("");
    }
}

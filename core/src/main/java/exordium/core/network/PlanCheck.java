// SPDX-License-Identifier: Apache-2.0
package exordium.core.network;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.HostName;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;

/** What is wrong with a plan before anything is made from it, and what its roots need of the server. */
public final class PlanCheck {
    private static final Basis PLAN = Basis.computed("the plan");
    private static final Basis TFTP = Basis.standard("RFC 1350, TFTP: no login, no access control");
    /** Common practice, no source: 500 MB from an application to a root on a server took about 11 s, to an SSD about 2 s. */
    private static final ByteSize WRITTEN = ByteSize.ofGigabytes(0.5);

    private static final double SLOW_SECONDS = 11;
    private static final double LOCAL_SECONDS = 2;
    /** All at once may take this many times as long as one before it is worth a word. Common practice, no source. */
    private static final double MUCH = 2;

    private final NetworkPlan plan;
    private final Function<String, Optional<BoardProfile>> profiles;
    private final List<Finding> findings = new ArrayList<>();
    /** Folders that are not written as the serial is. */
    private final List<String> cut = new ArrayList<>();

    private PlanCheck(NetworkPlan plan, Function<String, Optional<BoardProfile>> profiles) {
        this.plan = plan;
        this.profiles = profiles;
    }

    /** Space on the server. */
    public record Space(ByteSize roots, Optional<ByteSize> room) {}

    /** Where roots: bytes of each board's image that are in use, by its id; boards that share one are counted once. */
    public static Space space(NetworkPlan plan, Map<String, ByteSize> roots) {
        Map<String, Long> sizes = new HashMap<>();
        long own = 0;
        for (NetworkPlan.Client client : plan.clients()) {
            long used = roots.getOrDefault(client.id(), ByteSize.ZERO).bytes();
            sizes.put(ClientFiles.rootName(client), used);
            own += client.rootKind() == NetworkPlan.Root.MEMORY
                    ? 0
                    : client.room().bytes();
        }
        long all = own + sizes.values().stream().mapToLong(Long::longValue).sum();
        return new Space(ByteSize.of(all), plan.server().room());
    }

    /** Where times: how each board starts, by its id; kind: of the server's storage, where it is said. */
    public static List<Finding> of(
            NetworkPlan plan,
            Function<String, Optional<BoardProfile>> profiles,
            Map<String, ByteSize> roots,
            Map<String, StartTimes> times,
            Optional<MediumKind> kind)
            throws UnreadableInput {
        PlanCheck check = new PlanCheck(plan, profiles);
        check.server(kind);
        check.boards();
        check.power();
        check.room(roots);
        check.together(times);
        check.said();
        return Finding.worstFirst(check.findings);
    }

    private void server(Optional<MediumKind> kind) throws UnreadableInput {
        if (kind.filter(each -> each.bus().equals("sd")).isPresent()) {
            caution(
                    "server-on-card",
                    plan.server().name()
                            + " keeps its roots on a card: many boards that write wear it out and wait for it; use an SSD.",
                    Basis.practice());
        }
        Addresses addresses = new Addresses(plan.server());
        if (!addresses.usable(plan.server().address())) {
            stop(
                    "server-address",
                    plan.server().address() + "/" + plan.server().prefix() + " is no address a server can have.",
                    PLAN);
        }
        if (plan.server().router().isPresent()
                && !addresses.usable(plan.server().router().get())) {
            stop(
                    "router-outside-network",
                    "The router, " + plan.server().router().get() + ", is not in the server's network.",
                    PLAN);
        }
    }

    private void boards() throws UnreadableInput {
        Addresses addresses = new Addresses(plan.server());
        Map<String, String> taken = new HashMap<>();
        taken.put(plan.server().address(), "the server");
        plan.server().router().ifPresent(router -> taken.put(router, "the router"));
        Map<String, String> macs = new HashMap<>();
        Map<String, String> serials = new HashMap<>();
        Map<String, String> folders = new HashMap<>();
        Map<String, String> hosts = new HashMap<>();
        Set<String> ids = new HashSet<>();
        for (NetworkPlan.Client client : plan.clients()) {
            if (!ids.add(client.id())) {
                stop("board-twice", client.id() + " is in the plan twice.", PLAN);
            }
            once(macs, client.plainMac(), client, "hardware address");
            once(hosts, client.host().toLowerCase(Locale.ROOT), client, "host name");
            String address = client.address().orElseThrow();
            once(taken, address, client, "address");
            if (!addresses.usable(address)) {
                stop(
                        "address-outside-network",
                        client.id() + " cannot have " + address + " in the server's network.",
                        PLAN);
            }
            if (!HostName.valid(client.host())) {
                stop("host-name-malformed", "\"" + client.host() + "\" is no host name.", PLAN);
            }
            Optional<BoardProfile> profile = profiles.apply(client.profile());
            if (profile.isEmpty()) {
                stop("family-unknown", client.id() + " is of a family nobody knows, " + client.profile() + ".", PLAN);
            } else if (!BoardAsk.possible(profile.get())) {
                stop("no-network-start", "A " + client.profile() + " cannot start over the network.", PLAN);
            } else {
                if (profile.get().network().by().equals("serial")) {
                    serial(serials, client);
                }
                once(folders, ClientFiles.folder(client, profile.get()), client, "folder");
            }
        }
    }

    private void serial(Map<String, String> serials, NetworkPlan.Client client) {
        if (!client.plainSerial().matches("[0-9a-f]{1,32}")
                || client.plainSerial().equals("0")) {
            stop(
                    "serial-unknown",
                    client.id()
                            + " looks for a folder named by its serial, and its serial is not known: start it without a medium"
                            + " and read it off the screen.",
                    Basis.practice());
            return;
        }
        once(serials, client.plainSerial(), client, "serial");
        if (!client.plainSerial().equals(client.serial())) {
            cut.add(client.plainSerial() + " for " + client.id());
        }
    }

    private void once(Map<String, String> taken, String value, NetworkPlan.Client client, String what) {
        String other = taken.putIfAbsent(value, client.id());
        if (other != null && !other.equals(client.id())) {
            stop(
                    what.replace(' ', '-') + "-twice",
                    "The " + what + " " + value + " of " + client.id() + " is that of " + other + " already.",
                    PLAN);
        }
    }

    private void power() {
        if (plan.server().powerOverEthernet().isEmpty()) {
            return;
        }
        Map<String, Double> draws = new LinkedHashMap<>();
        for (NetworkPlan.Client client : plan.clients()) {
            profiles.apply(client.profile())
                    .ifPresent(profile ->
                            draws.put(client.id(), profile.power().baseWatts().value()));
        }
        double budget = plan.server().powerOverEthernet().get();
        Set<String> off = PortPower.off(budget, draws);
        double all = draws.values().stream().mapToDouble(Double::doubleValue).sum();
        if (!off.isEmpty()) {
            findings.add(Finding.stop(
                    "switch-power",
                    String.format(
                            Locale.ROOT,
                            "The boards draw %.1f W and the switch gives %.1f W over Ethernet: %s would stay off.",
                            all,
                            budget,
                            String.join(", ", off)),
                    Basis.standard("IEEE 802.3, clause 33: ports are switched on one by one while there is power")));
        }
    }

    private void room(Map<String, ByteSize> roots) {
        Space space = space(plan, roots);
        if (space.room().filter(room -> room.compareTo(space.roots()) < 0).isPresent()) {
            stop(
                    "server-full",
                    "The roots and what they grow by need " + space.roots().said() + "; "
                            + plan.server().name() + " has "
                            + space.room().get().said() + ".",
                    PLAN);
        } else if (space.room().isPresent()) {
            note(
                    "server-room",
                    "The roots and what they grow by need " + space.roots().said() + " of "
                            + space.room().get().said() + ".",
                    PLAN);
        }
        if (plan.clients().stream().anyMatch(each -> each.rootKind() == NetworkPlan.Root.OWN)) {
            double link = plan.server().usualLink().ceiling().timeFor(WRITTEN).toMillis() / 1000.0;
            note(
                    "writes-over-network",
                    String.format(
                            Locale.ROOT,
                            "Writing 500 MB to such a root takes about %.0f s, on an SSD of its own about %.0f; this network alone needs"
                                    + " %.0f s for it.",
                            Math.max(SLOW_SECONDS, link),
                            LOCAL_SECONDS,
                            link),
                    Basis.practice());
        }
    }

    private void together(Map<String, StartTimes> times) {
        int boards = plan.clients().size();
        for (NetworkPlan.Client client : plan.clients()) {
            StartTimes each = times.get(client.id());
            if (boards > 1 && each != null && each.together(boards) > MUCH * each.alone()) {
                caution(
                        "starts-together-slow",
                        String.format(
                                Locale.ROOT,
                                "After a power cut all %d boards ask at once: %s is up after %.0f s, alone after %.0f s. Let them start"
                                        + " %.0f s apart, or give the server a faster link or storage.",
                                boards,
                                client.id(),
                                each.together(boards),
                                each.alone(),
                                Math.ceil(each.busy())),
                        PLAN);
                return;
            }
        }
    }

    private void said() {
        if (!cut.isEmpty()) {
            note(
                    "serial-zeros",
                    "Their firmware looks in a folder named by the serial, in small letters without leading zeros: "
                            + String.join(", ", cut) + ".",
                    Basis.practice());
        }
        if (plan.clients().isEmpty()) {
            note("no-boards", "No board starts from it yet.", PLAN);
            return;
        }
        note(
                "start-files-open",
                "Start files are handed out to whoever asks on this network; roots to whoever has a board's address. Keep passwords"
                        + " out of the start files, and strangers off the network.",
                TFTP);
        note(
                "server-first",
                "Start " + plan.server().name()
                        + " before its boards: those that find no server go on to their next source, or wait.",
                Basis.practice());
    }

    private void stop(String code, String text, Basis basis) {
        findings.add(Finding.stop(code, text, basis));
    }

    private void caution(String code, String text, Basis basis) {
        findings.add(Finding.caution(code, text, basis));
    }

    private void note(String code, String text, Basis basis) {
        findings.add(Finding.note(code, text, basis));
    }
}

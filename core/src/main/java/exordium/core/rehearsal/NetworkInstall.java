// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.bootorder.OrderDialect;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * An install over the network: the two doors to it, what it needs and whether this board has it, and how it writes.
 *
 * @param inOrder an order that comes to it when nothing before it started; the board's own where it has it already
 * @param listed whether the board's order has it
 */
public record NetworkInstall(String inOrder, boolean listed, List<Need> needs, List<String> steps) {
    /** Whether something it needs is there. */
    public enum State {
        MET,
        LACKING,
        /** To be seen at the board. */
        TO_SEE
    }

    public record Need(State state, String text) {}

    /** Empty for a family that cannot. */
    public static Optional<NetworkInstall> of(Bench bench) {
        BoardProfile profile = bench.profile();
        boolean able = profile.order().form().digits()
                && profile.ports().stream().anyMatch(port -> port.source() == StartSource.NETWORK_INSTALL);
        if (!able) {
            return Optional.empty();
        }
        OrderDialect dialect = OrderDialect.of(profile);
        String order = bench.order().isEmpty() ? profile.order().usual() : bench.order();
        List<StartSource> sources = new ArrayList<>(sources(dialect, order, profile));
        boolean listed = sources.contains(StartSource.NETWORK_INSTALL);
        if (!listed) {
            int end = sources.size();
            boolean ends = end > 0
                    && (sources.get(end - 1) == StartSource.RESTART || sources.get(end - 1) == StartSource.STOP);
            sources.add(ends ? end - 1 : end, StartSource.NETWORK_INSTALL);
        }
        String value;
        try {
            value = listed ? order : dialect.encode(sources);
        } catch (UnreadableInput e) {
            // No room for one more digit.
            value = order;
        }
        return Optional.of(new NetworkInstall(value, listed, needs(bench), doors()));
    }

    private static List<StartSource> sources(OrderDialect dialect, String order, BoardProfile profile) {
        List<StartSource> sources = dialect.decode(order).sources();
        return sources.isEmpty() ? dialect.decode(profile.order().usual()).sources() : sources;
    }

    private static List<Need> needs(Bench bench) {
        List<Need> needs = new ArrayList<>();
        Optional<LocalDate> lacking = bench.profile().firmware().lacking(StartSource.NETWORK_INSTALL, bench.firmware());
        Optional<LocalDate> since =
                Optional.ofNullable(bench.profile().firmware().needs().get(StartSource.NETWORK_INSTALL));
        since.ifPresent(date -> needs.add(new Need(
                lacking.isPresent() ? State.LACKING : State.MET,
                "Firmware of " + date + " or later; it runs " + FirmwareChip.said(bench.firmware()) + ".")));
        Bench.Network network = bench.network();
        needs.add(new Need(
                network.link() ? State.MET : State.LACKING,
                network.link() ? "A cable: the link is up." : "A cable to a router: there is no link."));
        needs.add(new Need(
                network.dhcp() ? State.MET : State.LACKING,
                network.dhcp() ? "An address: somebody hands them out." : "An address: nobody hands one out."));
        needs.add(new Need(
                network.internet() ? State.MET : State.TO_SEE,
                network.internet()
                        ? "The server it fetches from is reached."
                        : "The way out to the server it fetches from: to be seen at the board."));
        needs.add(new Need(State.TO_SEE, "A keyboard and a monitor at the board."));
        needs.add(new Need(State.TO_SEE, "The drive it is to write, plugged in; those it must not touch, taken out."));
        return needs;
    }

    private static List<String> doors() {
        return List.of(
                "By the order: its digit behind the drives. The board comes to it by itself when nothing before it started.",
                "By the start screen, whatever the order is: hold the key it names, about 3 s, while the screen shows it; another"
                        + " key confirms.",
                "The installer comes over HTTP into memory; nothing is written before a drive and a system are chosen in it.",
                "It writes over the whole drive that is chosen. Nothing asks for the drive's name: choose by size, and copy first what"
                        + " is still wanted.",
                "Afterwards take the digit out again where nobody should come to it, and read the medium here: what was written is"
                        + " known only then.");
    }

    /** Whether something is known to be missing. */
    public boolean lacks() {
        return needs.stream().anyMatch(each -> each.state() == State.LACKING);
    }
}

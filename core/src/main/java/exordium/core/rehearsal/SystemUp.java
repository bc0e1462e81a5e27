// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.firststart.kernelline.FirstProgram;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.CloudFacts;
import exordium.core.rehearsal.contents.FirstLook;
import exordium.core.rehearsal.contents.FstabLine;
import exordium.core.rehearsal.contents.MediumContents;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * From the mounted root to the login: memory over it, its first growth, what fstab mounts, the network, remote login. How the
 * time between them is shared out is common practice, no source; it adds up to what the family takes.
 */
final class SystemUp {
    private static final Basis BYTES = Basis.computed("the attached drives");
    private static final Basis KERNEL = Basis.standard("Linux kernel documentation, kernel parameters");
    private static final double SWAP_WAIT = 90;
    /** Of a flasher card, 5 to 10 minutes; common practice, no source. */
    private static final double FLASHING = 450;

    /** Of a first start, 3 to 5 minutes; common practice, no source. */
    private static final double GROWTH = 240;
    /** Less than this behind the last partition is what tools leave there to have whole megabytes. */
    private static final long LEAST_ROOM = 64L << 20;

    private static final long ROOM_WORTH_A_WORD = 1_000_000_000;
    private static final double MOUNTS_SHARE = 0.15;
    private static final double NETWORK_SHARE = 0.35;
    private static final double LOGIN_SHARE = 0.1;

    private final Bench bench;
    private final TraceBuilder trace;
    private final RootSearch search;
    private final SystemStart.Handed handed;
    private final SystemStart.Root root;
    private final KernelLine line;
    private final double userSpace;
    private double spent;

    SystemUp(
            Bench bench,
            TraceBuilder trace,
            RootSearch search,
            SystemStart.Handed handed,
            SystemStart.Root root,
            KernelLine line) {
        this.bench = bench;
        this.trace = trace;
        this.search = search;
        this.handed = handed;
        this.root = root;
        this.line = line;
        this.userSpace = bench.profile().timing().userSpace() * root.slow();
    }

    void runs() {
        boolean overlay = overlay();
        if (overlay) {
            trace.works(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    0,
                    "Memory is laid over the root: what is written from here on is gone at the next restart.");
            trace.finding(Finding.note(
                    "start-overlay",
                    "Memory lies over the root: what is written is gone at the next restart, logs too.",
                    Basis.practice()));
        }
        if (flashes()) {
            return;
        }
        Optional<FirstProgram> first = FirstProgram.in(line);
        if (first.isPresent()) {
            first(first.get(), overlay);
        } else {
            grows(overlay);
        }
        if (!mounts()) {
            return;
        }
        List<String> missing = new ArrayList<>();
        remoteLogin(missing);
        network(missing);
        if (!missing.isEmpty()) {
            trace.finding(Finding.note(
                            "not-reachable",
                            "Without a monitor nobody gets in: " + String.join(", ", missing) + ".",
                            BYTES)
                    .mendAt(Step.FIRST_START));
        }
        trace.reachable(login());
        trace.works(
                Trace.Stage.SYSTEM,
                root.port(),
                userSpace - spent,
                "The system is up" + (missing.isEmpty() ? ", and can be reached over the network." : "."));
        trace.end(Trace.Outcome.RUNNING);
    }

    private double share(double part) {
        spent += userSpace * part;
        return userSpace * part;
    }

    /** A kernel line that lays memory over the root (common practice, no source). */
    private boolean overlay() {
        return line.words().stream()
                .anyMatch(word -> word.equals("boot=overlay")
                        || (word.startsWith("overlayroot=") && !word.equals("overlayroot=disabled")));
    }

    /** What has been looked at of the program that the line has started first. */
    private Optional<FirstLook> look() {
        return root.files().flatMap(MediumContents.RootFiles::begins);
    }

    /** A card whose system writes itself onto storage that sits on the board: it does that, and nothing else. */
    private boolean flashes() {
        Optional<BoardProfile.Port> inside = bench.profile().ports().stream()
                .filter(port -> port.soldered().isPresent())
                .findFirst();
        boolean byLine = look().map(FirstLook::flashes).orElseGet(() -> FirstProgram.in(line)
                .filter(FirstProgram::calledFlasher)
                .isPresent());
        boolean byService =
                root.files().flatMap(MediumContents.RootFiles::flashesBy).isPresent();
        boolean fromInside =
                inside.filter(port -> port.id().equals(root.port())).isPresent();
        if (inside.isEmpty() || fromInside || !(byLine || byService)) {
            return false;
        }
        String onto = inside.get().title() + " (" + inside.get().device() + ")";
        trace.works(
                Trace.Stage.SYSTEM,
                root.port(),
                FLASHING,
                "The system on it writes itself onto " + onto
                        + ": it makes new partitions there, formats and copies, 5 to 10 minutes. Do not switch off.");
        trace.finding(Finding.caution(
                "flasher-writes",
                "It writes over " + onto
                        + " and then stands still. Take it out of " + root.port()
                        + " afterwards, or it does so again at the next start.",
                Basis.practice()));
        trace.end(Trace.Outcome.INSTALLING);
        return true;
    }

    /** A program in the place of the system: one that makes the medium ready once and starts again, or one nobody knows. */
    private void first(FirstProgram first, boolean overlay) {
        String path = SystemStart.printable(first.path());
        boolean once = look().map(FirstLook::once).orElseGet(first::calledOnce);
        if (once && root.hit().isEmpty()) {
            trace.finding(Finding.caution(
                            "first-program-on-server",
                            "The kernel line has " + path
                                    + " started first, which makes a medium ready; the root is on a server, where there is none."
                                    + " Take that word out of it.",
                            KERNEL)
                    .mendAt(Step.FIRST_START));
            return;
        }
        if (once) {
            BoardProfile.Timing timing = bench.profile().timing();
            Optional<String> room = overlay ? Optional.empty() : roomSaid();
            trace.works(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    (room.isEmpty() ? 0 : GROWTH) + timing.powerOn() + timing.tryMedium() + timing.kernel(),
                    "First start: " + room.map(each -> each + " by ").orElse("") + path
                            + (room.isEmpty() ? " runs in the place of the system" : ", in the place of the system")
                            + "; it takes its word out of the kernel line and starts again. This once takes 3 to 5 minutes; do not"
                            + " switch off.");
            trace.finding(Finding.note(
                    "first-program-once",
                    "Until that first start is through, the medium is no root for the network and no model for others.",
                    Basis.practice()));
            return;
        }
        trace.finding(Finding.caution(
                        "first-program-unknown",
                        "The kernel line has " + path
                                + " started in the place of the system; what it does is not known here.",
                        KERNEL)
                .mendAt(Step.FIRST_START));
    }

    private Optional<String> roomSaid() {
        ByteSize room =
                root.hit().orElseThrow().medium().contents().inspection().unallocated();
        return room.bytes() > LEAST_ROOM
                ? Optional.of("the last partition is made " + room.said() + " larger")
                : Optional.empty();
    }

    /**
     * A system that bears the mark of one that fills its medium does it now, once; of others, and under memory, it is only said
     * that room is left.
     */
    private void grows(boolean overlay) {
        Optional<RootSearch.Hit> hit = root.hit();
        if (hit.isEmpty()) {
            return;
        }
        Partition partition = hit.get().content().partition();
        ByteSize room = hit.get().medium().contents().inspection().unallocated();
        boolean last = hit.get().medium().contents().inspection().partitions().stream()
                .noneMatch(each -> each.partition().endByte() > partition.endByte());
        Optional<String> mark =
                SelfGrowth.inLine(line.words()).or(() -> root.files().flatMap(MediumContents.RootFiles::growsBy));
        if (!overlay && last && mark.isPresent() && room.bytes() > LEAST_ROOM) {
            trace.works(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    GROWTH,
                    "First start: the last partition is made " + room.said() + " larger ("
                            + SystemStart.printable(mark.get())
                            + "). This once takes 3 to 5 minutes; do not switch off.");
            return;
        }
        long size = hit.get().medium().contents().inspection().size().bytes();
        if (room.bytes() > Math.max(ROOM_WORTH_A_WORD, size / 4)) {
            trace.finding(Finding.note(
                            "start-grows",
                            "The last partition leaves " + room.said()
                                    + " of the medium unused: a first start grows it where its system does that, and takes 3 to 5"
                                    + " minutes once.",
                            Basis.practice())
                    .mendAt(Step.IMAGE));
        }
    }

    /** False where a mount that is waited for ends the start. */
    private boolean mounts() {
        List<String> mounted = new ArrayList<>();
        for (FstabLine mount : FstabLine.in(
                root.files().flatMap(MediumContents.RootFiles::fstab).orElse(""))) {
            if (mount.onNetwork()) {
                onNetwork(mount);
            } else if (mount.namesDrive() && mount.waits()) {
                List<RootSearch.Hit> hits = search.forSystem(mount.device());
                if (hits.isEmpty() && !passes(mount)) {
                    return false;
                }
                if (hits.size() > 1) {
                    trace.finding(Finding.caution(
                                    "fstab-twins",
                                    hits.size() + " plugged-in drives answer to "
                                            + SystemStart.printable(mount.device()) + ", which /etc/fstab mounts at "
                                            + mount.place() + ": which one is chance.",
                                    BYTES)
                            .mendAt(Step.STORAGE));
                }
                if (!hits.isEmpty() && !mount.isSwap() && !mount.place().equals("/")) {
                    mounted.add(SystemStart.printable(mount.place()));
                }
            }
        }
        if (!mounted.isEmpty()) {
            trace.works(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    share(MOUNTS_SHARE),
                    "It mounts " + String.join(", ", mounted) + ", as /etc/fstab says.");
        }
        return true;
    }

    /** What is on the network is never waited for to the end. */
    private void onNetwork(FstabLine mount) {
        if (mount.waits() && address().isEmpty()) {
            trace.passesOn(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    0,
                    "/etc/fstab mounts " + SystemStart.printable(mount.device()) + " at "
                            + SystemStart.printable(mount.place()) + " from the network, which it has not: it goes on"
                            + " without.");
        }
    }

    /** Whether the start goes on without what is on nothing that is plugged in. */
    private boolean passes(FstabLine mount) {
        String device = SystemStart.printable(mount.device());
        if (mount.isSwap()) {
            trace.finding(Finding.caution(
                            "fstab-swap-missing",
                            "/etc/fstab wants swap on " + device
                                    + ", which is on nothing that is plugged in; the start waits 90 s for it.",
                            Basis.practice())
                    .mendAt(Step.FIRST_START));
            trace.passesOn(Trace.Stage.SYSTEM, root.port(), SWAP_WAIT, "The start waits for swap on " + device + ".");
            return true;
        }
        if (mount.place().equals("/")) {
            trace.finding(Finding.caution(
                            "fstab-root-missing",
                            "/etc/fstab names " + device
                                    + " for the root, which is on nothing that is plugged in; the kernel has mounted"
                                    + " the root already, so the start goes on.",
                            Basis.practice())
                    .mendAt(Step.FIRST_START));
            return true;
        }
        String text =
                "/etc/fstab mounts " + device + " at " + mount.place() + ", which is on nothing that is plugged in.";
        trace.fails(Trace.Stage.SYSTEM, root.port(), 0, Cause.FSTAB_MISSING_DEVICE, text);
        trace.finding(Finding.stop("start-" + Cause.FSTAB_MISSING_DEVICE.code(), text, BYTES)
                .mendAt(Step.FIRST_START));
        trace.end(Trace.Outcome.HALTED);
        return false;
    }

    /** The address the wired socket is given on the medium: by the kernel line, the cloud file's neighbour, or in the root. */
    private Optional<String> fixed() {
        return SystemStart.fixedAddress(line)
                .or(() -> handed.start().networkFile().flatMap(CloudFacts::address))
                .or(() -> root.files().flatMap(MediumContents.RootFiles::address));
    }

    private static boolean isLinkLocal(String address) {
        return address.startsWith("169.254.");
    }

    /** What it can be reached at; empty where it has no address that fits its network. */
    private Optional<String> address() {
        if (!bench.network().link()) {
            return Optional.empty();
        }
        Optional<String> fixed = fixed();
        if (fixed.isPresent()) {
            return fixed.filter(each -> !isLinkLocal(each) || !bench.network().dhcp());
        }
        return bench.network().dhcp() ? Optional.of("the address it is lent") : Optional.empty();
    }

    private void network(List<String> missing) {
        double seconds = share(NETWORK_SHARE);
        Optional<String> address = address();
        Optional<String> fixed = fixed();
        if (address.isPresent()) {
            trace.works(
                    Trace.Stage.SYSTEM,
                    SystemStart.NETWORK,
                    seconds,
                    fixed.isPresent()
                            ? "The network comes up with its fixed address, " + fixed.get() + "."
                            : "The network comes up; the board is lent an address.");
            return;
        }
        String fault;
        if (!bench.network().link()) {
            fault = "no network cable is in";
        } else if (fixed.isPresent()) {
            fault = "its address is one for a straight cable, and it is on a network";
        } else {
            fault = "nobody gives it an address";
        }
        missing.add(fault);
        trace.passesOn(
                Trace.Stage.SYSTEM,
                SystemStart.NETWORK,
                seconds,
                fault.substring(0, 1).toUpperCase(Locale.ROOT) + fault.substring(1) + ": it goes on without one.");
    }

    private boolean loginOn() {
        return handed.start().remoteLogin()
                || root.files().filter(MediumContents.RootFiles::remoteLogin).isPresent();
    }

    private boolean accountThere() {
        boolean cloud = handed.start().cloudFile().isPresent();
        return handed.start().makesAccount()
                || root.files()
                        .filter(files -> files.account()
                                || (cloud && files.cloudUser())
                                || handed.start().makesKeyed(files))
                        .isPresent();
    }

    private Trace.Login login() {
        if (address().isEmpty()) {
            return Trace.Login.SILENT;
        }
        return !loginOn() ? Trace.Login.REFUSED : accountThere() ? Trace.Login.ANSWERS : Trace.Login.DENIED;
    }

    private void remoteLogin(List<String> missing) {
        boolean login = loginOn();
        boolean account = accountThere();
        double seconds = share(LOGIN_SHARE);
        if (!login) {
            missing.add("remote login is off");
        }
        if (!account) {
            missing.add("there is no account anybody could log in with");
        }
        if (login && account) {
            trace.works(Trace.Stage.SYSTEM, root.port(), seconds, "Remote login is on, and there is an account.");
        } else {
            trace.passesOn(
                    Trace.Stage.SYSTEM,
                    root.port(),
                    seconds,
                    login ? "Remote login is on, and nobody has an account to log in with." : "Remote login is off.");
        }
    }
}

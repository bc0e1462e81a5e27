// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firststart.KernelLine;
import exordium.core.firststart.SettingsCheck;
import exordium.core.inspection.PartitionContent;
import exordium.core.storage.DriveShare;
import exordium.core.storage.LinkChain;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** From the start files on: settings, kernel line, kernel, root, what the root mounts. A failure here ends the start. */
final class SystemStart {
    private static final Basis BYTES = Basis.computed("the attached drives");
    private static final Basis SERVER = Basis.computed("the server's exports");
    private static final String NETWORK = "network";
    private static final long LEAST_ROOM = 1_000_000_000;
    private static final double SWAP_WAIT = 90;
    private static final Set<String> NETWORK_TYPES =
            Set.of("nfs", "nfs4", "cifs", "smb3", "smbfs", "9p", "ceph", "glusterfs", "sshfs", "fuse.sshfs", "davfs");

    private final Bench bench;
    private final BoardProfile profile;
    private final TraceBuilder trace;
    private final RootSearch search;

    SystemStart(Bench bench, TraceBuilder trace, List<Bench.Attached> seen) {
        this.bench = bench;
        this.profile = bench.profile();
        this.trace = trace;
        this.search = new RootSearch(bench, seen);
    }

    /** Where the firmware handed over: the port, what it read there, and how much slower than usual that is. */
    private record Handed(String port, MediumContents.StartPartition start, double slow, boolean overNetwork) {}

    /** A root that was found; files: what is in it. */
    private record Root(String port, String title, Optional<MediumContents.RootFiles> files, double slow) {}

    void from(Bench.Attached medium) {
        from(new Handed(medium.port(), medium.contents().start().orElseThrow(), slowness(medium), false));
    }

    /** The folder a server hands out in the place of a start partition. */
    void fromServer(MediumContents.StartPartition folder) {
        from(new Handed(NETWORK, folder, 1.5, true));
    }

    private void from(Handed handed) {
        if (!settingsHold(handed)) {
            return;
        }
        Optional<KernelLine> line = kernelLine(handed);
        if (line.isEmpty()) {
            return;
        }
        KernelChoice kernel = KernelChoice.of(profile, handed.start());
        String name = line.get().value("root").orElseThrow();
        trace.works(
                Trace.Stage.KERNEL,
                handed.port(),
                profile.timing().kernel() * handed.slow(),
                "The kernel starts with root=" + printable(name) + ".");
        Optional<Root> root = name.equals("/dev/nfs")
                ? serverRoot(handed, line.get(), kernel)
                : localRoot(handed, line.get(), name, kernel);
        if (root.isEmpty() || !mounts(root.get())) {
            return;
        }
        overlay(line.get());
        growth(root.get().port());
        boolean login = handed.start().remoteLogin()
                || root.get()
                        .files()
                        .filter(MediumContents.RootFiles::remoteLogin)
                        .isPresent();
        boolean reachable = reachable(handed, root.get(), line.get(), login);
        trace.reachable(reachable);
        trace.works(
                Trace.Stage.SYSTEM,
                root.get().port(),
                profile.timing().userSpace() * root.get().slow(),
                "The system is up" + (reachable ? ", and can be reached over the network." : "."));
        trace.end(Trace.Outcome.RUNNING);
    }

    /** A kernel line that lays memory over the root (common practice, no source). */
    private void overlay(KernelLine line) {
        boolean on = line.words().stream()
                .anyMatch(word -> word.equals("boot=overlay")
                        || (word.startsWith("overlayroot=") && !word.equals("overlayroot=disabled")));
        if (on) {
            trace.finding(Finding.note(
                    "start-overlay",
                    "Memory lies over the root: what is written is gone at the next restart, logs too.",
                    Basis.practice()));
        }
    }

    /** Room behind the last partition that a first start takes, where its system does that. */
    private void growth(String port) {
        bench.attached().stream()
                .filter(medium -> medium.port().equals(port))
                .map(medium -> medium.contents().inspection())
                .filter(drive -> drive.unallocated().bytes()
                        > Math.max(LEAST_ROOM, drive.size().bytes() / 4))
                .forEach(drive -> trace.finding(Finding.note(
                                "start-grows",
                                "The last partition leaves "
                                        + drive.unallocated().said()
                                        + " of the medium unused: a first start grows it where its system does that, and takes 3 to 5"
                                        + " minutes once.",
                                Basis.practice())
                        .mendAt(Step.IMAGE)));
    }

    /** Text from a medium goes into sentences without what a terminal would act on. */
    private static String printable(String text) {
        return text.replaceAll("\\p{Cntrl}", "?");
    }

    private boolean settingsHold(Handed handed) {
        List<Finding> findings = handed.start()
                .settings()
                .map(content -> SettingsCheck.settings(content, profile))
                .orElse(List.of());
        Optional<Finding> broken = findings.stream()
                .filter(finding -> finding.code().equals(SettingsCheck.NOT_TEXT))
                .findFirst();
        if (broken.isPresent()) {
            halt(
                    handed.port(),
                    Trace.Stage.START_FILES,
                    Cause.SETTINGS_BROKEN,
                    broken.get().text(),
                    Step.FIRST_START);
            return false;
        }
        // The board goes on without the lines it does not understand.
        findings.forEach(trace::finding);
        return true;
    }

    private Optional<KernelLine> kernelLine(Handed handed) {
        BoardProfile.StartFiles files = profile.startFiles();
        if (handed.start().kernelLine().isEmpty()) {
            return lineBroken(handed, "There is no " + files.kernelLine() + " on it.");
        }
        String text = new String(handed.start().kernelLine().get(), StandardCharsets.UTF_8);
        Optional<KernelLine> line = KernelLine.in(text, files.kernelLineForm());
        if (line.isEmpty()) {
            return lineBroken(handed, "There is no kernel line in " + files.kernelLine() + ".");
        }
        boolean plain = files.kernelLineForm() == BoardProfile.KernelLineForm.PLAIN;
        String lost = plain ? KernelLine.lost(text) : "";
        Optional<String> root = line.get().value("root").filter(each -> !each.isBlank());
        if (root.isEmpty()) {
            return lineBroken(
                    handed,
                    lost.contains("root=")
                            ? "The kernel line is broken before root=; only its first line is read."
                            : "The kernel line names no root.");
        }
        boolean network = root.get().equals("/dev/nfs");
        if (network && line.get().value("nfsroot").isEmpty()) {
            return lineBroken(
                    handed, "The kernel line asks for a root on a server and does not say which: nfsroot= is missing.");
        }
        if (network && !handed.overNetwork() && line.get().value("ip").isEmpty()) {
            return lineBroken(
                    handed, "The kernel line asks for a root on a server and sets no address: ip= is missing.");
        }
        if (!lost.isEmpty()) {
            trace.finding(Finding.caution(
                            "kernel-line-break",
                            "The kernel line is broken behind its root; what stands on further lines is lost.",
                            Basis.standard("Linux kernel documentation, kernel parameters"))
                    .mendAt(Step.FIRST_START));
        }
        return line;
    }

    private Optional<KernelLine> lineBroken(Handed handed, String text) {
        halt(handed.port(), Trace.Stage.START_FILES, Cause.KERNEL_LINE_BROKEN, text, Step.FIRST_START);
        return Optional.empty();
    }

    private Optional<Root> localRoot(Handed handed, KernelLine line, String name, KernelChoice kernel) {
        List<RootSearch.Hit> hits = search.forKernel(name, kernel.initramfs());
        if (hits.isEmpty()) {
            String text = "The kernel line asks for root=" + printable(name) + ", which "
                    + (name.startsWith("/dev/disk/")
                            ? "a kernel does not know: it is a link that only a running system makes."
                            : search.forSystem(name).isEmpty()
                                    ? "is on nothing that is plugged in."
                                    : "a kernel only finds with an initramfs, and none is loaded.");
            return rootFails(handed.port(), line, Cause.ROOT_NOT_FOUND, text, Step.FIRST_START);
        }
        RootSearch.Hit hit = hits.get(0);
        Optional<MediumContents.RootFiles> files = rootFiles(hit);
        String place = "partition " + hit.content().partition().number() + " of "
                + hit.medium().name();
        Optional<String> fault =
                unrunnable(files, kernel, "The root on " + hit.medium().name());
        if (fault.isPresent()) {
            return rootFails(hit.medium().port(), line, Cause.ROOT_UNREADABLE, fault.get(), Step.IMAGE);
        }
        trace.rootFrom(hit.medium().port());
        trace.works(Trace.Stage.ROOT, hit.medium().port(), 0.3, "Root " + printable(name) + " is " + place + ".");
        if (hits.size() > 1) {
            trace.cause(Cause.ROOT_AMBIGUOUS);
            trace.finding(Finding.stop("start-root-ambiguous", twins(name, hits), BYTES)
                    .mendAt(Step.STORAGE));
        }
        return Optional.of(new Root(hit.medium().port(), place, files, slowness(hit.medium())));
    }

    /** Two that share only what their owner called them are no copies of each other. */
    private static String twins(String name, List<RootSearch.Hit> hits) {
        String lower = name.toLowerCase(Locale.ROOT);
        boolean onlyLabel = lower.startsWith("label=") || lower.startsWith("partlabel=");
        boolean copies = !onlyLabel
                || hits.stream()
                                .map(hit -> hit.content().fileSystem().uuid())
                                .distinct()
                                .count()
                        == 1;
        return hits.size() + " plugged-in drives answer to root=" + printable(name)
                + (copies ? ": they are copies of each other." : ": they have the same label.")
                + " Which one runs is chance; "
                + (copies
                        ? "take the old one out."
                        : "give one of them another label, or name the root by its identifier.");
    }

    private static Optional<String> unrunnable(
            Optional<MediumContents.RootFiles> files, KernelChoice kernel, String what) {
        if (files.isEmpty() || files.get().width().isEmpty()) {
            return Optional.of(what + " cannot be read, or holds no first program.");
        }
        int width = files.get().width().get();
        return width > kernel.width()
                ? Optional.of(what + " holds " + width + "-bit programs; the kernel that is started has "
                        + kernel.width() + " bits.")
                : Optional.empty();
    }

    /** Linux kernel documentation, nfsroot: nfsroot=[server:]path[,options], ip=client:server:gateway:... */
    private Optional<Root> serverRoot(Handed handed, KernelLine line, KernelChoice kernel) {
        String value = line.value("nfsroot").orElseThrow();
        String path = withoutSlash(value.substring(value.indexOf(':') + 1).split(",")[0]);
        if (!bench.network().link()) {
            return rootFails(
                    handed.port(),
                    line,
                    Cause.NETWORK_NO_LINK,
                    "The root is on a server, and no cable is in, or nothing is at its other end.",
                    Step.ORDER);
        }
        boolean fixed = fixedAddress(line).isPresent();
        if (!fixed && !bench.network().dhcp()) {
            return rootFails(
                    handed.port(),
                    line,
                    Cause.NETWORK_NO_LEASE,
                    "The root is on a server, and nobody hands out an address.",
                    Step.ORDER);
        }
        Optional<Bench.Export> export = bench.network().exports().stream()
                .filter(each ->
                        path.equals(withoutSlash(each.path())) || path.startsWith(withoutSlash(each.path()) + "/"))
                .max(java.util.Comparator.comparingInt(each -> each.path().length()));
        if (export.isEmpty()) {
            trace.finding(Finding.note(
                    "exports",
                    "The server exports "
                            + (bench.network().exports().isEmpty()
                                    ? "nothing."
                                    : String.join(
                                                    ", ",
                                                    bench.network().exports().stream()
                                                            .map(Bench.Export::path)
                                                            .toList())
                                            + "."),
                    SERVER));
            return rootFails(
                    NETWORK,
                    line,
                    Cause.NETWORK_NO_EXPORT,
                    "The server does not export " + printable(path) + ", the root the kernel line names.",
                    Step.ORDER);
        }
        Optional<MediumContents.RootFiles> files = Optional.empty();
        if (export.get().folder().isPresent()) {
            String below = path.substring(
                    Math.min(path.length(), withoutSlash(export.get().path()).length()));
            Path folder = export.get()
                    .folder()
                    .get()
                    .resolve(below.replaceFirst("^/+", ""))
                    .normalize();
            boolean within = folder.startsWith(export.get().folder().get().normalize());
            try {
                files = within ? RootFacts.of(folder) : Optional.empty();
            } catch (IOException e) {
                files = Optional.empty();
            }
            Optional<String> fault = unrunnable(files, kernel, "The root " + printable(path) + " on the server");
            if (fault.isPresent()) {
                return rootFails(NETWORK, line, Cause.ROOT_UNREADABLE, fault.get(), Step.IMAGE);
            }
        }
        trace.rootFrom(NETWORK);
        trace.works(Trace.Stage.ROOT, NETWORK, 0.6, "Root " + printable(path) + " is on the server.");
        return Optional.of(new Root(NETWORK, path + " on the server", files, 1.4));
    }

    private static String withoutSlash(String path) {
        return path.length() > 1 ? path.replaceFirst("/+$", "") : path;
    }

    /** The client's own address in ip=, where it is given there. */
    private static Optional<String> fixedAddress(KernelLine line) {
        return line.value("ip")
                .map(value -> value.split(":")[0])
                .filter(address -> address.matches("\\d{1,3}(\\.\\d{1,3}){3}"));
    }

    private Optional<Root> rootFails(String port, KernelLine line, Cause cause, String text, Step remedy) {
        boolean again = line.value("panic")
                .filter(seconds -> seconds.matches("-?[1-9]\\d*"))
                .isPresent();
        trace.fails(Trace.Stage.ROOT, port, 0, cause, text);
        trace.finding(Finding.stop("start-" + cause.code(), text, BYTES).mendAt(remedy));
        trace.end(again ? Trace.Outcome.LOOPING : Trace.Outcome.HALTED);
        return Optional.empty();
    }

    /** One line of fstab(5). */
    private record Mount(String device, String place, String type, List<String> options) {
        static Optional<Mount> of(String raw) {
            String[] fields = raw.strip().split("\\s+");
            if (raw.isBlank() || raw.strip().startsWith("#") || fields.length < 2) {
                return Optional.empty();
            }
            return Optional.of(new Mount(
                    fields[0],
                    fields[1],
                    fields.length > 2 ? fields[2] : "auto",
                    fields.length > 3 ? List.of(fields[3].split(",")) : List.of("defaults")));
        }

        boolean isSwap() {
            return type.equals("swap") || place.equals("none") || place.equals("swap");
        }

        boolean onNetwork() {
            return NETWORK_TYPES.contains(type) || options.contains("_netdev");
        }

        /** Whether the line names a drive; mapped volumes, loops and links by path are not looked for. */
        boolean namesDrive() {
            boolean known = device.matches("(?i)(PARTUUID|PARTLABEL|UUID|LABEL)=.+")
                    || device.matches("/dev/(sd|mmcblk|nvme|vd|hd).*")
                    || device.matches("/dev/disk/by-(partuuid|partlabel|uuid|label)/.+");
            return known && !options.contains("bind");
        }

        boolean waits() {
            return !options.contains("noauto")
                    && !options.contains("nofail")
                    && !options.contains("x-systemd.automount");
        }
    }

    private boolean mounts(Root root) {
        String fstab = root.files().flatMap(MediumContents.RootFiles::fstab).orElse("");
        for (String raw : fstab.split("\\R")) {
            Optional<Mount> line =
                    Mount.of(raw).filter(mount -> mount.namesDrive() && mount.waits() && !mount.onNetwork());
            if (line.isEmpty()) {
                continue;
            }
            Mount mount = line.get();
            List<RootSearch.Hit> hits = search.forSystem(mount.device());
            String device = printable(mount.device());
            if (hits.size() > 1) {
                trace.finding(Finding.caution(
                                "fstab-twins",
                                hits.size() + " plugged-in drives answer to " + device + ", which /etc/fstab mounts at "
                                        + mount.place() + ": which one is chance.",
                                BYTES)
                        .mendAt(Step.STORAGE));
            }
            if (!hits.isEmpty()) {
                continue;
            }
            if (mount.isSwap()) {
                trace.finding(Finding.caution(
                                "fstab-swap-missing",
                                "/etc/fstab wants swap on " + device
                                        + ", which is on nothing that is plugged in; the start waits 90 s for it.",
                                Basis.practice())
                        .mendAt(Step.FIRST_START));
                trace.passesOn(
                        Trace.Stage.SYSTEM, root.port(), SWAP_WAIT, "The start waits for swap on " + device + ".");
            } else if (mount.place().equals("/")) {
                trace.finding(Finding.caution(
                                "fstab-root-missing",
                                "/etc/fstab names " + device
                                        + " for the root, which is on nothing that is plugged in; the kernel has mounted"
                                        + " the root already, so the start goes on.",
                                Basis.practice())
                        .mendAt(Step.FIRST_START));
            } else {
                halt(
                        root.port(),
                        Trace.Stage.SYSTEM,
                        Cause.FSTAB_MISSING_DEVICE,
                        "/etc/fstab mounts " + device + " at " + mount.place()
                                + ", which is on nothing that is plugged in.",
                        Step.FIRST_START);
                return false;
            }
        }
        return true;
    }

    /** Remote login on, somebody who gets in, and a network with an address: whichever is missing is named. */
    private boolean reachable(Handed handed, Root root, KernelLine line, boolean login) {
        List<String> missing = new ArrayList<>();
        if (!login) {
            missing.add("remote login is off");
        }
        boolean account = handed.start().makesAccount()
                || root.files()
                        .filter(files -> files.account() || handed.start().makesKeyed(files))
                        .isPresent();
        if (!account) {
            missing.add("there is no account anybody could log in with");
        }
        Optional<String> fixed = fixedAddress(line);
        boolean straight =
                fixed.filter(address -> address.startsWith("169.254.")).isPresent();
        if (!bench.network().link()) {
            missing.add("no network cable is in");
        } else if (straight && bench.network().dhcp()) {
            missing.add("its address is one for a straight cable, and it is on a network");
        } else if (fixed.isEmpty() && !bench.network().dhcp()) {
            missing.add("nobody gives it an address");
        }
        if (!missing.isEmpty()) {
            trace.finding(Finding.note(
                            "not-reachable",
                            "Without a monitor nobody gets in: " + String.join(", ", missing) + ".",
                            BYTES)
                    .mendAt(Step.FIRST_START));
        }
        return missing.isEmpty();
    }

    private static Optional<MediumContents.RootFiles> rootFiles(RootSearch.Hit hit) {
        Map<Integer, MediumContents.RootFiles> roots = hit.medium().contents().roots();
        PartitionContent content = hit.content();
        return Optional.ofNullable(roots.get(content.partition().number()));
    }

    private void halt(String port, Trace.Stage stage, Cause cause, String text, Step remedy) {
        trace.fails(stage, port, 0, cause, text);
        trace.finding(Finding.stop("start-" + cause.code(), text, BYTES).mendAt(remedy));
        trace.end(Trace.Outcome.HALTED);
    }

    private double slowness(Bench.Attached medium) {
        BoardProfile.Port port = profile.port(medium.port()).orElseThrow();
        return DriveShare.slowness(LinkChain.of(medium.name(), medium.kind().readRate(), List.of(port.link()))
                .effective());
    }
}

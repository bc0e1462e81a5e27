// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.lint.SettingsCheck;
import exordium.core.firststart.settings.PcieLine;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.inspection.PartitionContent;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.FirstLook;
import exordium.core.rehearsal.contents.KernelChoice;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.rehearsal.contents.RootFacts;
import exordium.core.storage.judgement.DriveShare;
import exordium.core.storage.media.LinkChain;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** From the start files on: settings, kernel line, kernel, root. A failure here ends the start. */
final class SystemStart {
    private static final Basis BYTES = Basis.computed("the attached drives");
    private static final Basis SERVER = Basis.computed("the server's exports");
    static final String NETWORK = "network";

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
    record Handed(String port, MediumContents.StartPartition start, double slow, boolean overNetwork) {}

    /** A root that was found; hit: on which drive, files: what is in it. */
    record Root(String port, Optional<RootSearch.Hit> hit, Optional<MediumContents.RootFiles> files, double slow) {}

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
        if (root.isEmpty()) {
            return;
        }
        new SystemUp(bench, trace, search, handed, root.get(), line.get()).runs();
    }

    /** Text from a medium goes into sentences without what a terminal would act on. */
    static String printable(String text) {
        return text.replaceAll("\\p{Cntrl}", "?");
    }

    private boolean settingsHold(Handed handed) {
        List<Finding> findings = handed.start()
                .settings()
                .map(content -> SettingsCheck.settings(content, profile))
                .orElse(List.of());
        Optional<Finding> broken = findings.stream()
                .filter(finding -> finding.isAbout(Subject.NOT_TEXT))
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
        if (silentDrive() && !pcieOn(handed)) {
            trace.finding(PcieLine.missing());
        }
        return true;
    }

    private boolean silentDrive() {
        return bench.attached().stream()
                .anyMatch(each -> each.silentCarrier()
                        && each.seated()
                        && profile.port(each.port())
                                .filter(port -> port.source() == StartSource.NVME)
                                .isPresent());
    }

    private static boolean pcieOn(Handed handed) {
        return handed.start()
                .settings()
                .map(SettingsCheck::effective)
                .map(lines -> SettingsDocument.parse(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)))
                .filter(PcieLine::isIn)
                .isPresent();
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
        Optional<FirstLook> absent =
                files.flatMap(MediumContents.RootFiles::begins).filter(look -> !look.there() && !kernel.initramfs());
        if (absent.isPresent()) {
            return rootFails(
                    hit.medium().port(),
                    line,
                    Cause.ROOT_UNREADABLE,
                    "The kernel line has " + printable(absent.get().path())
                            + " started in the place of the system, and the root holds no such program.",
                    Step.FIRST_START);
        }
        trace.rootFrom(hit.medium().port());
        trace.works(Trace.Stage.ROOT, hit.medium().port(), 0.3, "Root " + printable(name) + " is " + place + ".");
        if (hits.size() > 1) {
            trace.cause(Cause.ROOT_AMBIGUOUS);
            trace.finding(Finding.stop("start-root-ambiguous", twins(name, hits), BYTES)
                    .mendAt(Step.STORAGE));
        }
        return Optional.of(new Root(hit.medium().port(), Optional.of(hit), files, slowness(hit.medium())));
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
                boolean known = export.get().read().isPresent()
                        && folder.equals(export.get().folder().get().normalize());
                files = known ? export.get().read() : within ? RootFacts.of(folder) : Optional.empty();
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
        return Optional.of(new Root(NETWORK, Optional.empty(), files, 1.4));
    }

    private static String withoutSlash(String path) {
        return path.length() > 1 ? path.replaceFirst("/+$", "") : path;
    }

    /** The client's own address in ip=, where it is given there. */
    static Optional<String> fixedAddress(KernelLine line) {
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

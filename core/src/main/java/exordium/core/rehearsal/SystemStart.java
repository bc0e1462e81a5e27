// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.firststart.KernelLine;
import exordium.core.firststart.SettingsCheck;
import exordium.core.storage.DriveShare;
import exordium.core.storage.LinkChain;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/** From the start files on: settings, kernel line, kernel, root, what the root mounts. A failure here ends the start. */
final class SystemStart {
    private static final Basis BYTES = Basis.computed("the attached drives");
    private final BoardProfile profile;
    private final TraceBuilder trace;
    private final RootSearch search;

    SystemStart(Bench bench, TraceBuilder trace, List<Bench.Attached> seen) {
        this.profile = bench.profile();
        this.trace = trace;
        this.search = new RootSearch(bench, seen);
    }

    void from(Bench.Attached medium) {
        MediumContents.StartPartition start = medium.contents().start().orElseThrow();
        double slow = slowness(medium);
        if (!settingsHold(medium, start)) {
            return;
        }
        Optional<KernelLine> line = kernelLine(medium, start);
        if (line.isEmpty()) {
            return;
        }
        trace.works(
                Trace.Stage.KERNEL,
                medium.port(),
                profile.timing().kernel() * slow,
                "The kernel starts with "
                        + line.get().value("root").map(root -> "root=" + root).orElse("no root") + ".");
        Optional<RootSearch.Hit> root = root(medium, line.get());
        if (root.isEmpty() || !mounts(root.get())) {
            return;
        }
        boolean login = start.remoteLogin()
                || rootFiles(root.get())
                        .filter(MediumContents.RootFiles::remoteLogin)
                        .isPresent();
        trace.reachable(login);
        trace.works(
                Trace.Stage.SYSTEM,
                root.get().medium().port(),
                profile.timing().userSpace() * slowness(root.get().medium()),
                "The system is up"
                        + (login
                                ? ", and can be reached over the network."
                                : "; remote login is off, so a monitor is needed."));
        if (!login) {
            trace.finding(Finding.note("not-reachable", "Remote login is off; without a monitor nobody gets in.", BYTES)
                    .mendAt(Step.FIRST_START));
        }
        trace.end(Trace.Outcome.RUNNING);
    }

    private boolean settingsHold(Bench.Attached medium, MediumContents.StartPartition start) {
        List<Finding> findings = start.settings().map(SettingsCheck::settings).orElse(List.of());
        Optional<Finding> worst = findings.stream().filter(Finding::stops).findFirst();
        worst.ifPresent(finding ->
                halt(medium.port(), Trace.Stage.START_FILES, Cause.SETTINGS_BROKEN, finding.text(), Step.FIRST_START));
        return worst.isEmpty();
    }

    private Optional<KernelLine> kernelLine(Bench.Attached medium, MediumContents.StartPartition start) {
        BoardProfile.StartFiles files = profile.startFiles();
        if (start.kernelLine().isEmpty()) {
            halt(
                    medium.port(),
                    Trace.Stage.START_FILES,
                    Cause.KERNEL_LINE_BROKEN,
                    "There is no " + files.kernelLine() + " on it.",
                    Step.FIRST_START);
            return Optional.empty();
        }
        byte[] content = start.kernelLine().get();
        Optional<Finding> worst = SettingsCheck.kernelLine(content, files.kernelLineForm()).stream()
                .filter(Finding::stops)
                .findFirst();
        if (worst.isPresent()) {
            halt(
                    medium.port(),
                    Trace.Stage.START_FILES,
                    Cause.KERNEL_LINE_BROKEN,
                    worst.get().text(),
                    Step.FIRST_START);
            return Optional.empty();
        }
        return KernelLine.in(new String(content, StandardCharsets.UTF_8), files.kernelLineForm());
    }

    private Optional<RootSearch.Hit> root(Bench.Attached medium, KernelLine line) {
        String name = line.value("root").orElse("");
        List<RootSearch.Hit> hits = search.find(name);
        if (hits.isEmpty()) {
            halt(
                    medium.port(),
                    Trace.Stage.ROOT,
                    Cause.ROOT_NOT_FOUND,
                    "The kernel line asks for root=" + name + ", which is on nothing that is plugged in.",
                    Step.FIRST_START);
            return Optional.empty();
        }
        RootSearch.Hit hit = hits.get(0);
        Optional<MediumContents.RootFiles> files = rootFiles(hit);
        if (files.isEmpty() || files.get().width().isEmpty()) {
            halt(
                    hit.medium().port(),
                    Trace.Stage.ROOT,
                    Cause.ROOT_UNREADABLE,
                    "The root on " + hit.medium().name() + " cannot be read, or holds no first program.",
                    Step.IMAGE);
            return Optional.empty();
        }
        if (files.get().width().get() > profile.width()) {
            halt(
                    hit.medium().port(),
                    Trace.Stage.ROOT,
                    Cause.KERNEL_FOR_OTHER_BOARD,
                    "The root holds " + files.get().width().get() + "-bit programs; this board has " + profile.width()
                            + " bits.",
                    Step.IMAGE);
            return Optional.empty();
        }
        trace.rootFrom(hit.medium().port());
        trace.works(
                Trace.Stage.ROOT,
                hit.medium().port(),
                0.3,
                "Root " + name + " is partition " + hit.content().partition().number() + " of "
                        + hit.medium().name() + ".");
        if (hits.size() > 1) {
            trace.cause(Cause.ROOT_AMBIGUOUS);
            trace.finding(Finding.stop(
                            "start-root-ambiguous",
                            hits.size() + " plugged-in drives answer to root=" + name
                                    + ": they are copies of each other. Which one runs is chance; take the old one out.",
                            BYTES)
                    .mendAt(Step.STORAGE));
        }
        return Optional.of(hit);
    }

    /** Lines of fstab(5) that must be there: not noauto, not nofail, and naming a device. */
    private boolean mounts(RootSearch.Hit root) {
        String fstab = rootFiles(root).flatMap(MediumContents.RootFiles::fstab).orElse("");
        for (String raw : fstab.split("\\R")) {
            String[] fields = raw.strip().split("\\s+");
            if (raw.isBlank() || raw.strip().startsWith("#") || fields.length < 4) {
                continue;
            }
            List<String> options = List.of(fields[3].split(","));
            boolean device = fields[0].contains("=") || fields[0].startsWith("/dev/");
            if (device
                    && !options.contains("noauto")
                    && !options.contains("nofail")
                    && search.find(fields[0]).isEmpty()) {
                halt(
                        root.medium().port(),
                        Trace.Stage.SYSTEM,
                        Cause.FSTAB_MISSING_DEVICE,
                        "/etc/fstab mounts " + fields[0] + " at " + fields[1]
                                + ", which is on nothing that is plugged in.",
                        Step.FIRST_START);
                return false;
            }
        }
        return true;
    }

    private static Optional<MediumContents.RootFiles> rootFiles(RootSearch.Hit hit) {
        return Optional.ofNullable(
                hit.medium().contents().roots().get(hit.content().partition().number()));
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

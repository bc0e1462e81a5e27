// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.KernelChoice;
import exordium.core.rehearsal.contents.MediumContents;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A start over the network: link, lease, then the files where the family looks for them: in a folder named by the serial without
 * leading zeros, by a menu named after the hardware address, or by the boot file of the lease.
 */
final class NetworkStart {
    private static final String PORT = "network";

    private final Bench bench;
    private final BoardProfile profile;
    private final TraceBuilder trace;
    private final List<Bench.Attached> seen;

    NetworkStart(Bench bench, TraceBuilder trace, List<Bench.Attached> seen) {
        this.bench = bench;
        this.profile = bench.profile();
        this.trace = trace;
        this.seen = seen;
    }

    /** True when the start ended here, well or badly. */
    boolean tries() {
        if (!hasAddress(StartSource.NETWORK, PORT)) {
            return false;
        }
        if (bench.network().tftpRoot().filter(Files::isDirectory).isEmpty()) {
            return missing(PORT, Cause.NETWORK_NO_FILES, "nobody hands out files.");
        }
        Path top = bench.network().tftpRoot().get();
        try {
            return switch (profile.network().by()) {
                case "menu" -> byMenu(top);
                case "boot-file" -> byBootFile(top);
                default -> bySerial(top);
            };
        } catch (IOException e) {
            return missing(PORT, Cause.NETWORK_NO_FILES, "what is handed out cannot be read.");
        }
    }

    /** True when an install over HTTP takes over: firmware, cable, address and the server beyond are all there. */
    boolean installs() {
        String port = profile.ports().stream()
                .filter(each -> each.source() == StartSource.NETWORK_INSTALL)
                .map(BoardProfile.Port::id)
                .findFirst()
                .orElse("");
        // An installer waits behind the digit; in a list of places it is one more try of the network.
        boolean installer = profile.order().form().digits();
        if (port.isEmpty() || !installer) {
            trace.passesOn(
                    Trace.Stage.SOURCE,
                    port.isEmpty() ? null : port,
                    profile.timing().tryEmpty(),
                    "Network once more: nobody answers.");
            return false;
        }
        if (!hasAddress(StartSource.NETWORK_INSTALL, port)) {
            return false;
        }
        if (!bench.network().internet()) {
            return missing(port, Cause.NETWORK_NO_FILES, "the server to install from is not reached.");
        }
        trace.startedFrom(port);
        trace.works(
                Trace.Stage.SOURCE,
                port,
                profile.timing().tryMedium(),
                "Network install: the installer is fetched; with keyboard and monitor it goes on from there.");
        trace.end(Trace.Outcome.INSTALLING);
        return true;
    }

    private boolean hasAddress(StartSource source, String port) {
        Optional<LocalDate> needed = profile.firmware().lacking(source, bench.firmware());
        if (needed.isPresent()) {
            return missing(
                    port,
                    Cause.FIRMWARE_TOO_OLD,
                    "starting from " + source.code() + " needs firmware of " + needed.get() + " or later.");
        }
        if (!bench.network().link()) {
            return missing(port, Cause.NETWORK_NO_LINK, "no cable, or nothing at its other end.");
        }
        if (!bench.network().dhcp()) {
            return missing(port, Cause.NETWORK_NO_LEASE, "nobody hands out an address.");
        }
        return true;
    }

    private boolean bySerial(Path top) throws IOException {
        String serial = bench.serial().toLowerCase(Locale.ROOT).replaceFirst("^0+(?=.)", "");
        if (!serial.matches("[0-9a-z]{1,32}")) {
            return missing(
                    PORT,
                    Cause.NETWORK_NO_DIRECTORY,
                    "the board's serial is not known, so nobody can tell which folder it asks for.");
        }
        Path folder = top.resolve(serial);
        if (!Files.isDirectory(folder)) {
            if (profile.startFiles().loaders().stream().anyMatch(loader -> atTop(top, loader))) {
                trace.finding(Finding.note(
                        "network-files-at-top",
                        "Start files lie at the top of the server's folder; this board looks in " + serial
                                + " within it.",
                        Basis.practice()));
            }
            return missing(
                    PORT,
                    Cause.NETWORK_NO_DIRECTORY,
                    "the server has no directory " + serial + " (the serial without its leading zeros).");
        }
        return start(ContentsReader.folder(folder, profile.startFiles(), Optional.empty()), serial);
    }

    private static boolean atTop(Path top, String pattern) {
        try (Stream<Path> entries = Files.list(top)) {
            return entries.map(path -> path.getFileName().toString())
                    .anyMatch(name -> NamePattern.isLike(name, pattern));
        } catch (IOException e) {
            return false;
        }
    }

    /** U-Boot documentation, pxe: the hardware address with 01- in front, then "default". */
    private boolean byMenu(Path top) throws IOException {
        String mac = bench.mac().toLowerCase(Locale.ROOT).replace(':', '-');
        for (String folder : profile.network().names()) {
            for (String name : mac.isEmpty() ? List.of("default") : List.of("01-" + mac, "default")) {
                Path menu = top.resolve(folder).resolve(name);
                if (name.matches("[0-9a-z-]+") && Files.isRegularFile(menu)) {
                    MediumContents.StartPartition start =
                            ContentsReader.folder(top, profile.startFiles(), Optional.of(Files.readAllBytes(menu)));
                    return start(start, folder + "/" + name);
                }
            }
        }
        return missing(
                PORT,
                Cause.NETWORK_NO_FILES,
                "the server has no menu for it in "
                        + String.join(", ", profile.network().names()) + ".");
    }

    private boolean byBootFile(Path top) throws IOException {
        MediumContents.StartPartition start = ContentsReader.folder(top, profile.startFiles(), Optional.empty());
        return profile.network().names().stream().anyMatch(start::has)
                ? start(start, "the boot file")
                : missing(
                        PORT,
                        Cause.NETWORK_NO_FILES,
                        "the server has no boot file, none of "
                                + String.join(", ", profile.network().names()) + ".");
    }

    private boolean start(MediumContents.StartPartition start, String where) {
        boolean bySerial = profile.network().by().equals("serial");
        if (bySerial && profile.startFiles().loaders().stream().noneMatch(start::has)) {
            return missing(
                    PORT,
                    Cause.NETWORK_NO_FILES,
                    "none of " + String.join(", ", profile.startFiles().loaders()) + " in " + where + ".");
        }
        Optional<KernelChoice.Fault> fault = KernelChoice.of(profile, start).fault();
        if (fault.isPresent()) {
            Cause cause = fault.get().cause() == Cause.NO_START_FILES
                    ? Cause.NETWORK_NO_FILES
                    : fault.get().cause();
            return missing(PORT, cause, "in " + where + ", " + fault.get().text());
        }
        trace.works(
                Trace.Stage.SOURCE,
                PORT,
                profile.timing().tryMedium(),
                "Network: address, directory and start files are there.");
        trace.startedFrom(PORT);
        new SystemStart(bench, trace, seen).fromServer(start);
        return true;
    }

    private boolean missing(String port, Cause cause, String text) {
        trace.passedOver(
                port,
                profile.timing().tryEmpty(),
                cause,
                (port.equals(PORT) ? "Network: " : "Network install: ") + text);
        return false;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.firststart.KernelLine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** A start over the network: link, lease, the directory named by the serial without leading zeros, files, export. */
final class NetworkStart {
    private static final String PORT = "network";

    private final Bench bench;
    private final TraceBuilder trace;

    NetworkStart(Bench bench, TraceBuilder trace) {
        this.bench = bench;
        this.trace = trace;
    }

    /** True when the start ended here, well or badly. */
    boolean tries() {
        Bench.Network network = bench.network();
        if (!network.link()) {
            return missing(Cause.NETWORK_NO_LINK, "no cable, or nothing at its other end.");
        }
        if (!network.dhcp()) {
            return missing(Cause.NETWORK_NO_LEASE, "nobody hands out an address.");
        }
        String directory = bench.serial().replaceFirst("^0+(?=.)", "");
        Optional<Path> folder =
                network.tftpRoot().map(root -> root.resolve(directory)).filter(Files::isDirectory);
        if (folder.isEmpty()) {
            return missing(
                    Cause.NETWORK_NO_DIRECTORY,
                    "the server has no directory " + directory + " (the serial without its leading zeros).");
        }
        return fromFolder(folder.get());
    }

    private boolean fromFolder(Path folder) {
        BoardProfile.StartFiles files = bench.profile().startFiles();
        String line;
        try (Stream<Path> entries = Files.list(folder)) {
            List<String> names =
                    entries.map(path -> path.getFileName().toString()).toList();
            MediumContents.StartPartition start =
                    new MediumContents.StartPartition(0, names, Optional.empty(), Optional.empty());
            boolean whole = files.loaders().stream().anyMatch(start::has)
                    && files.kernels().keySet().stream().anyMatch(start::has)
                    && Files.isRegularFile(folder.resolve(files.kernelLine()));
            if (!whole) {
                return missing(
                        Cause.NETWORK_NO_FILES,
                        "start files, kernel or kernel line are missing in " + folder.getFileName() + ".");
            }
            line = Files.readString(folder.resolve(files.kernelLine()));
        } catch (IOException e) {
            return missing(Cause.NETWORK_NO_FILES, "its directory cannot be read.");
        }
        trace.works(
                Trace.Stage.SOURCE,
                PORT,
                bench.profile().timing().tryMedium(),
                "Network: address, directory and start files are there.");
        trace.startedFrom(PORT);
        // Linux kernel documentation, nfsroot: nfsroot=[server:]path[,options]
        String export = KernelLine.in(line, files.kernelLineForm())
                .flatMap(words -> words.value("nfsroot"))
                .map(value -> value.substring(value.indexOf(':') + 1).split(",")[0])
                .orElse("");
        trace.works(
                Trace.Stage.KERNEL,
                PORT,
                bench.profile().timing().kernel() * 1.5,
                "The kernel starts and asks for " + (export.isEmpty() ? "no root" : export) + ".");
        if (!bench.network().exports().contains(export)) {
            trace.fails(
                    Trace.Stage.ROOT,
                    PORT,
                    0,
                    Cause.NETWORK_NO_EXPORT,
                    "The server exports no " + (export.isEmpty() ? "root for it" : export) + ".");
            trace.finding(Finding.stop(
                    "start-network-no-export",
                    "The server does not export the root the kernel line names.",
                    Basis.computed("the server's exports")));
            trace.end(Trace.Outcome.HALTED);
            return true;
        }
        trace.rootFrom(PORT);
        trace.reachable(true);
        trace.works(
                Trace.Stage.SYSTEM,
                PORT,
                bench.profile().timing().userSpace() * 1.4,
                "The system is up, its root on the server.");
        trace.end(Trace.Outcome.RUNNING);
        return true;
    }

    private boolean missing(Cause cause, String text) {
        trace.fails(Trace.Stage.SOURCE, PORT, bench.profile().timing().tryEmpty(), cause, "Network: " + text);
        return false;
    }
}

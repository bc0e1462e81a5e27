// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code drive new}: makes a virtual drive. */
@Command(name = "drive", description = "Make virtual drives.", mixinStandardHelpOptions = true)
final class DriveCommand {
    private static final Set<String> BUSES = Set.of("sd", "usb", "sata", "nvme", "emmc");

    private record Out(String id, String path, String bus, long bytes, List<String> faults) {}

    @Command(name = "new", description = "Make a virtual drive.")
    int make(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE") Path file,
            @Option(names = "--bytes", required = true, paramLabel = "N") String bytes,
            @Option(names = "--bus", required = true, paramLabel = "BUS") String bus,
            @Option(names = "--write-rate", paramLabel = "R") Double writeRate,
            @Option(names = "--read-rate", paramLabel = "R") Double readRate,
            @Option(names = "--fault", paramLabel = "KIND:...") List<String> faults)
            throws IOException {
        if (!BUSES.contains(bus)) {
            throw new UnreadableInput("\"" + bus + "\" is no bus; there are sd, usb, sata, nvme and emmc.");
        }
        ByteSize size = ByteSize.parse(bytes);
        if (size.bytes() < 512) {
            throw new UnreadableInput("A drive has at least one sector of 512 bytes.");
        }
        List<String> wanted = faults == null ? List.of() : faults;
        VirtualDrive.create(
                common.reader(),
                file,
                new DriveDescription(
                        "virtual drive",
                        bus,
                        "",
                        size,
                        Optional.ofNullable(writeRate).map(ByteRate::new),
                        Optional.ofNullable(readRate).map(ByteRate::new),
                        wanted));
        common.print(
                new Out(file.getFileName().toString(), file.toString(), bus, size.bytes(), wanted),
                List.of("Virtual drive " + file.getFileName() + " of " + size.exact() + " made."));
        return ExitCode.DONE;
    }
}

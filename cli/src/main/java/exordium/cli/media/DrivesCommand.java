// SPDX-License-Identifier: Apache-2.0
package exordium.cli.media;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.MachineDrive;
import exordium.core.finding.Finding;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.VirtualDrives;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code drives}: every drive, with the reasons for which one is refused. */
@Command(name = "drives", description = "List drives, and why any is refused.")
public final class DrivesCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    private record DrivesOut(
            String id,
            String path,
            boolean simulated,
            String bus,
            long bytes,
            boolean removable,
            boolean readOnly,
            boolean writable,
            List<String> refusals) {}

    @Override
    public Integer call() throws IOException {
        List<DrivesOut> drives = new ArrayList<>();
        for (VirtualDrives.Listed each :
                new VirtualDrives(common.reader()).in(common.folder().resolve("drives"))) {
            drives.add(new DrivesOut(
                    each.id(),
                    each.path().toString(),
                    true,
                    each.bus(),
                    each.size().bytes(),
                    true,
                    false,
                    true,
                    List.of()));
        }
        Targets targets = common.targets();
        targets.notReached().ifPresent(why -> common.message(why.text()));
        for (MachineDrive drive : targets.ofMachine()) {
            List<String> refusals =
                    targets.refusals(drive).stream().map(Finding::text).toList();
            drives.add(new DrivesOut(
                    drive.id(),
                    drive.node().toString(),
                    false,
                    drive.bus(),
                    drive.size().bytes(),
                    drive.removable(),
                    drive.readOnly(),
                    refusals.isEmpty(),
                    refusals));
        }
        common.print(drives, drives.stream().map(DrivesCommand::line).toList());
        return ExitCode.DONE;
    }

    private static String line(DrivesOut drive) {
        return drive.id() + (drive.simulated() ? " (simulated)" : "") + "  " + drive.bus() + "  "
                + ByteSize.of(drive.bytes()).said()
                + (drive.refusals().isEmpty() ? "" : "  refused: " + String.join(" ", drive.refusals()));
    }
}

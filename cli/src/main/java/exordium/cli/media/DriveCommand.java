// SPDX-License-Identifier: Apache-2.0
package exordium.cli.media;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.common.TakeIn;
import exordium.cli.image.WriteCommand;
import exordium.core.block.MachineDrive;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Refused;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.CapacityProof;
import exordium.jobs.bench.DriveTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.VirtualDrives;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.DriveWork;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code drive new}: makes a virtual drive. */
@Command(
        name = "drive",
        description = "Make virtual drives; clear, grow, prove, unmount and eject drives.",
        mixinStandardHelpOptions = true)
public final class DriveCommand {
    private record DriveOut(String id, String path, String bus, long bytes, List<String> faults) {}

    @Command(name = "new", description = "Make a virtual drive.")
    int make(
            @Mixin Common common,
            @Parameters(paramLabel = "FILE") Path file,
            @Option(names = "--bytes", required = true, paramLabel = "N") String bytes,
            @Option(names = "--bus", required = true, paramLabel = "BUS") String bus,
            @Option(names = "--write-rate", paramLabel = "R") Double writeRate,
            @Option(names = "--read-rate", paramLabel = "R") Double readRate,
            @Option(names = "--fault", paramLabel = "KIND:...") List<String> faults,
            @Option(
                            names = "--life-used",
                            paramLabel = "PERCENT",
                            description = "what it tells of the life it has used, to practise with")
                    Double lifeUsed)
            throws IOException {
        if (lifeUsed != null && !(lifeUsed >= 0 && lifeUsed <= 255)) {
            throw new BadArgument("The life a drive has used is 0 to 255 percent.", lifeUsed.toString());
        }
        ByteSize size = ByteSize.parse(bytes);
        List<String> wanted = faults == null ? List.of() : faults;
        new VirtualDrives(common.reader())
                .make(
                        file,
                        new VirtualDrives.Wanted(
                                bus,
                                size,
                                Optional.ofNullable(writeRate).map(ByteRate::new),
                                Optional.ofNullable(readRate).map(ByteRate::new),
                                wanted,
                                Optional.ofNullable(lifeUsed).map(used -> used / 100)));
        common.print(
                new DriveOut(file.getFileName().toString(), file.toString(), bus, size.bytes(), wanted),
                List.of("Virtual drive " + file.getFileName() + " of " + size.exact() + " made."));
        return ExitCode.DONE;
    }

    private record DoneOut(String drive, String text) {}

    private record ProofOut(
            String drive,
            long announcedBytes,
            Optional<Long> realBytes,
            long provenBytes,
            List<WriteCommand.DifferenceOut> bad,
            boolean sound,
            String text) {}

    /** The drive something is done to, by its path and its own name. */
    static final class OnDrive {
        @Parameters(paramLabel = "TARGET")
        private Path path;

        @Option(names = "--confirm", required = true, paramLabel = "NAME", description = "its own name")
        private String confirm;

        @Mixin
        private TakeIn takeIn;

        Targets.Target target(Common common, Workbench bench) throws IOException {
            if (!Files.exists(path)) {
                throw new UnreadableInput("There is no " + path + ".");
            }
            Targets.Target target = common.targets(bench).at(path, ByteSize.ZERO);
            if (confirm.equals(target.description().id())) {
                takeIn.take(bench, target);
            }
            return target;
        }
    }

    @Command(name = "clear", description = "Take partition tables and signatures off a drive, at both ends.")
    int clear(@Mixin Common common, @Mixin OnDrive on) throws IOException {
        Workbench bench = common.workbench();
        try (ConsoleProgress progress = common.progress(true)) {
            return done(common, on.path, work(bench).clear(on.target(common, bench), on.confirm, progress.meter()));
        }
    }

    @Command(name = "grow", description = "Make the last partition as large as the house's free tail allows.")
    int grow(@Mixin Common common, @Mixin OnDrive on) throws IOException {
        Workbench bench = common.workbench();
        return done(common, on.path, work(bench).grow(on.target(common, bench), on.confirm));
    }

    @Command(
            name = "prove",
            description = "Prove how much a drive really holds: quick leaves it as it was, free writes over free space,"
                    + " whole over everything.")
    int prove(
            @Mixin Common common,
            @Mixin OnDrive on,
            @Option(names = "--how", paramLabel = "quick|free|whole", defaultValue = "quick") DriveWork.Proof how)
            throws IOException {
        Workbench bench = common.workbench();
        try (ConsoleProgress progress = common.progress(true)) {
            CapacityProof.Report report =
                    work(bench).prove(on.target(common, bench), on.confirm, how, progress.meter());
            String id = String.valueOf(on.path.getFileName());
            common.print(
                    new ProofOut(
                            id,
                            report.announced().bytes(),
                            report.real().map(ByteSize::bytes),
                            report.proven().bytes(),
                            report.bad().stream()
                                    .map(each -> new WriteCommand.DifferenceOut(each.offset(), each.bytes()))
                                    .toList(),
                            report.sound(),
                            report.sentence(id)),
                    List.of(report.sentence(id)));
            return report.sound() ? ExitCode.DONE : ExitCode.DIFFERENT;
        }
    }

    @Command(name = "unmount", description = "Unmount every partition of a drive of this machine.")
    int unmount(@Mixin Common common, @Parameters(paramLabel = "DRIVE") Path drive) throws IOException {
        new DriveTools(common.machine()).unmount(machine(common, drive));
        return done(common, drive, drive.getFileName() + " is not mounted any more.");
    }

    @Command(name = "eject", description = "Let a drive of this machine go, so that it can be unplugged.")
    int eject(@Mixin Common common, @Parameters(paramLabel = "DRIVE") Path drive) throws IOException {
        return done(common, drive, new DriveTools(common.machine()).eject(machine(common, drive), common.folder()));
    }

    private static MachineDrive machine(Common common, Path drive) throws IOException {
        Refused.ifAnyStops(common.machine().drives().notReached().stream().toList());
        return common.machine()
                .drives()
                .find(drive, common.folder())
                .orElseThrow(() -> new UnreadableInput(drive + " is no drive of this machine."));
    }

    private static DriveWork work(Workbench bench) {
        return new DriveWork(bench, new SecureRandom()::nextLong);
    }

    private static int done(Common common, Path target, String words) {
        common.print(new DoneOut(String.valueOf(target.getFileName()), words), List.of(words));
        return ExitCode.DONE;
    }
}

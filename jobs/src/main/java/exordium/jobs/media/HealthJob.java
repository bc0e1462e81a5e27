// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.BlockDevice;
import exordium.core.block.MachineDrive;
import exordium.core.block.MachineDrives;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.health.EmmcLife;
import exordium.core.health.FileSystemSigns;
import exordium.core.health.HealthReading;
import exordium.core.health.MediumHealth;
import exordium.core.health.SmartReport;
import exordium.core.inspection.Inspector;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.sim.VirtualDrive;
import exordium.store.Boards;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Asks media how they are, keeps what they say, and judges them by all that is known. */
public final class HealthJob {
    private static final int LONGEST_FAULT = 500;

    private final Workbench workbench;

    public HealthJob(Workbench workbench) {
        this.workbench = workbench;
    }

    /** A medium with what is known of how it is; board: the one it serves. */
    public record Known(Media.Listed listed, Optional<Boards.Board> board, MediumHealth health, HealthReading last) {}

    /** Of all media that are not retired, those that are to be replaced first at the front. */
    public List<Known> all() throws IOException {
        MediaHealth health = MediaHealth.of(workbench);
        Map<String, Boards.Board> service = workbench.inService();
        List<Known> known = new ArrayList<>();
        for (Media.Listed each : workbench.workspace().media().listed()) {
            if (each.details().state() != Media.State.RETIRED) {
                known.add(known(health, each, service));
            }
        }
        known.sort(java.util.Comparator.comparing((Known each) ->
                each.health().replacement().map(day -> day.date().toEpochDay()).orElse(Long.MAX_VALUE)));
        return known;
    }

    public Known of(Media.Medium medium) throws IOException {
        Media.Listed listed =
                new Media.Listed(medium, workbench.workspace().media().details(medium.id()));
        return known(MediaHealth.of(workbench), listed, workbench.inService());
    }

    private static Known known(MediaHealth health, Media.Listed listed, Map<String, Boards.Board> service)
            throws UnreadableInput {
        Optional<Boards.Board> board =
                Optional.ofNullable(service.get(listed.medium().file()));
        return new Known(
                listed,
                board,
                health.of(listed, board),
                health.signs(listed.medium()).readings().stream()
                        .reduce((first, last) -> last)
                        .orElse(HealthReading.silent(Instant.EPOCH)));
    }

    /**
     * Asks a medium that is here, and keeps the answer: an eMMC's register, {@code smartctl} where it is there, what a virtual drive
     * was made to tell, and what the file systems noted.
     *
     * @throws UnreadableInput when it is not here
     */
    public Known ask(Media.Medium medium) throws IOException {
        Targets.Target target = workbench.targets().of(medium);
        HealthReading told = told(target);
        try (BlockDevice device = target.opener().open(false)) {
            keep(medium, told, device);
        }
        return of(medium);
    }

    /** The same for one that is open already, such as one that is copied: its bytes are not opened a second time. */
    public void ask(Media.Medium medium, Targets.Target target, BlockDevice device) throws IOException {
        keep(medium, told(target), device);
    }

    /** Of a drive of the machine that is open already. */
    void ask(Media.Medium medium, MachineDrive drive, BlockDevice device) throws IOException {
        keep(medium, told(drive, workbench.clock().instant()), device);
    }

    private void keep(Media.Medium medium, HealthReading told, BlockDevice device) throws IOException {
        FileSystemSigns systems = FileSystemSigns.of(device, Inspector.inspect(device));
        workbench.workspace().signs().told(medium.id(), told.with(systems));
    }

    private HealthReading told(Targets.Target target) throws IOException {
        Instant now = workbench.clock().instant();
        if (target.simulated()) {
            return VirtualDrive.told(workbench.reader(), target.description().path(), now);
        }
        Optional<MachineDrive> drive = target.opener().ofMachine();
        return drive.isPresent() ? told(drive.get(), now) : HealthReading.silent(now);
    }

    private HealthReading told(MachineDrive drive, Instant now) throws IOException {
        try {
            Optional<MachineDrives.OwnWords> emmc = workbench.machine().drives().ownWords(drive);
            if (emmc.isPresent()) {
                return EmmcLife.read(emmc.get().lifeTime(), emmc.get().preEol(), now);
            }
            byte[] report = workbench.machine().tools().smartReport(drive.node());
            return report.length == 0 ? HealthReading.silent(now) : SmartReport.read(report, now);
        } catch (UnreadableInput e) {
            // Many readers of cards pass nothing on, or nonsense; that is no fault of the medium.
            return HealthReading.silent(now);
        }
    }

    /** Takes in what smartctl printed elsewhere, such as at the board the drive sits in. */
    public Known takeIn(Media.Medium medium, Path report) throws IOException {
        HealthReading told = SmartReport.read(report, workbench.clock().instant());
        workbench.workspace().signs().told(medium.id(), told);
        return of(medium);
    }

    /**
     * Puts down that a medium failed, as somebody saw it.
     *
     * @throws BadArgument when nothing is said, or too much
     */
    public Known fault(Media.Medium medium, String text) throws IOException {
        String said = text.strip().replaceAll("\\s+", " ");
        if (said.isEmpty() || said.length() > LONGEST_FAULT) {
            throw new BadArgument("Say in one to " + LONGEST_FAULT + " letters what went wrong with it.", text);
        }
        workbench.workspace().signs().fault(medium.id(), workbench.clock().instant(), said);
        workbench
                .workspace()
                .log()
                .add(Optional.empty(), Step.STORAGE, "medium-fault", medium.name() + ": " + said, Optional.empty());
        return of(medium);
    }
}

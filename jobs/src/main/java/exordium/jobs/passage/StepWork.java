// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.access.CarrierKind;
import exordium.core.block.MachineDrive;
import exordium.core.block.TransferWatch;
import exordium.core.bootorder.ChipSettings;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Stopped;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.image.ImageFile;
import exordium.core.passage.Step;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.CapacityProof;
import exordium.core.writing.Verdict;
import exordium.core.writing.WriteMode;
import exordium.core.writing.WritePlan;
import exordium.core.writing.WriteReport;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.board.BoardRegister;
import exordium.jobs.copies.care.AfterWrite;
import exordium.jobs.copies.care.CloneJob;
import exordium.jobs.copies.care.RestoreJob;
import exordium.jobs.copies.vault.CopyJob;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.firmware.ChipSettingsJob;
import exordium.jobs.firmware.FirmwareJob;
import exordium.jobs.firmware.RecoveryJob;
import exordium.jobs.firststart.FirstStartJob;
import exordium.jobs.firststart.Neighbours;
import exordium.jobs.media.DriveWork;
import exordium.jobs.media.NewIdentity;
import exordium.jobs.order.OrderJob;
import exordium.jobs.writing.WriteJob;
import exordium.store.Copies;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** Carries a step out by the job that does such a thing anywhere else, or takes what somebody saw who did it by hand. */
final class StepWork {
    private final Workbench workbench;
    private final BenchReader benches;
    private final DaySheets sheets;
    private final Targets targets;
    private final PassageHouse house;
    private final StartSteps seen;

    StepWork(Workbench workbench, BenchReader benches, DaySheets sheets, Targets targets) {
        this.workbench = workbench;
        this.benches = benches;
        this.sheets = sheets;
        this.targets = targets;
        this.house = new PassageHouse(workbench, benches);
        this.seen = new StartSteps(workbench, benches);
    }

    /**
     * What came of a step.
     *
     * @param row of the register that shows it
     */
    record Outcome(String said, Optional<Long> row) {
        static Outcome of(String said) {
            return new Outcome(said, Optional.empty());
        }
    }

    /**
     * Does it.
     *
     * @param typed the target's own name, where something is written over
     * @param saw what was seen, by the names of facts
     * @throws CameOtherwise when it did not come to what it was to bring about
     * @throws NotPossible when it cannot be done now; nothing was changed then
     */
    Outcome carryOut(Workbench.BoardAtHand at, Step step, String typed, Map<String, String> saw, TransferWatch watch)
            throws IOException {
        takeByName(step, typed);
        return switch (step.deed()) {
            case BUY -> bought(step);
            case COPY -> copy(at, step, watch);
            case WRITE -> write(at, step, typed, watch);
            case CLONE -> cloned(step, typed, watch);
            case RESTORE -> restored(at, step, typed, watch);
            case PROVE -> prove(step, typed, watch);
            case GROW -> Outcome.of(new DriveWork(workbench, new SecureRandom()::nextLong).grow(target(step), typed));
            case CLEAR ->
                Outcome.of(new DriveWork(workbench, new SecureRandom()::nextLong).clear(target(step), typed, watch));
            case NEW_IDENTITY -> {
                NewIdentity.Changed given =
                        new NewIdentity(workbench, new SecureRandom()::nextLong).give(medium(step), target(step));
                yield Outcome.of("Its identifier is " + given.after() + " now.");
            }
            case SET_UP -> setUp(at, step);
            case STAGE_FIRMWARE -> {
                FirmwareJob job = new FirmwareJob(workbench);
                job.stage(at, job.release(at, LocalDate.parse(value(step))));
                yield Outcome.of("Release " + value(step) + " is staged.");
            }
            case STAGE_ORDER -> {
                new OrderJob(workbench).stage(at, value(step));
                yield Outcome.of("The order " + value(step) + " is staged.");
            }
            case STAGE_SETTINGS -> {
                ChipSettings change = ChipSettingsJob.plan(at, value(step));
                Refused.ifAnyStops(change.findings());
                new ChipSettingsJob(workbench).stage(at, change);
                yield Outcome.of("The settings are staged.");
            }
            case RESTART -> seen.restart(at, saw);
            case POWER_OFF -> Outcome.of("Switched off.");
            case POWER_ON -> seen.powerOn(at);
            case PLUG -> plug(at, step);
            case TAKE_OUT -> {
                new BoardJobs(workbench, benches).unplug(at, medium(step));
                yield Outcome.of(medium(step).name() + " is out.");
            }
            case LOOK -> seen.look(at, saw);
            case FETCH, ERRAND_OUT, ERRAND_BACK, TELL -> throw new NotPossible("Nothing here does that yet.");
        };
    }

    /** A blank medium without a serial is known by nothing but what its owner says: the name typed is that of a drive of its size. */
    private void takeByName(Step step, String typed) throws IOException {
        if (typed.isEmpty() || !step.deed().wantsName() || targets.isHere(medium(step))) {
            return;
        }
        Media.Medium medium = medium(step);
        for (MachineDrive drive : targets.ofMachine()) {
            boolean meant = drive.id().equals(typed)
                    && drive.serial().isEmpty()
                    && medium.serial().isEmpty()
                    && drive.size().equals(medium.size())
                    && workbench.recognition().of(drive).isEmpty();
            if (meant) {
                workbench.recognition().note(medium, drive);
            }
        }
    }

    private Outcome prove(Step step, String typed, TransferWatch watch) throws IOException {
        CapacityProof.Report report = new DriveWork(workbench, new SecureRandom()::nextLong)
                .prove(target(step), typed, DriveWork.Proof.QUICK, watch);
        String said = report.sentence(medium(step).name());
        if (!report.sound()) {
            throw new CameOtherwise(said);
        }
        return Outcome.of(said);
    }

    private static String value(Step step) {
        return step.value().orElseThrow();
    }

    private Media.Medium medium(Step step) throws UnreadableInput {
        return workbench.records().medium(step.medium().orElseThrow());
    }

    private Targets.Target target(Step step) throws IOException {
        return targets.of(medium(step));
    }

    private Path path(Media.Medium medium) throws IOException {
        Path file = workbench.driveFile(medium.file());
        return Files.isRegularFile(file)
                ? file
                : targets.of(medium).description().path();
    }

    /** A part is at hand from now on; what medium was bought is seen in the register. */
    private Outcome bought(Step step) throws IOException {
        if (step.value().isPresent()) {
            house.tell(value(step), true);
            return Outcome.of("It is at hand.");
        }
        throw new UnreadableInput(
                "Take what you bought into the register first, with its kind and its real size; then tell"
                        + " this step again.");
    }

    private Outcome copy(Workbench.BoardAtHand at, Step step, TransferWatch watch) throws IOException {
        CopyJob job = new CopyJob(workbench, sheets);
        CopyJob.Done done = job.run(at.register().id(), medium(step), CopyJob.Wanted.USUAL, watch);
        Copies.Copy copy = job.newestOf(at.register().id());
        return new Outcome(
                "Copied and proven, " + ByteSize.of(done.report().usedBytes()).said() + " in use.",
                Optional.of(copy.id()));
    }

    private Outcome write(Workbench.BoardAtHand at, Step step, String typed, TransferWatch watch) throws IOException {
        String source = step.source().orElseThrow();
        if (source.startsWith("recovery:")) {
            RecoveryJob job = new RecoveryJob(workbench);
            LocalDate release = LocalDate.parse(source.substring("recovery:".length()));
            RecoveryJob.Card card = job.plan(at, new FirmwareJob(workbench).release(at, release), step.value());
            return written(step, job.make(at, card, targets, path(medium(step)), typed, watch));
        }
        ImageFile image = ImageFile.open(workbench.images().resolve(source.substring("image:".length())));
        Targets.Target target = new TargetHistory(workbench).known(target(step));
        WritePlan plan = WritePlan.of(
                image,
                WriteJob.sizeOf(image, watch),
                target.description(),
                new WritePlan.Options(WriteMode.USED, true, false, Optional.of(WriteJob.usedIn(image, watch))),
                typed);
        return written(
                step,
                WriteJob.run(workbench, plan, target, Optional.of(at.register().id()), watch));
    }

    private Outcome written(Step step, WriteReport report) throws IOException {
        if (report.verdict() == Verdict.CANCELLED) {
            throw new Stopped(report.sentence());
        }
        if (!report.verdict().good()) {
            throw new CameOtherwise(report.sentence());
        }
        return new Outcome(
                report.sentence(),
                Optional.ofNullable(workbench
                                .workspace()
                                .operations()
                                .lastWrites()
                                .get(step.medium().orElseThrow()))
                        .map(write -> write.id()));
    }

    private static final AfterWrite.Wanted AS_IT_IS = new AfterWrite.Wanted(false, Optional.empty());

    private Outcome cloned(Step step, String typed, TransferWatch watch) throws IOException {
        Media.Medium from = workbench.records().medium(step.source().orElseThrow());
        return written(
                step,
                new CloneJob(workbench, benches)
                        .run(
                                targets,
                                new CloneJob.Order(path(from), path(medium(step)), typed, WriteMode.USED, AS_IT_IS),
                                watch)
                        .report());
    }

    private Outcome restored(Workbench.BoardAtHand at, Step step, String typed, TransferWatch watch)
            throws IOException {
        CopyJob copies = new CopyJob(workbench, sheets);
        String source = step.source().orElseThrow().substring("copy:".length());
        Copies.Copy copy = source.equals("newest")
                ? copies.newestOf(at.register().id())
                : copies.find(at.register().id(), source);
        return written(
                step,
                new RestoreJob(workbench, benches, copies)
                        .run(new RestoreJob.Order(copy, target(step), typed, WriteMode.USED, false, AS_IT_IS), watch)
                        .report());
    }

    /** By what was set up for this board last; where nothing was, remote login and its name. */
    private Outcome setUp(Workbench.BoardAtHand at, Step step) throws IOException {
        String board = at.register().id();
        Map<String, Object> fields = new LinkedHashMap<>();
        Intents intents;
        boolean overlay = value(step).equals("read-only");
        if (overlay) {
            fields.put("overlay", Map.of("root", true, "start", true));
            intents = IntentsReader.of(fields);
        } else if (value(step).equals("root-by-identifier")) {
            fields.put("rootByIdentifier", true);
            intents = IntentsReader.of(fields);
        } else {
            fields.put("remoteLogin", true);
            fields.put("hostName", board);
            Intents usual = IntentsReader.of(fields);
            intents = new Neighbours(workbench, benches).kept(board).orElse(usual);
        }
        int edits = new FirstStartJob(workbench)
                .apply(new FirstStartJob.Order(target(step), at.profile(), intents, Optional.of(board)))
                .edits()
                .size();
        if (overlay) {
            new BoardRegister(workbench).overlay(at, true);
        }
        return Outcome.of(edits + " files changed and read back.");
    }

    private Outcome plug(Workbench.BoardAtHand at, Step step) throws IOException {
        Media.Medium medium = medium(step);
        new BoardJobs(workbench, benches)
                .plug(
                        at,
                        step.port().orElseThrow(),
                        medium,
                        at.board().silentCarrier() ? CarrierKind.SILENT : CarrierKind.ANNOUNCING,
                        step.needs().stream()
                                .filter(need ->
                                        workbench.media().enclosure(need).isPresent())
                                .findFirst());
        return Outcome.of(medium.name() + " is in " + step.port().orElseThrow() + ".");
    }

    /** The name that has to be typed for a step; empty where none has. */
    Optional<String> nameOf(Step step) throws IOException {
        return step.deed().wantsName() && step.medium().isPresent()
                ? Optional.of(target(step).description().id())
                : Optional.empty();
    }

    /** What is written over by it, as the register knows it; empty where nothing is. */
    String over(Step step) {
        if (!step.deed().erases()) {
            return "";
        }
        return workbench.workspace().media().listed().stream()
                .filter(each -> step.medium().filter(each.medium().id()::equals).isPresent())
                .findFirst()
                .map(each -> each.medium().name() + ", " + each.medium().size().said()
                        + (each.details().holds().isEmpty()
                                ? ": what is on it nobody looked at."
                                : ": holds " + each.details().holds() + "."))
                .orElse("");
    }

    /** Facts that have to be told with a step that is done by hand. */
    Tells tells(Workbench.BoardAtHand at, Step step) {
        return switch (step.deed()) {
            case RESTART -> StartSteps.toldAfterRestart(at);
            case LOOK -> StartSteps.toldOfLook(at);
            default -> Tells.NOTHING;
        };
    }
}

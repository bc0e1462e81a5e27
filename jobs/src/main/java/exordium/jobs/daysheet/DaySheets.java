// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.daysheet;

import exordium.core.access.Knowledge;
import exordium.core.bootorder.DecodedOrder;
import exordium.core.bootorder.OrderDialect;
import exordium.core.copies.schedule.CopyRisk;
import exordium.core.copies.schedule.CopyRule;
import exordium.core.daysheet.BoardFacts;
import exordium.core.daysheet.DaySheet;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareStatus;
import exordium.core.firststart.dialect.FirstStartPlan;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.InstalledSystem;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Replacement;
import exordium.core.writing.Ending;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.MediaHealth;
import exordium.jobs.bench.RegisterSnapshot;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** Gathers what is on record and what the drives and boards really hold, and has core judge it. */
public final class DaySheets {
    private final Workbench workbench;
    private final BenchReader benches;

    public DaySheets(Workbench workbench, BenchReader benches) {
        this.workbench = workbench;
        this.benches = benches;
    }

    /** What has been read for them. */
    public BenchReader benches() {
        return benches;
    }

    public DaySheet now() throws IOException {
        RegisterSnapshot record = RegisterSnapshot.of(workbench);
        // Each board is read and rehearsed by itself; all processors take part, and the order stays.
        try {
            return DaySheet.of(record.boards().parallelStream()
                    .map(register -> factsOf(register, record))
                    .toList());
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private BoardFacts factsOf(Boards.Board register, RegisterSnapshot record) {
        try {
            return facts(workbench.atHand(register), record);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    public BoardFacts facts(Workbench.BoardAtHand at) throws IOException {
        return facts(at, RegisterSnapshot.of(workbench));
    }

    private BoardFacts facts(Workbench.BoardAtHand at, RegisterSnapshot record) throws IOException {
        Optional<Media.Medium> medium = Workbench.mainMedium(at, record.media());
        Optional<MediumContents> contents = Optional.empty();
        if (medium.isPresent() && !benches.unread(medium.get())) {
            contents = Optional.of(benches.contents(medium.get(), at.profile()));
        }
        Optional<Replacement> replacement = replacement(at, record, medium);
        return new BoardFacts(
                at.register().id(),
                at.register().name(),
                at.register().place(),
                at.register().profile(),
                at.board().memory(),
                mediumFacts(medium, contents, replacement),
                medium.isPresent() ? away(medium.get()) : Optional.empty(),
                medium.flatMap(each -> Optional.ofNullable(record.lastWrites().get(each.id())))
                        .map(write -> lastWrite(write, record)),
                firstStart(at, contents, record),
                firmware(at, record.rules()),
                at.profile().firmware().updatable(),
                order(at),
                Rehearsal.of(benches.of(at, record.media())),
                copies(at.register(), record),
                due(at, record, medium, replacement),
                reached(at));
    }

    private BoardFacts.Reached reached(Workbench.BoardAtHand at) {
        Knowledge known = at.board().known();
        return new BoardFacts.Reached(
                at.register().way(),
                known.firmware().filter(each -> at.profile().firmware().updatable()),
                known.order(),
                workbench.zone());
    }

    public FirmwareStatus firmware(Workbench.BoardAtHand at) {
        return firmware(at, workbench.rules());
    }

    private FirmwareStatus firmware(Workbench.BoardAtHand at, HouseRules rules) {
        return FirmwareStatus.of(
                        at.profile(),
                        at.board().chip(),
                        FirmwareChip.known(at.board().chipAsKnown().running()).isPresent(),
                        at.register().channel(),
                        workbench.firmware(),
                        at.board().overlay())
                .beside(rules.channel());
    }

    private LocalDate day(Instant at) {
        return LocalDate.ofInstant(at, workbench.zone());
    }

    /** The day of a board's newest proven copy that is in the vault, by what was read together. */
    private Optional<LocalDate> lastCopy(Boards.Board register, RegisterSnapshot record) {
        return record.newest(register.id()).here().map(this::day);
    }

    private BoardFacts.CopyFacts copies(Boards.Board register, RegisterSnapshot record) {
        return new BoardFacts.CopyFacts(
                lastCopy(register, record), record.newest(register.id()).gone().map(this::day), record.vaultAway());
    }

    /** When a board's next copy is due, by what was read together. */
    public CopyRule.Due due(Boards.Board register, RegisterSnapshot record) throws IOException {
        Workbench.BoardAtHand at = workbench.atHand(register);
        Optional<Media.Medium> medium = Workbench.mainMedium(at, record.media());
        return due(at, record, medium, replacement(at, record, medium));
    }

    /** The same as the register is now. */
    public CopyRule.Due due(Boards.Board register) throws IOException {
        return due(register, RegisterSnapshot.of(workbench));
    }

    private CopyRule.Due due(
            Workbench.BoardAtHand at,
            RegisterSnapshot record,
            Optional<Media.Medium> medium,
            Optional<Replacement> replacement) {
        CopyRisk.Known risk = new CopyRisk.Known(
                replacement,
                medium.map(Media.Medium::worn).orElse(0.0),
                MediaHealth.of(workbench, record).dailyWrites(at.register()),
                Optional.ofNullable(record.roles().get(at.register().id())));
        return record.rules()
                .copyRule()
                .next(lastCopy(at.register(), record), at.register().lightlyUsed(), workbench.today(), risk);
    }

    private Optional<Replacement> replacement(
            Workbench.BoardAtHand at, RegisterSnapshot record, Optional<Media.Medium> medium) throws UnreadableInput {
        return medium.isEmpty()
                ? Optional.empty()
                : MediaHealth.of(workbench, record)
                        .of(record.listed(medium.get()), Optional.of(at.register()))
                        .replacement();
    }

    private static Optional<BoardFacts.MediumFacts> mediumFacts(
            Optional<Media.Medium> medium, Optional<MediumContents> contents, Optional<Replacement> replacement) {
        if (medium.isEmpty() || contents.isEmpty()) {
            return Optional.empty();
        }
        DriveInspection inspection = contents.get().inspection();
        return Optional.of(new BoardFacts.MediumFacts(
                medium.get().name(),
                medium.get().size(),
                inspection.used(),
                medium.get().worn(),
                inspection.system().map(InstalledSystem::title),
                inspection.system().map(InstalledSystem::version),
                replacement));
    }

    private Optional<BoardFacts.Away> away(Media.Medium medium) throws IOException {
        Optional<LocalDate> read = benches.asOf(medium).map(this::day);
        return read.isPresent() || benches.unread(medium)
                ? Optional.of(new BoardFacts.Away(medium.name(), read))
                : Optional.empty();
    }

    private BoardFacts.LastWrite lastWrite(Operations.Operation write, RegisterSnapshot record) {
        return new BoardFacts.LastWrite(
                write.image(),
                write.ending(),
                day(write.started()),
                write.deed()
                        .medium()
                        .flatMap(medium ->
                                Optional.ofNullable(record.lastTouching().get(medium)))
                        .filter(touch -> !touch.started().isBefore(write.started()))
                        .map(this::touch));
    }

    private BoardFacts.Touch touch(Operations.Operation operation) {
        String kind = operation.deed().kind();
        String done =
                switch (kind) {
                    case "clear" -> "cleared";
                    case "grow" -> "grown";
                    case "prove-quick", "prove-free", "prove-whole" -> "put through a proof of its size";
                    case "new-identifier" -> "given another identifier";
                    case "first-start" -> "edited for its first start";
                    default -> "changed (" + kind + ")";
                };
        boolean half = operation.ending() != Ending.DONE;
        return new BoardFacts.Touch(half ? done + " in part" : done, day(operation.started()));
    }

    private BoardFacts.FirstStartFacts firstStart(
            Workbench.BoardAtHand at, Optional<MediumContents> contents, RegisterSnapshot record) throws IOException {
        if (contents.isEmpty() || contents.get().start().isEmpty()) {
            return new BoardFacts.FirstStartFacts(false, false, false, false, List.of());
        }
        FirstStartPlan plan =
                FirstStartPlan.of(contents.get().found(at.profile().startFiles()), at.profile());
        boolean login = contents.get().start().get().remoteLogin()
                || contents.get().roots().values().stream().anyMatch(MediumContents.RootFiles::remoteLogin);
        boolean fixed = contents.get()
                .start()
                .get()
                .kernelLine()
                .flatMap(file -> KernelLine.in(
                        new String(file, StandardCharsets.UTF_8),
                        at.profile().startFiles().kernelLineForm()))
                .flatMap(line -> line.value("ip"))
                .isPresent();
        boolean seen = record.startSeen().contains(at.register().id());
        return new BoardFacts.FirstStartFacts(true, login, fixed, seen, plan.findings());
    }

    private BoardFacts.OrderFacts order(Workbench.BoardAtHand at) {
        DecodedOrder decoded = OrderDialect.of(at.profile()).decode(at.order());
        return new BoardFacts.OrderFacts(decoded, at.profile().orderFigure(at.order()), at.stagedOrder());
    }
}

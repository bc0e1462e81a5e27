// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.copies.vault.VaultCheck;
import exordium.core.copies.vault.VaultRepair;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.jobs.copies.vault.VaultJob;
import exordium.jobs.copies.vault.VaultPlace;
import exordium.jobs.paper.DueCalendar;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code vault}: what it holds for each board, whether it is whole, and mending it. */
@Command(name = "vault", description = "Show, check and mend the vault.", mixinStandardHelpOptions = true)
public final class VaultCommand {
    private record BoardOut(
            String board,
            Optional<Instant> lastProven,
            LocalDate nextDue,
            String why,
            int copies,
            long bytes,
            long ownBytes) {}

    private record VaultOut(
            String folder, boolean here, List<BoardOut> boards, long usedBytes, Optional<Long> freeBytes) {}

    @Command(name = "status", description = "Last proven copy, next due, space.")
    int status(@Mixin Common common) throws IOException {
        Common.House house = common.house();
        List<BoardOut> boards = new ArrayList<>();
        Optional<String> away = house.bench().standing().away();
        VaultJob.Strata strata = new VaultJob(house.bench()).strata(Optional.empty());
        for (DueCalendar.Entry entry : DueCalendar.entries(house.bench(), house.sheets())) {
            List<VaultJob.Generation> copies = strata.of(entry.board(), away.isPresent());
            boards.add(new BoardOut(
                    entry.board(),
                    copies.stream().reduce((first, last) -> last).map(each -> each.copy()
                            .proven()),
                    entry.date(),
                    entry.reason(),
                    copies.size(),
                    strata.room(entry.board()).all().bytes(),
                    strata.room(entry.board()).own().bytes()));
        }
        Path folder = house.bench().vault().toAbsolutePath().normalize();
        Optional<ByteSize> free = Files.isDirectory(folder)
                ? Optional.of(ByteSize.of(Files.getFileStore(folder).getUsableSpace()))
                : Optional.empty();
        List<String> lines = new ArrayList<>(boards.stream()
                .map(each -> each.board() + "  last "
                        + each.lastProven().map(Common::said).orElse("never") + "  next " + each.nextDue() + "  "
                        + each.why())
                .toList());
        lines.add("The vault in " + folder + " holds " + strata.used().said()
                + free.map(bytes -> "; " + bytes.said() + " are free.").orElse("."));
        away.ifPresent(common::message);
        common.print(
                new VaultOut(
                        folder.toString(), away.isEmpty(), boards, strata.used().bytes(), free.map(ByteSize::bytes)),
                lines);
        return ExitCode.DONE;
    }

    private record MoveOut(String from, String folder, long bytes) {}

    @Command(
            name = "move",
            description =
                    "Take the vault with all copies to another folder, such as one of a mounted share; they are read"
                            + " back there before they go here.")
    int move(
            @Mixin Common common,
            @Parameters(
                            paramLabel = "FOLDER",
                            arity = "0..1",
                            description = "where it is to lie; none for back into the workspace")
                    String folder)
            throws IOException {
        Common.House house = common.house();
        VaultPlace place = new VaultPlace(house.bench());
        VaultPlace.Planned plan = place.plan(Optional.ofNullable(folder));
        String came;
        try (ConsoleProgress progress = common.progress(true)) {
            came = place.move(plan, progress.meter());
        }
        common.print(
                new MoveOut(
                        plan.from().toString(),
                        plan.to().toString(),
                        plan.bytes().bytes()),
                List.of(came));
        return ExitCode.DONE;
    }

    private record DamageOut(String copy, long firstByte, long chunks, String text) {}

    private record CheckOut(long chunks, long of, long bytes, boolean whole, List<DamageOut> damages) {}

    @Command(name = "check", description = "Read chunks and hold them to their digests.")
    int check(
            @Mixin Common common,
            @Option(
                            names = "--sample",
                            paramLabel = "N",
                            description = "so many chunks drawn by chance; all without it")
                    Integer sample)
            throws IOException {
        if (sample != null && sample < 1) {
            throw new UnreadableInput("A sample has at least one chunk.");
        }
        VaultCheck check;
        try (ConsoleProgress progress = common.progress(false)) {
            check = new VaultJob(common.house().bench())
                    .check(sample == null ? OptionalInt.empty() : OptionalInt.of(sample), progress.meter());
        }
        List<String> lines = new ArrayList<>(
                check.damages().stream().map(VaultCheck.Damage::text).toList());
        lines.add(check.chunks() + " of " + check.of() + " chunks were read"
                + (check.whole() ? "; all are what they were." : "."));
        common.print(
                new CheckOut(check.chunks(), check.of(), check.bytes(), check.whole(), out(check.damages())), lines);
        return check.whole() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private record RepairOut(int indexes, int chunks, int lists, List<DamageOut> left) {}

    @Command(
            name = "repair",
            description = "Mend what is broken: indexes from the vault's own packs, the rest from another vault.")
    int repair(
            @Mixin Common common,
            @Parameters(paramLabel = "VAULT", arity = "0..1", description = "another vault with some of the same")
                    Path other)
            throws IOException {
        VaultRepair repair;
        try (ConsoleProgress progress = common.progress(false)) {
            repair = new VaultJob(common.house().bench()).repair(Optional.ofNullable(other), progress.meter());
        }
        List<String> lines = new ArrayList<>(
                repair.left().stream().map(VaultCheck.Damage::text).toList());
        lines.add(repair.indexes() + " indexes, " + repair.chunks() + " chunks and " + repair.lists()
                + " copies' files were mended.");
        common.print(new RepairOut(repair.indexes(), repair.chunks(), repair.lists(), out(repair.left())), lines);
        return repair.left().isEmpty() ? ExitCode.DONE : ExitCode.DIFFERENT;
    }

    private static List<DamageOut> out(List<VaultCheck.Damage> damages) {
        return damages.stream()
                .map(each -> new DamageOut(each.copy().toString(), each.at(), each.chunks(), each.text()))
                .toList();
    }
}

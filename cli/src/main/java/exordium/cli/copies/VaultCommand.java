// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.quantity.ByteSize;
import exordium.jobs.paper.DueCalendar;
import exordium.store.Copies;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** {@code vault status}: what the vault holds for each board. */
@Command(name = "vault", description = "Show what the vault holds.", mixinStandardHelpOptions = true)
public final class VaultCommand {
    private record BoardOut(
            String board, Optional<Instant> lastProven, LocalDate nextDue, String why, int copies, long bytes) {}

    private record Out(List<BoardOut> boards, long usedBytes, long freeBytes) {}

    @Command(name = "status", description = "Last proven copy, next due, space.")
    int status(@Mixin Common common) throws IOException {
        Common.Desk desk = common.desk();
        List<BoardOut> boards = new ArrayList<>();
        for (DueCalendar.Entry entry : DueCalendar.entries(desk.bench(), desk.sheets())) {
            List<Copies.Copy> copies = desk.bench().records().copiesOf(entry.board());
            boards.add(new BoardOut(
                    entry.board(),
                    copies.stream().reduce((first, last) -> last).map(Copies.Copy::proven),
                    entry.date(),
                    entry.reason(),
                    copies.size(),
                    copies.stream().mapToLong(Copies.Copy::bytes).sum()));
        }
        long used = boards.stream().mapToLong(BoardOut::bytes).sum();
        long free = Files.getFileStore(desk.bench().vault()).getUsableSpace();
        List<String> lines = new ArrayList<>(boards.stream()
                .map(each -> each.board() + "  last "
                        + each.lastProven().map(Instant::toString).orElse("never") + "  next " + each.nextDue() + "  "
                        + each.why())
                .toList());
        lines.add("The vault holds " + ByteSize.of(used).said() + "; "
                + ByteSize.of(free).said() + " are free.");
        common.print(new Out(boards, used, free), lines);
        return ExitCode.DONE;
    }
}

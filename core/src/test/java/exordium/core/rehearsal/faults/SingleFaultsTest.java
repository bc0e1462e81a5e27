// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.faults;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.Rehearsal;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a board survives, told beforehand from real disks and held against the very rehearsals. */
class SingleFaultsTest {
    @TempDir
    private Path folder;

    private Bench bench(String order) throws IOException {
        Path card = new DiskBuilder(folder).id("5eed0001").build("card.img");
        Path nvme = new DiskBuilder(folder).id("5eed0002").build("nvme.img");
        return Benches.bench(
                "plover-5",
                order,
                Benches.attached("plover-5", "card", "card", card),
                Benches.attached("plover-5", "nvme", "nvme", nvme));
    }

    private static SingleFaults.Verdict verdict(SingleFaults sheet, SingleFaults.Fault fault, String port) {
        return sheet.rows().stream()
                .filter(row -> row.fault() == fault && row.port().equals(Optional.of(port)))
                .findFirst()
                .orElseThrow()
                .verdict();
    }

    /** Two whole systems, NVMe first and the card behind it: the rescue way holds whatever befalls either. */
    @Test
    void aCardBehindTheDriveSurvivesItsLoss() throws IOException {
        SingleFaults sheet = SingleFaults.of(bench("0xf16"));
        assertThat(sheet.sound().startedFrom()).contains("nvme");
        assertThat(verdict(sheet, SingleFaults.Fault.OUT, "nvme")).isEqualTo(SingleFaults.Verdict.SURVIVES);
        assertThat(verdict(sheet, SingleFaults.Fault.LOOSE, "nvme")).isEqualTo(SingleFaults.Verdict.SURVIVES);
        assertThat(verdict(sheet, SingleFaults.Fault.BLANK, "nvme")).isEqualTo(SingleFaults.Verdict.SURVIVES);
        assertThat(verdict(sheet, SingleFaults.Fault.OUT, "card")).isEqualTo(SingleFaults.Verdict.UNTOUCHED);
        // The firmware has handed over by then: nothing behind it is tried.
        assertThat(verdict(sheet, SingleFaults.Fault.KERNEL_LINE, "nvme")).isEqualTo(SingleFaults.Verdict.FAILS);
        assertThat(verdict(sheet, SingleFaults.Fault.ROOT, "nvme")).isEqualTo(SingleFaults.Verdict.FAILS);
        assertThat(verdict(sheet, SingleFaults.Fault.ROOT, "card")).isEqualTo(SingleFaults.Verdict.UNTOUCHED);
    }

    @Test
    void withoutARescueWayTheLossOfTheDriveIsTheEnd() throws IOException {
        SingleFaults sheet = SingleFaults.of(bench("0x6"));
        assertThat(verdict(sheet, SingleFaults.Fault.OUT, "nvme")).isEqualTo(SingleFaults.Verdict.FAILS);
        assertThat(sheet.survived()).isLessThan(SingleFaults.of(bench("0xf16")).survived());
        Map<SingleFaults.Fault, SingleFaults.Verdict> board = sheet.rows().stream()
                .filter(row -> row.port().isEmpty())
                .collect(Collectors.toMap(SingleFaults.Row::fault, SingleFaults.Row::verdict));
        assertThat(board).containsEntry(SingleFaults.Fault.WEAK_SUPPLY, SingleFaults.Verdict.FAILS);
        assertThat(board).hasSize(4);
    }

    /** Each row is nothing but a rehearsal of the bench with that one thing wrong. */
    @Test
    void everyRowIsARehearsalAndSaysWhatComesOfIt() throws IOException {
        Bench bench = bench("0xf16");
        SingleFaults sheet = SingleFaults.of(bench);
        assertThat(sheet.rows()).hasSize(2 * 5 + 4).allMatch(row -> row.text().endsWith("."));
        SingleFaults.Row out = sheet.rows().get(0);
        assertThat(out.trace().seconds())
                .isEqualTo(Rehearsal.of(bench.without(java.util.Set.of("card"))).seconds());
        assertThat(sheet.rows().stream()
                        .filter(row -> row.fault() == SingleFaults.Fault.CABLE)
                        .findFirst()
                        .orElseThrow()
                        .verdict())
                .isIn(SingleFaults.Verdict.UNREACHED, SingleFaults.Verdict.UNTOUCHED);
    }
}

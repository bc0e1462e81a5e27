// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TwoTracesTest {
    @TempDir
    private Path folder;

    private Bench bench() throws IOException {
        return Benches.bench(
                "plover-5",
                "0xf16",
                Benches.attached(
                        "plover-5",
                        "nvme",
                        "ssd-nvme",
                        new DiskBuilder(folder).id("5eed0021").build("a.img")),
                Benches.attached(
                        "plover-5",
                        "card",
                        "card-quick",
                        new DiskBuilder(folder).id("5eed0022").build("b.img")));
    }

    @Test
    void theyPartWhereTheyGoDifferentWays() throws IOException {
        Trace one = Rehearsal.of(bench());
        assertThat(one.explanation()).startsWith("After 0.0 s: ").contains("started from nvme with its root from nvme");
        TwoTraces both = TwoTraces.of(one, Rehearsal.of(bench().loose(Set.of("nvme"))));
        assertThat(both.rows().get(both.same()).both()).isFalse();
        assertThat(both.rows().subList(0, both.same())).allMatch(TwoTraces.Row::both);
        assertThat(both.text("as it stands it", "here it"))
                .contains("they part")
                .contains("runs from nvme")
                .contains("here it runs from card");
        // Nothing is lost of either.
        assertThat(both.rows().stream().flatMap(row -> row.one().stream())).isEqualTo(one.steps());
        assertThat(both.rows().stream().flatMap(row -> row.other().stream()))
                .isEqualTo(both.other().steps());
    }

    @Test
    void theSameWayIsSaidWithItsSeconds() throws IOException {
        Trace one = Rehearsal.of(bench());
        assertThat(TwoTraces.of(one, one).text("a", "b")).isEqualTo("Both go the same way.");
        assertThat(Rehearsal.of(bench().moved("card", "usb1")).startedFrom()).contains("nvme");
        assertThat(Rehearsal.of(bench().moved("nvme", "card")).startedFrom()).isEmpty();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.rehearsal.diagnosis.Diagnosis;
import exordium.core.rehearsal.diagnosis.Sign;
import exordium.core.rehearsal.faults.SingleFaults;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.EnumSet;
import java.util.function.Supplier;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** How long rehearsals take over a board with three media; here only that they come to the same every time, the times by benchmarks/rehearsal-pace. */
class RehearsalPaceTest {
    private static final int RUNS = Integer.getInteger("exordium.paceRuns", 20);

    @TempDir
    private Path folder;

    @Test
    void theSameBenchComesToTheSameHoweverOften() throws IOException {
        Bench bench = Benches.bench(
                "plover-5",
                "0xf416",
                Benches.attached(
                        "plover-5",
                        "nvme",
                        "ssd-nvme",
                        new DiskBuilder(folder).id("5eed0031").build("a.img")),
                Benches.attached(
                        "plover-5",
                        "card",
                        "card-quick",
                        new DiskBuilder(folder).id("5eed0032").build("b.img")),
                Benches.attached(
                        "plover-5",
                        "usb1",
                        "stick",
                        new DiskBuilder(folder).id("5eed0033").build("c.img")));
        time("one rehearsal", () -> Rehearsal.of(bench));
        time("all single faults", () -> SingleFaults.of(bench));
        time("a diagnosis", () -> Diagnosis.of(bench, Diagnosis.Seen.nothing(), EnumSet.noneOf(Sign.class))
                .ranked());
    }

    private static <T> void time(String what, Supplier<T> work) {
        T first = work.get();
        long begin = System.nanoTime();
        for (int i = 0; i < RUNS; i++) {
            assertThat(work.get()).isEqualTo(first);
        }
        System.out.printf("%s: %.2f ms%n", what, (System.nanoTime() - begin) / 1e6 / RUNS);
    }
}

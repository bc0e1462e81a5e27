// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.board.StartSource;
import exordium.core.bootorder.FusePlan;
import exordium.core.bootorder.OrderDialect;
import exordium.core.bootorder.OrderPreset;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.contents.Cause;
import exordium.core.testing.Benches;
import exordium.core.testing.DiskBuilder;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Presets, what has to go with an order, and the one-time bit; values are those of the trade (domain.md: 0xf41, 0xf416, bit 29). */
class OrderAdviceTest {
    private static final List<String> FAMILIES = List.of("plover-3", "plover-4", "plover-5", "curlew-e", "dunlin-u");

    @TempDir
    private Path folder;

    @Test
    void bothSchoolsAreOfferedWithTheirReasons() {
        List<OrderPreset> presets = OrderPreset.of(Benches.profile("plover-5"), Set.of(StartSource.NVME));
        assertThat(presets)
                .extracting(OrderPreset::id)
                .containsExactly("card-first", "drive-first", "drive-alone", "network-first");
        assertThat(presets.get(0).value()).isEqualTo("0xf461");
        assertThat(presets.get(1).value()).isEqualTo("0xf416");
        assertThat(OrderPreset.of(Benches.profile("plover-3"), Set.of()))
                .extracting(OrderPreset::value)
                .containsExactly("3020000a", "1020000a");
    }

    /** Whatever is plugged in, a preset says what its value means. */
    @Property(tries = 100)
    void aPresetsValueReadsAsItsSources(@ForAll Set<StartSource> plugged) {
        for (String family : FAMILIES) {
            EnumSet<StartSource> there = EnumSet.noneOf(StartSource.class);
            there.addAll(plugged);
            for (OrderPreset preset : OrderPreset.of(Benches.profile(family), there)) {
                assertThat(OrderDialect.of(Benches.profile(family))
                                .decode(preset.value())
                                .sources())
                        .as(family + " " + preset.id())
                        .isEqualTo(preset.sources());
            }
        }
    }

    /** Every order a dialect can write is read back as it was. */
    @Property(tries = 300)
    void everyValueRoundTrips(@ForAll List<StartSource> wanted) {
        for (String family : FAMILIES) {
            OrderDialect dialect = OrderDialect.of(Benches.profile(family));
            List<StartSource> sources = new ArrayList<>(wanted);
            sources.retainAll(dialect.available());
            String value;
            try {
                value = dialect.encode(sources);
            } catch (UnreadableInput e) {
                assertThat(e.getMessage()).endsWith(".");
                continue;
            }
            assertThat(dialect.decode(value).sources()).isEqualTo(sources);
        }
    }

    @Test
    void theRegisterIsTakenAsTheToolPrintsIt() throws UnreadableInput {
        FusePlan plan = FusePlan.of(Benches.profile("plover-3"), "17:1020000a");
        assertThat(plan.before()).isEqualTo("1020000a");
        assertThat(plan.after()).isEqualTo("3020000a");
        assertThat(plan.secondWord()).isEqualTo("bit 29");
        assertThat(plan.steps()).filteredOn(step -> step.contains(plan.line())).hasSize(2);
        assertThat(plan.steps().get(2)).contains("Put the line");
        assertThat(plan.steps().get(5)).contains("out of config.txt again");
        assertThat(FusePlan.of(Benches.profile("plover-3"), "17:3020000a").findings())
                .extracting(Finding::code)
                .containsExactly("fuse-already-set");
        assertThat(FusePlan.of(Benches.profile("plover-3"), "00000001").findings())
                .extracting(Finding::code)
                .contains("register-unusual");
        assertThatThrownBy(() -> FusePlan.of(Benches.profile("plover-5"), "1020000a"))
                .isInstanceOf(UnreadableInput.class)
                .hasMessageContaining("no bit");
        assertThatThrownBy(() -> FusePlan.of(Benches.profile("plover-3"), "0xf41"))
                .isInstanceOf(UnreadableInput.class);
    }

    @Test
    void whatHasToGoWithAnOrderMakesItStart() throws IOException {
        Path disk = new DiskBuilder(folder).build("nvme.img");
        Bench.Attached silent = Benches.silent(Benches.attached("plover-5", "nvme", "ssd-nvme", disk));
        Bench bench =
                Benches.bench("plover-5", "0xf6", silent).withConfig(new FirmwareConfig("BOOT_ORDER=0xf6\nPCIE=0"));
        assertThat(Rehearsal.of(bench).cause()).isEqualTo(Cause.PCIE_OFF);
        Companions with = Companions.of(bench, List.of(StartSource.NVME, StartSource.RESTART), 2);
        assertThat(with.in()).containsExactly("PCIE_PROBE=1");
        assertThat(with.out()).containsExactly("PCIE=0");
        assertThat(Rehearsal.of(bench.withConfig(with.config())).runs()).isTrue();
        assertThat(Companions.of(bench.withConfig(with.config()), List.of(StartSource.NVME), 2)
                        .changes())
                .isFalse();
        assertThat(Companions.of(bench, List.of(StartSource.CARD), 2).changes()).isFalse();
    }

    /** The speed of PCIe goes with the order by the house's rule: a line for 3.0, none for what the port is rated for. */
    @Test
    void theHouseRuleSetsTheSpeedOfThePort() throws IOException {
        Path disk = new DiskBuilder(folder).build("nvme.img");
        Bench bench = Benches.bench("plover-5", "0xf6", Benches.attached("plover-5", "nvme", "ssd-nvme", disk));
        Companions faster = Companions.of(bench, List.of(StartSource.NVME), 3);
        assertThat(faster.in()).containsExactly("PCIE_SPEED=3");
        assertThat(faster.findings())
                .extracting(Finding::code, Finding::severity)
                .contains(
                        org.assertj.core.groups.Tuple.tuple("companion-speed", exordium.core.finding.Severity.CAUTION));
        Bench driven = bench.withConfig(faster.config());
        assertThat(Companions.of(driven, List.of(StartSource.NVME), 3).changes())
                .isFalse();
        Companions back = Companions.of(driven, List.of(StartSource.NVME), 2);
        assertThat(back.out()).containsExactly("PCIE_SPEED=3");
        assertThat(Companions.of(bench.withConfig(back.config()), List.of(StartSource.NVME), 2)
                        .changes())
                .isFalse();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.judgement;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Watts;
import exordium.core.storage.media.Supply;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is said of a role whatever medium it gets; the bounds are common practice, no source. */
class RoleFindingsTest {
    private static List<Finding> of(Role role, double memory, int width) {
        Supply supply = new Supply(5, 3, "adapter");
        StorageNeed.Host host = new StorageNeed.Host(new Watts(6), new Watts(6), width, memory, 20);
        return RoleFindings.of(new StorageNeed(Optional.empty(), role, supply, host, StorageRules.USUAL, List.of()));
    }

    @ParameterizedTest
    @CsvSource({
        "DESKTOP, 1, memory-too-small, CAUTION",
        "DESKTOP, 2, memory-scant, CAUTION",
        "HYPERVISOR, 2, memory-too-small, CAUTION",
        "HYPERVISOR, 4, memory-scant, CAUTION",
    })
    void memoryIsHeldAgainstTheSystem(SystemKind system, double memory, String code, Severity severity) {
        assertThat(of(Role.USUAL.withSystem(system), memory, 64))
                .filteredOn(finding -> finding.code().equals(code))
                .singleElement()
                .satisfies(finding -> {
                    assertThat(finding.severity()).isEqualTo(severity);
                    assertThat(finding.text()).contains(Math.round(memory) + " GB");
                });
    }

    @Test
    void aLiteSystemIsContentWithLittleAndItsMemoryIsSaidInMegabytes() {
        assertThat(of(Role.USUAL, 0.512, 32)).noneMatch(Finding::stops);
        assertThat(of(Role.USUAL.withSystem(SystemKind.DESKTOP), 0.512, 64))
                .anyMatch(finding -> finding.text().contains("512 MB"));
    }

    @Test
    void widthStopsOnlyWhatNeedsIt() {
        assertThat(of(Role.USUAL.withSystem(SystemKind.HYPERVISOR), 8, 32))
                .extracting(Finding::code)
                .contains("width-too-small");
        assertThat(of(Role.USUAL.withSystem(SystemKind.DESKTOP), 1, 32)).noneMatch(Finding::stops);
        assertThat(of(Role.USUAL.withSystem(SystemKind.SERVER), 8, 32))
                .extracting(Finding::code)
                .doesNotContain("width-too-small");
        assertThat(of(Role.USUAL.withSystem(SystemKind.DESKTOP), 8, 64))
                .extracting(Finding::code)
                .doesNotContain("width-too-small");
    }

    @Test
    void whatRecordsMustNotForgetAtTheRestart() {
        Role recorder = Role.USUAL.withHabit(WriteHabit.VIDEO).withOverlay(true);
        assertThat(of(recorder, 4, 64).get(0).code()).isEqualTo("overlay-loses-records");
        assertThat(of(recorder.withOverlay(false), 4, 64)).noneMatch(Finding::stops);
        assertThat(of(recorder.withOverlay(false).withLostDays(1), 4, 64))
                .extracting(Finding::code)
                .contains("copies-often");
        assertThat(of(recorder.withOverlay(false).withLostDays(7), 4, 64))
                .extracting(Finding::code)
                .doesNotContain("copies-often");
    }

    @Test
    void theOverlayWantsMemory() {
        assertThat(of(Role.USUAL.withOverlay(true), 1, 64))
                .extracting(Finding::code)
                .contains("overlay-memory")
                .doesNotContain("logs-in-memory");
        assertThat(of(Role.USUAL.withOverlay(true), 2, 64))
                .extracting(Finding::code)
                .doesNotContain("overlay-memory");
    }

    @Test
    void theWorstComesFirst() {
        List<Finding> all = of(Role.USUAL.withSystem(SystemKind.HYPERVISOR).withPlace(Setting.ROOF), 1, 32);
        assertThat(all).hasSizeGreaterThan(2);
        assertThat(all.get(0).stops()).isTrue();
        assertThat(all.get(all.size() - 1).severity()).isEqualTo(Severity.NOTE);
    }

    /** Each change changes its own thing and leaves the others alone. */
    @Test
    void oneThingIsChangedAtATime() {
        List<UnaryOperator<Role>> changes = List.of(
                role -> role.withSystem(SystemKind.SERVER),
                role -> role.withData(ByteSize.ofGigabytes(3)),
                role -> role.withGrowth(ByteSize.ofGigabytes(4)),
                role -> role.withDailyWrites(ByteSize.ofGigabytes(5)),
                role -> role.withYears(9),
                role -> role.withLostDays(2),
                role -> role.withQuickStart(true),
                role -> role.withBudget(33),
                role -> role.withPortsNeeded(2),
                role -> role.withSlotReachable(false),
                role -> role.withOverlay(true),
                role -> role.withLogsInMemory(true),
                role -> role.withServer(true),
                role -> role.withHoursADay(8),
                role -> role.withPlace(Setting.BOX));
        Role all = Role.USUAL;
        for (UnaryOperator<Role> change : changes) {
            Role before = all;
            all = change.apply(all);
            assertThat(all).isNotEqualTo(before).isEqualTo(change.apply(all));
        }
        assertThat(all)
                .isEqualTo(new Role(
                        SystemKind.SERVER,
                        ByteSize.ofGigabytes(3),
                        ByteSize.ofGigabytes(4),
                        WriteHabit.LOGS,
                        ByteSize.ofGigabytes(5),
                        9,
                        2,
                        true,
                        33,
                        2,
                        false,
                        true,
                        true,
                        true,
                        8,
                        Setting.BOX));
        assertThat(all.withHabit(WriteHabit.VIDEO).dailyWrites()).isEqualTo(WriteHabit.VIDEO.usual());
    }

    @Test
    void whatIsNoRoleIsRefused() {
        assertThatThrownBy(() -> Role.USUAL.withYears(0)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Role.USUAL.withBudget(Double.NaN)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Role.USUAL.withHoursADay(25)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Role.USUAL.withLostDays(-1)).isInstanceOf(IllegalArgumentException.class);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** By hand: each sign alone gives its day, and the earliest of several counts. The bounds: common practice, no source. */
class MediumHealthTest {
    private static final LocalDate TODAY = LocalDate.parse("2026-11-27");
    private static final MediumKind CARD =
            MediaCatalogue.shipped().kind("card-quick").orElseThrow();

    private final List<HealthReading> readings = new ArrayList<>();
    private final List<MediumHealth.Pace> paces = new ArrayList<>();
    private final List<MediumHealth.Fault> faults = new ArrayList<>();
    private Optional<LocalDate> since = Optional.empty();
    private ByteSize dailyWrites = ByteSize.ZERO;
    private Optional<ByteSize> rated = Optional.of(ByteSize.ofGigabytes(1000));
    private ByteSize written = ByteSize.ZERO;

    private static Instant daysAgo(int days) {
        return TODAY.minusDays(days).atTime(12, 0).toInstant(ZoneOffset.UTC);
    }

    private MediumHealth judged() {
        MediumKind.Medium medium =
                new MediumKind.Medium("card", "Tidewell 32", CARD, ByteSize.ofGigabytes(32), rated, written, 0);
        return MediumHealth.of(
                new MediumHealth.Known(medium, since, dailyWrites, 2, readings, paces, faults), TODAY, ZoneOffset.UTC);
    }

    private LocalDate day() {
        return judged().replacement().orElseThrow().date();
    }

    private void tells(int daysAgo, double life) {
        HealthReading silent = HealthReading.silent(daysAgo(daysAgo));
        readings.add(new HealthReading(
                silent.at(),
                "its register",
                Optional.of(life),
                silent.spareLeft(),
                silent.mediaErrors(),
                silent.written(),
                false,
                false,
                0,
                0,
                List.of()));
    }

    @Test
    void ofAMediumNobodyKnowsAnythingOfNothingIsSaid() {
        assertThat(judged().replacement()).isEmpty();
        assertThat(judged().findings()).isEmpty();
    }

    /** 40 % a hundred days ago, 60 % now: the other 40 % take two hundred days. */
    @Test
    void theLifeItTellsGoesOnAtItsPace() {
        tells(100, 0.4);
        tells(0, 0.6);
        assertThat(day()).isEqualTo(TODAY.plusDays(200));
        tells(0, 1.0);
        assertThat(judged().replacement().orElseThrow().due()).isTrue();
    }

    /** Ten per cent in fifty days since it came: 450 days to go. One reading three days after another says nothing of a pace. */
    @Test
    void oneReadingGoesByTheDayItCame() {
        since = Optional.of(TODAY.minusDays(50));
        tells(0, 0.1);
        assertThat(day()).isEqualTo(TODAY.plusDays(450));
        since = Optional.empty();
        readings.clear();
        tells(3, 0.1);
        tells(0, 0.2);
        assertThat(judged().replacement()).isEmpty();
    }

    /** 1000 GB, 900 count; 100 written; 1 GB a day with amplification 2: 400 days. */
    @Test
    void itsRatingEndsBeforeAllOfItIsUsed() {
        written = ByteSize.ofGigabytes(100);
        dailyWrites = ByteSize.ofGigabytes(1);
        assertThat(day()).isEqualTo(TODAY.plusDays(400));
        written = ByteSize.ofGigabytes(900);
        assertThat(judged().replacement().orElseThrow().due()).isTrue();
        assertThat(judged().findings()).extracting(Finding::code).contains("medium-replace");
    }

    @ParameterizedTest
    @CsvSource({"1, 170", "2, 20", "3, 0", "5, 0"})
    void theThirdFailureIsNoChance(int times, int daysLeft) {
        for (int i = times - 1; i >= 0; i--) {
            faults.add(new MediumHealth.Fault(daysAgo(10 + i), "corrupted"));
        }
        assertThat(judged().replacement().orElseThrow().daysLeft()).isEqualTo(daysLeft);
    }

    @Test
    void afterTwoYearsAFailureIsForgotten() {
        faults.add(new MediumHealth.Fault(daysAgo(800), "corrupted"));
        assertThat(judged().replacement()).isEmpty();
    }

    /** The median of three against three: one slow day is none; half the pace counts, seven tenths are said. */
    @Test
    void aCardThatSlowsDownIsSaid() {
        for (int rate : new int[] {30, 32, 31, 30, 12, 31}) {
            paces.add(new MediumHealth.Pace(daysAgo(200 - paces.size() * 30), "write", new ByteRate(rate * 1e6)));
        }
        assertThat(judged().findings()).isEmpty();
        for (int rate : new int[] {20, 19}) {
            paces.add(new MediumHealth.Pace(daysAgo(5), "write", new ByteRate(rate * 1e6)));
        }
        assertThat(judged().findings()).extracting(Finding::code).containsExactly("medium-slower");
        for (int rate : new int[] {9, 10}) {
            paces.add(new MediumHealth.Pace(daysAgo(0), "write", new ByteRate(rate * 1e6)));
        }
        assertThat(day()).isEqualTo(TODAY.plusDays(90));
    }

    @Test
    void theEarliestDayCounts() {
        since = Optional.of(TODAY.minusYears(4));
        assertThat(day()).isEqualTo(TODAY.plusYears(1));
        faults.add(new MediumHealth.Fault(daysAgo(0), "went read-only"));
        assertThat(day()).isEqualTo(TODAY.plusDays(180));
        assertThat(judged().replacement().orElseThrow().reason())
                .contains("once")
                .contains("read-only");
    }

    @Test
    void fileSystemsThatWereNotLetGoAreCounted() {
        for (int i = 0; i < 4; i++) {
            readings.add(HealthReading.silent(daysAgo(100 - i)).with(new FileSystemSigns(i > 0, i == 3 ? 2 : 0, 10)));
        }
        assertThat(judged().findings())
                .extracting(Finding::code)
                .containsExactlyInAnyOrder("medium-unclean", "medium-file-system-errors");
        assertThat(judged().findings().get(0).text()
                        + judged().findings().get(1).text())
                .contains("3 of 4 times")
                .contains("2 errors");
    }

    /** JEDEC JESD84-B51, table of DEVICE_LIFE_TIME_EST_TYP_A: 0x01 is 0 to 10 %, 0x0A 90 to 100 %, 0x0B more; 0x00 none. */
    @ParameterizedTest
    @CsvSource({
        "0x01 0x01, 0x01, 0.1, ",
        "0x03 0x07, 0x01, 0.7, ",
        "0x0A 0x00, 0x02, 1.0, 0.2",
        "0x0B 0x02, 0x03, 1.1, 0.1",
        "0x00 0x00, 0x00, , ",
        "'', 0x03, , 0.1"
    })
    void anEmmcTellsInTenths(String life, String reserve, Double used, Double spare) throws Exception {
        HealthReading told = EmmcLife.read(life, reserve, daysAgo(0));
        assertThat(told.lifeUsed()).isEqualTo(Optional.ofNullable(used));
        assertThat(told.spareLeft()).isEqualTo(Optional.ofNullable(spare));
        assertThat(told.failing()).isEqualTo(used != null && used > 1);
    }

    @ParameterizedTest
    @CsvSource({"0x0C 0x01, 0x01", "3 4, 0x01", "0x01 0x01, warning", "0x100000000000, ''"})
    void whatIsNoRegisterIsRefused(String life, String reserve) {
        assertThatThrownBy(() -> EmmcLife.read(life, reserve, daysAgo(0))).isInstanceOf(UnreadableInput.class);
    }

    /** NVM Express base specification, SMART log: data units of 1000 x 512 bytes; critical warning bit 0: reserve below its bound. */
    @Test
    void anNvmeDriveIsReadFromItsReport() throws Exception {
        HealthReading told = report(
                """
                {"smart_status":{"passed":true},"nvme_smart_health_information_log":{"critical_warning":1,"available_spare":8,
                "percentage_used":103,"data_units_written":2000,"media_errors":4}}""");
        assertThat(told.lifeUsed()).contains(1.03);
        assertThat(told.spareLeft()).contains(0.08);
        assertThat(told.mediaErrors()).contains(4L);
        assertThat(told.written()).contains(ByteSize.of(1_024_000_000));
        assertThat(told.failing()).isTrue();
        assertThat(told.signs()).singleElement().asString().contains("reserve");
    }

    /** Attributes of a SATA drive, as most makers number them; from memory. */
    @Test
    void aSataDriveIsReadFromItsAttributes() throws Exception {
        HealthReading told = report(
                """
                {"smart_status":{"passed":false},"ata_smart_attributes":{"table":[
                {"id":5,"name":"Reallocated_Sector_Ct","value":99,"raw":{"value":3}},
                {"id":197,"name":"Current_Pending_Sector","value":100,"raw":{"value":2}},
                {"id":198,"name":"Offline_Uncorrectable","value":100,"raw":{"value":1}},
                {"id":177,"name":"Wear_Leveling_Count","value":64,"raw":{"value":400}},
                {"id":241,"name":"Total_LBAs_Written","value":99,"raw":{"value":2000000}}]}}""");
        assertThat(told.lifeUsed().orElseThrow()).isEqualTo(0.36);
        assertThat(told.mediaErrors()).contains(3L);
        assertThat(told.written()).contains(ByteSize.of(1_024_000_000));
        assertThat(told.failing()).isTrue();
        assertThat(told.signs()).hasSize(2);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"''", "[]", "{}", "no json", "{\"smartctl\":{\"exit_status\":2}}", "{\"ata_smart_attributes\":7}"})
    void whatIsNoReportIsRefused(String json) {
        assertThatThrownBy(() -> report(json)).isInstanceOf(UnreadableInput.class);
    }

    @Test
    void aReportWithoutAnEndIsRefused() {
        assertThatThrownBy(() -> report("[".repeat(400_000))).isInstanceOf(UnreadableInput.class);
        assertThatThrownBy(() -> report(" ".repeat(2_000_000))).isInstanceOf(UnreadableInput.class);
        // Numbers of any kind in places where others belong do no harm.
        for (String odd : List.of("-1", "1e400", "\"x\"", "null", "99999999999999999999999", "{}")) {
            assertThat(catchRead(odd)).as(odd).isNotNull();
        }
    }

    private static HealthReading catchRead(String odd) {
        try {
            return report("{\"smart_status\":{\"passed\":" + odd
                    + "},\"nvme_smart_health_information_log\":{\"percentage_used\":"
                    + odd + ",\"data_units_written\":" + odd + ",\"media_errors\":" + odd + ",\"critical_warning\":"
                    + odd
                    + "}}");
        } catch (UnreadableInput e) {
            return HealthReading.silent(Instant.EPOCH);
        }
    }

    private static HealthReading report(String json) throws UnreadableInput {
        return SmartReport.read(json.getBytes(StandardCharsets.UTF_8), daysAgo(0));
    }
}

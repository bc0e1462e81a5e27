// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.judgement.RoleFindings;
import exordium.core.storage.judgement.StorageAssessment;
import exordium.core.storage.judgement.StorageRules;
import exordium.core.storage.media.MediaCatalogue;
import exordium.jobs.storage.NeedsFile;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Cases a practitioner would sign; each sentence of why stands beside its case in storage-cases.yaml. */
class StorageCasesTest {
    private static final ProfileReader READER = new ProfileReader();
    private static final MediaCatalogue CATALOGUE = MediaCatalogue.shipped();
    private static final BoardProfiles BOARDS = BoardProfiles.shipped();

    /** One case. Winner: any of these may come first; rejected and caution: medium to the finding's code. */
    record Case(
            String name,
            String why,
            NeedsFile needs,
            Optional<List<String>> winner,
            Optional<Map<String, String>> rejected,
            Optional<Map<String, String>> caution,
            Optional<String> general,
            boolean tie) {
        @Override
        public String toString() {
            return name;
        }
    }

    static Stream<Case> cases() {
        return Arrays.stream(READER.shipped("/exordium/jobs/storage-cases.yaml", Case[].class));
    }

    @ParameterizedTest
    @MethodSource("cases")
    void aPractitionerWouldSignIt(Case each) throws IOException {
        BoardProfile profile = BOARDS.require(each.needs().profile());
        NeedsFile.Question question = each.needs().question(profile, CATALOGUE, StorageRules.USUAL);
        List<StorageAssessment> ranked = question.choice().rank(question.media());
        String table = table(ranked);
        each.winner().ifPresent(winners -> {
            assertThat(ranked.get(0).fits()).as(each.why() + table).isTrue();
            assertThat(ranked.get(0).medium().id()).as(each.why() + table).isIn(winners);
        });
        each.rejected()
                .ifPresent(rejections -> rejections.forEach((id, code) -> {
                    StorageAssessment one = one(ranked, id);
                    assertThat(one.fits()).as(each.why() + table).isFalse();
                    assertThat(one.findings())
                            .filteredOn(Finding::stops)
                            .as(each.why())
                            .extracting(Finding::code)
                            .contains(code);
                    assertThat(one.findings().get(0).text())
                            .as("a rejection says why")
                            .isNotBlank();
                }));
        each.caution()
                .ifPresent(cautions -> cautions.forEach(
                        (id, code) -> assertThat(one(ranked, id).findings())
                                .filteredOn(finding -> finding.severity() == Severity.CAUTION)
                                .extracting(Finding::code)
                                .as(each.why() + table)
                                .contains(code)));
        each.general()
                .ifPresent(code -> assertThat(RoleFindings.of(question.choice().need()))
                        .extracting(Finding::code)
                        .as(each.why())
                        .contains(code));
        if (each.tie()) {
            assertThat(ranked.get(0).findings()).extracting(Finding::code).contains("tie");
        }
        assertThat(each.why()).endsWith(".");
    }

    private static StorageAssessment one(List<StorageAssessment> ranked, String id) {
        return ranked.stream()
                .filter(each -> each.medium().id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    private static String table(List<StorageAssessment> ranked) {
        StringBuilder table = new StringBuilder("\n");
        ranked.forEach(each -> table.append(String.format(
                java.util.Locale.ROOT,
                "%.3f %s %s %.1f/%.1f y %s%n",
                each.merit(),
                each.fits() ? "fits" : each.findings().get(0).code(),
                each.medium().id(),
                each.enduranceYears(),
                each.cautiousYears(),
                each.socket().map(socket -> socket.port()).orElse("-"))));
        return table.toString();
    }
}

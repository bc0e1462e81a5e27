// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Severity;
import exordium.core.firststart.lint.CloudLint;
import exordium.core.firststart.lint.KernelLineLint;
import exordium.core.firststart.lint.SettingsLint;
import exordium.core.firststart.lint.UserFileLint;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.Mended;
import exordium.core.firststart.settings.SettingsDocument;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Broken and sound files of a first start, each with exactly the findings it deserves (lint-cases.yaml names the sources). */
class LintCasesTest {
    private static final BoardProfiles KNOWN = BoardProfiles.shipped();

    private static JsonNode cases() throws IOException {
        try (InputStream in = LintCasesTest.class.getResourceAsStream("lint-cases.yaml")) {
            return new ObjectMapper(new YAMLFactory()).readTree(in);
        }
    }

    private static List<LineFinding> lint(JsonNode each, byte[] content) {
        BoardProfile board = board(each.path("profile").asText("plover-4"));
        return switch (each.get("as").asText()) {
            case "settings" -> SettingsLint.of(content, board);
            case "kernel-line" -> KernelLineLint.of(content, board.startFiles().kernelLineForm());
            case "user-file" -> UserFileLint.of(content);
            case "user-data" -> CloudLint.userData(content);
            case "network-config" -> CloudLint.network(content);
            default -> throw new AssertionError(each.toString());
        };
    }

    private static BoardProfile board(String id) {
        return KNOWN.all().stream()
                .filter(each -> each.id().equals(id))
                .findFirst()
                .orElseThrow();
    }

    private static byte[] bytes(JsonNode each) {
        return each.get("text").asText().getBytes(StandardCharsets.UTF_8);
    }

    private static List<String> codes(List<LineFinding> found) {
        return found.stream().map(each -> each.finding().code()).toList();
    }

    @Test
    void eachBrokenFileHasTheFindingsItDeserves() throws IOException {
        List<String> wrong = new ArrayList<>();
        JsonNode broken = cases().get("broken");
        assertThat(broken.size()).isGreaterThanOrEqualTo(60);
        for (JsonNode each : broken) {
            List<String> wanted = new ArrayList<>();
            each.get("codes").forEach(code -> wanted.add(code.asText()));
            List<String> got = codes(lint(each, bytes(each)));
            if (!got.equals(wanted)) {
                wrong.add(each.get("text") + " should have " + wanted + " and has " + got);
            }
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void soundFilesHaveNone() throws IOException {
        JsonNode sound = cases().get("sound");
        assertThat(sound.size()).isGreaterThanOrEqualTo(20);
        for (JsonNode each : sound) {
            assertThat(codes(lint(each, bytes(each))))
                    .as(each.get("text").asText())
                    .isEmpty();
        }
    }

    /** What is mended is found no more, and nothing worse comes of it; lines that were right stay as they were. */
    @Test
    void mendsMend() throws IOException {
        for (JsonNode each : cases().get("broken")) {
            Mended mended = Mended.all(bytes(each), content -> lint(each, content));
            assertThat(mended.done().size()).as(each.get("text").asText()).isLessThan(20);
            List<LineFinding> found = mended.left();
            assertThat(found).allMatch(one -> one.mend().isEmpty());
            long stops = found.stream()
                    .filter(one -> one.finding().severity() == Severity.STOP)
                    .count();
            assertThat(stops)
                    .as(each.get("text").asText())
                    .isLessThanOrEqualTo(lint(each, bytes(each)).stream()
                            .filter(one -> one.finding().severity() == Severity.STOP)
                            .count());
        }
    }

    /** Whatever bytes it is: read and written back it is the same, and no linter falls over it. */
    @Test
    void anyBytesAreKeptAndLookedThrough() throws IOException {
        Random random = new Random(20261126);
        String letters = "[]#= \t\r\nabx0159:._-/\u00E9\u201C\uFEFFroot=ip=";
        for (int i = 0; i < 2000; i++) {
            byte[] content;
            if (i % 3 == 0) {
                content = new byte[random.nextInt(60)];
                random.nextBytes(content);
            } else {
                StringBuilder text = new StringBuilder(i % 2 == 0 ? "#cloud-config\n" : "");
                for (int j = random.nextInt(60); j > 0; j--) {
                    text.append(letters.charAt(random.nextInt(letters.length())));
                }
                content = text.toString().getBytes(StandardCharsets.UTF_8);
            }
            assertThat(SettingsDocument.parse(content).bytes()).isEqualTo(content);
            for (JsonNode each : cases().get("sound")) {
                if (i % 40 == 0) {
                    assertThat(lint(each, content)).isNotNull();
                }
            }
        }
    }

    @Test
    void aValueIsSetWhereItStandsOrBehindWhatHoldsForAll() {
        byte[] file = "# mine\n gpu_mem = 16 \r\n[plover-5]\ngpu_mem=64".getBytes(StandardCharsets.UTF_8);
        assertThat(text(SettingsDocument.parse(file).with("gpu_mem", "32")))
                .isEqualTo("# mine\ngpu_mem=32\n[plover-5]\ngpu_mem=64");
        assertThat(text(SettingsDocument.parse(file).with("enable_uart", "1")))
                .isEqualTo("# mine\n gpu_mem = 16 \r\n[plover-5]\ngpu_mem=64\n[all]\nenable_uart=1\n");
        assertThat(text(SettingsDocument.parse(file).with("enable_uart", "1").with("enable_uart", "1")))
                .isEqualTo(text(SettingsDocument.parse(file).with("enable_uart", "1")));
    }

    private static String text(SettingsDocument document) {
        return new String(document.bytes(), StandardCharsets.UTF_8);
    }
}

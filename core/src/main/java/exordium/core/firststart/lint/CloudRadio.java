// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firststart.settings.LineFinding;
import java.util.List;
import java.util.function.ToIntFunction;

/** The radio networks of a cloud file: whether the radio may transmit, and whether a pass phrase stands there in clear. */
final class CloudRadio {
    private static final int KEY_DIGITS = 64;

    private final ToIntFunction<String> lineOf;
    private final List<LineFinding> found;

    /** Where lineOf: on which line a key stands. */
    CloudRadio(ToIntFunction<String> lineOf, List<LineFinding> found) {
        this.lineOf = lineOf;
        this.found = found;
    }

    private void radio(String code, String words, int line) {
        found.add(LineFinding.of(
                Finding.caution(code, words, CloudLint.DOCUMENTATION)
                        .mendAt(Step.FIRST_START)
                        .about(Subject.RADIO),
                line));
    }

    void look(JsonNode device) {
        if (!device.path("access-points").isEmpty() && !device.hasNonNull("regulatory-domain")) {
            radio(
                    "wifi-country-missing",
                    "Line " + lineOf.applyAsInt("access-points")
                            + ": no regulatory-domain is named; the radio may not transmit before its country is set.",
                    lineOf.applyAsInt("access-points"));
        }
        for (JsonNode point : device.path("access-points")) {
            String pass = point.path("password")
                    .asText(point.path("auth").path("password").asText(""));
            if (!pass.isEmpty() && !pass.matches("[0-9a-fA-F]{" + KEY_DIGITS + "}")) {
                radio(
                        "wifi-pass-in-clear",
                        "Line " + lineOf.applyAsInt("password")
                                + ": the pass phrase stands there in clear; put the key derived from it there.",
                        lineOf.applyAsInt("password"));
            }
        }
    }
}

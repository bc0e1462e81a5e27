// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StylesheetTest {
    private final Colours colours = new Colours();

    /** Text and its ground, as the stylesheet pairs them. WCAG 2.1, 1.4.3: 4.5 to 1 for text of this size. */
    @ParameterizedTest
    @CsvSource({
        "ink, paper",
        "ink, land",
        "ink, shallow",
        "ink, water",
        "ink-soft, paper",
        "ink-soft, land",
        "ink-soft, shallow",
        "magenta, paper",
        "magenta, land",
        "magenta, shallow",
        "on-ink, ink",
        "paper, deep",
    })
    void textStandsOutOnItsGroundInBothCharts(String text, String ground) {
        for (boolean night : new boolean[] {false, true}) {
            Map<String, Integer> named = colours.of(night);
            assertThat(Colours.contrast(named.get(text), named.get(ground)))
                    .as("%s on %s, night %s", text, ground, night)
                    .isGreaterThanOrEqualTo(4.5);
        }
    }

    /** WCAG 2.1, 1.4.11: 3 to 1 for what has to be seen of a control, such as its focus. */
    @ParameterizedTest
    @CsvSource({"deep, paper", "deep, land", "deep, shallow", "ink, paper", "magenta, paper"})
    void linesThatMeanSomethingAreSeen(String line, String ground) {
        for (boolean night : new boolean[] {false, true}) {
            Map<String, Integer> named = colours.of(night);
            assertThat(Colours.contrast(named.get(line), named.get(ground))).isGreaterThanOrEqualTo(3);
        }
    }

    /** Black on white is 21 to 1, and #777777 on white 4.48 (WCAG 2.1, understanding 1.4.3). */
    @Test
    void contrastIsWorkedOutAsTheStandardSays() {
        assertThat(Colours.contrast(0x000000, 0xFFFFFF)).isCloseTo(21, within(1e-9));
        assertThat(Colours.contrast(0x777777, 0xFFFFFF)).isCloseTo(4.48, within(0.01));
    }

    @Test
    void theNightChartHasEveryColourOfTheDayChart() {
        assertThat(colours.of(true).keySet()).isEqualTo(colours.of(false).keySet());
        assertThat(colours.of(false)).hasSizeGreaterThan(8);
    }

    @Test
    void onlyNamedColoursAreUsed() {
        String rules = Colours.stylesheet().replaceAll("\\.root(\\.night)? \\{[^}]*\\}", "");
        Matcher plain = Pattern.compile("#[0-9A-Fa-f]{3,8}\\b").matcher(rules);
        assertThat(plain.find()).isFalse();
        assertThat(rules).doesNotContain("linear-gradient").doesNotContain("dropshadow");
    }
}

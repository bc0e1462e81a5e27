// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Signs that steer: ECMA-48 for terminals, UAX 9 for directions; what a spreadsheet works out is common practice, no source. */
class PlainTextTest {
    @ParameterizedTest
    @ValueSource(strings = {"\u001b[2J", "\u009b2J", "\u0007", "\r", "\u202e", "\u2066", "\u2028", "\u007f"})
    void nothingInALineSteersATerminal(String sign) {
        assertThat(PlainText.line("a" + sign + "b")).startsWith("a?").doesNotContain(sign);
        assertThat(PlainText.block("a" + sign + "b")).startsWith("a?").doesNotContain(sign);
    }

    @Test
    void aBlockKeepsItsLinesAndALineHasOne() {
        assertThat(PlainText.block("a\r\nb\tc\n")).isEqualTo("a\nb\tc\n");
        assertThat(PlainText.line("a\nb")).isEqualTo("a?b");
        assertThat(PlainText.line("Kärtchen \ud83d\ude00")).isEqualTo("Kärtchen \ud83d\ude00");
    }

    @ParameterizedTest
    @ValueSource(strings = {"=1+1", "+1+1", "-x", "@a", "\tx", "=\n1"})
    void whatASpreadsheetWouldWorkOutIsQuoted(String formula) {
        assertThat(PlainText.cell(formula)).isEqualTo("'" + formula);
    }

    @ParameterizedTest
    @ValueSource(strings = {"-1", "+2.5", "-0,5", "a=1", "'a", ""})
    void numbersAndOtherTextStayAsTheyAre(String text) {
        assertThat(PlainText.cell(text)).isEqualTo(text);
    }

    @Property
    void aCellComesBackAsItWentIn(@ForAll String text) {
        assertThat(PlainText.ofCell(PlainText.cell(text))).isEqualTo(text);
        assertThat(PlainText.line(text)).doesNotContainPattern("\\p{Cntrl}");
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.finding;

import java.util.regex.Pattern;

/**
 * Text from elsewhere (names, notes, titles, files) as it may be shown: nothing in it steers a terminal, turns its own direction round or
 * begins a line of its own, and as a cell of a table nothing in it is a formula.
 */
public final class PlainText {
    /** Controls of ISO 6429, breaks, and the signs of Unicode that turn the direction of writing (UAX 9). */
    private static final Pattern STEERING = Pattern.compile(
            "[\\p{Cc}\\x{2028}\\x{2029}\\x{200e}\\x{200f}\\x{061c}\\x{202a}-\\x{202e}\\x{2066}-\\x{2069}\\x{feff}]");

    private static final Pattern STEERING_BUT_BREAKS = Pattern.compile(
            "[\\p{Cc}\\x{2028}\\x{2029}\\x{200e}\\x{200f}\\x{061c}\\x{202a}-\\x{202e}\\x{2066}-\\x{2069}&&[^\\n\\t]]");
    /** What spreadsheets take for a formula; common practice, no source. A number with a sign is none. */
    private static final Pattern FORMULA = Pattern.compile("(?s)[=+@\\t\\r-].*");

    private static final Pattern NUMBER = Pattern.compile("[+-]?[0-9]+([.,][0-9]+)?");
    private static final String QUOTE = "'";

    private PlainText() {}

    /** As one line. */
    public static String line(String text) {
        return STEERING.matcher(text).replaceAll("?");
    }

    /** With the lines it has. */
    public static String block(String text) {
        return STEERING_BUT_BREAKS.matcher(text.replace("\r\n", "\n")).replaceAll("?");
    }

    /** As a cell that a spreadsheet shows and does not work out. */
    public static String cell(String text) {
        return FORMULA.matcher(text).matches() && !NUMBER.matcher(text).matches() ? QUOTE + text : text;
    }

    /** What was put into a cell by {@link #cell}. */
    public static String ofCell(String cell) {
        boolean quoted = cell.startsWith(QUOTE) && !cell(cell.substring(1)).equals(cell.substring(1));
        return quoted ? cell.substring(1) : cell;
    }
}

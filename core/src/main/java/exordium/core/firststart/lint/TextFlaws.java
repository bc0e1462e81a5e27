// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.regex.Pattern;

/** What editors do to a file that firmware reads letter by letter. Common practice, no source. */
public final class TextFlaws {
    static final Basis PRACTICE = Basis.practice();
    static final char MARK = '\uFEFF';

    private static final Pattern CURLY = Pattern.compile("[\\u2018\\u2019\\u201C\\u201D]");
    private static final int LONGEST_SHOWN = 80;

    private TextFlaws() {}

    /** Not text at all: the firmware makes nothing of it. */
    static Optional<Finding> notText(byte[] content) {
        boolean wide = content.length > 1
                && ((content[0] == (byte) 0xFF && content[1] == (byte) 0xFE)
                        || (content[0] == (byte) 0xFE && content[1] == (byte) 0xFF));
        if (wide) {
            return Optional.of(stop(
                            "not-text",
                            "The file is in two bytes a letter (UTF-16), as another system's editor saves it; nothing of it is"
                                    + " understood.")
                    .about(Subject.NOT_TEXT));
        }
        for (int i = 0; i < content.length; i++) {
            if (content[i] == 0) {
                return Optional.of(stop(
                                "not-text",
                                "There is a zero byte at byte " + i
                                        + "; the file is damaged, and nothing of it is understood.")
                        .about(Subject.NOT_TEXT));
            }
        }
        return Optional.empty();
    }

    static boolean curly(String text) {
        return CURLY.matcher(text).find();
    }

    static String straight(String text) {
        return text.replaceAll("[\\u2018\\u2019]", "'").replaceAll("[\\u201C\\u201D]", "\"");
    }

    /** Letters beyond ASCII, other than the quotes that are told of apart. */
    static boolean beyondAscii(String text) {
        return text.chars().anyMatch(each -> each > 126 && each != MARK && !curly(Character.toString(each)));
    }

    static String text(byte[] content) {
        return new String(content, StandardCharsets.UTF_8);
    }

    /** A piece of somebody's file as it may go to a terminal. */
    public static String shown(String text) {
        String plain = text.replaceAll("\\p{Cntrl}", "?");
        return plain.length() > LONGEST_SHOWN ? plain.substring(0, LONGEST_SHOWN) + "..." : plain;
    }

    static Finding stop(String code, String text) {
        return Finding.stop(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }

    public static Finding caution(String code, String text) {
        return Finding.caution(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }

    static Finding note(String code, String text) {
        return Finding.note(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }
}

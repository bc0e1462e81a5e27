// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import exordium.core.finding.UnreadableInput;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;

/** A pasted text as lines, with what terminals use to paint taken out. */
final class PlainLines {
    static final int LARGEST = 8 << 20;
    /** A line longer than this is none that a tool prints. */
    private static final int LONGEST = 4096;
    /** ECMA-48: control sequences, and strings that name a window. */
    private static final Pattern PAINT = Pattern.compile(
            "\u001b\\[[0-?]{0,64}[ -/]{0,8}[@-~]|\u001b\\][^\u0007\u001b]{0,512}(?:\u0007|\u001b\\\\)?|\u001b[ -/]?[0-~]");

    private static final Pattern CONTROL = Pattern.compile("[\\p{Cc}\\p{Cf}&&[^\\t\\n]]");

    private PlainLines() {}

    /** @throws UnreadableInput when it is empty, binary, or larger than anything somebody pastes */
    static List<String> of(byte[] bytes) throws UnreadableInput {
        if (bytes.length > LARGEST) {
            throw new UnreadableInput("This is larger than 8 MiB; paste what is about the board.");
        }
        String text = new String(bytes, StandardCharsets.UTF_8);
        if (text.isBlank()) {
            throw new UnreadableInput("There is nothing in it.");
        }
        if (isBinary(text)) {
            throw new UnreadableInput("This is no text.");
        }
        String plain =
                PAINT.matcher(text.replace("\r\n", "\n").replace('\r', '\n')).replaceAll("");
        return CONTROL.matcher(plain)
                .replaceAll("")
                .lines()
                .map(line -> line.length() > LONGEST ? line.substring(0, LONGEST) : line)
                .toList();
    }

    private static boolean isBinary(String text) {
        long strange = text.chars()
                .filter(each -> each == 0xfffd
                        || (each < ' '
                                && each != '\n'
                                && each != '\r'
                                && each != '\t'
                                && each != 0x1b
                                && each != 7
                                && each != 8))
                .count();
        return text.indexOf(0) >= 0 || strange * 10 > text.length();
    }
}

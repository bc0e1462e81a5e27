// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Finding;
import exordium.core.firststart.settings.LineFinding;
import java.util.ArrayList;
import java.util.List;

/** What breaks a settings file or a kernel line, found before the board finds it. */
public final class SettingsCheck {

    private SettingsCheck() {}

    /** The lines that take effect: what an editor spoiled does not. */
    public static List<String> effective(byte[] content) {
        String text = TextFlaws.text(content);
        List<String> lines = new ArrayList<>(List.of(text.split("\n", -1)));
        if (text.startsWith(String.valueOf(TextFlaws.MARK))) {
            lines.remove(0);
        }
        lines.removeIf(line -> line.contains("\r") || TextFlaws.curly(line));
        lines.replaceAll(String::strip);
        return List.copyOf(lines);
    }

    /** Checks a file of {@code key=value} lines with sections in brackets; findings come in the order of the lines. */
    public static List<Finding> settings(byte[] content, BoardProfile board) {
        return SettingsLint.of(content, board).stream()
                .map(LineFinding::finding)
                .toList();
    }

    /** Checks the kernel line's file. */
    public static List<Finding> kernelLine(byte[] content, BoardProfile.KernelLineForm form) {
        return KernelLineLint.of(content, form).stream()
                .map(LineFinding::finding)
                .toList();
    }
}

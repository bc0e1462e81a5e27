// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** What breaks a settings file or a kernel line, found before the board finds it. */
public final class SettingsCheck {
    private static final Basis PRACTICE = Basis.practice();
    private static final Basis KERNEL = Basis.standard("Linux kernel documentation, kernel parameters");
    private static final Pattern CURLY = Pattern.compile("[\\u2018\\u2019\\u201C\\u201D]");
    private static final Pattern UPPER_HEX =
            Pattern.compile(".*=\\s*0[xX](?=[0-9a-fA-F]*[A-F])[0-9a-fA-F]+\\s*|.*=\\s*0X.*");

    private SettingsCheck() {}

    /** Checks a file of {@code key=value} lines with sections in brackets. */
    public static List<Finding> settings(byte[] content) {
        List<Finding> findings = new ArrayList<>(encoding(content));
        String text = new String(content, StandardCharsets.UTF_8);
        Map<String, Integer> seen = new HashMap<>();
        String section = "";
        int number = 0;
        for (String raw : text.replace("\uFEFF", "").split("\n", -1)) {
            number++;
            String line = raw.strip();
            if (line.isEmpty() || line.startsWith("#")) {
                continue;
            }
            if (line.startsWith("[")) {
                section = line;
                if (!line.endsWith("]")) {
                    findings.add(
                            stop("section-open", "Line " + number + ": the section \"" + line + "\" is not closed."));
                }
                continue;
            }
            int equals = line.indexOf('=');
            if (equals < 0) {
                if (!line.startsWith("include ")) {
                    findings.add(caution("no-value", "Line " + number + ": \"" + line + "\" sets nothing."));
                }
                continue;
            }
            if (UPPER_HEX.matcher(line).matches()) {
                findings.add(stop(
                        "upper-case-hex", "Line " + number + ": \"" + line + "\" must have its hex in lower case."));
            }
            if (line.startsWith("program_usb_start_fuse")) {
                findings.add(
                        caution(
                                "fuse-line-left",
                                "Line " + number
                                        + " burns the fuse of every board this card is put in; take it out once it has done its work. It can never be undone."));
            }
            if (line.startsWith("over_voltage") || line.startsWith("arm_freq")) {
                findings.add(
                        caution(
                                "raised-clock",
                                "Line " + number
                                        + " raises clock or voltage: only with real cooling, and the maker's promise is void."));
            }
            Integer before = seen.put(section + line.substring(0, equals).strip(), number);
            boolean repeats = line.startsWith("dtoverlay") || line.startsWith("dtparam");
            if (before != null && !repeats) {
                findings.add(caution(
                        "key-twice",
                        "\"" + line.substring(0, equals).strip() + "\" is set on line " + before + " and again on line "
                                + number + "; the last one counts."));
            }
        }
        return findings;
    }

    /** Checks the kernel line's file. */
    public static List<Finding> kernelLine(byte[] content, BoardProfile.KernelLineForm form) {
        List<Finding> findings = new ArrayList<>(encoding(content));
        String text = new String(content, StandardCharsets.UTF_8).replace("\uFEFF", "");
        if (form == BoardProfile.KernelLineForm.PLAIN && text.strip().contains("\n")) {
            findings.add(Finding.stop(
                            "kernel-line-break",
                            "The kernel line is broken over more than one line; only the first would be read.",
                            KERNEL)
                    .mendAt(Step.FIRST_START));
        }
        var line = KernelLine.in(text, form);
        if (line.isEmpty()) {
            findings.add(Finding.stop("kernel-line-missing", "There is no kernel line in the file.", KERNEL)
                    .mendAt(Step.FIRST_START));
        } else if (line.get().value("root").isEmpty()) {
            findings.add(Finding.stop("kernel-line-no-root", "The kernel line names no root.", KERNEL)
                    .mendAt(Step.FIRST_START));
        } else if (line.get().value("root").get().startsWith("/dev/")
                && !line.get().value("root").get().equals("/dev/nfs")) {
            findings.add(Finding.caution(
                            "root-by-place",
                            "The root is named by its place, "
                                    + line.get().value("root").get()
                                    + "; on another port it is not found. Name it by its identifier.",
                            PRACTICE)
                    .mendAt(Step.FIRST_START));
        }
        return findings;
    }

    private static List<Finding> encoding(byte[] content) {
        List<Finding> findings = new ArrayList<>();
        String text = new String(content, StandardCharsets.UTF_8);
        if (text.startsWith("\uFEFF")) {
            findings.add(stop(
                    "byte-order-mark", "The file begins with a byte-order mark; the first line is not understood."));
        }
        if (text.contains("\r")) {
            findings.add(
                    stop("crlf", "Lines end in CR LF, as another system's editor saves them; they must end in LF."));
        }
        if (CURLY.matcher(text).find()) {
            findings.add(stop("curly-quotes", "There are curly quotes in it; a word processor put them there."));
        }
        return findings;
    }

    private static Finding stop(String code, String text) {
        return Finding.stop(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }

    private static Finding caution(String code, String text) {
        return Finding.caution(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }
}

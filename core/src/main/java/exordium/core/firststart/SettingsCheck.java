// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import exordium.core.quantity.Slips;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** What breaks a settings file or a kernel line, found before the board finds it. */
public final class SettingsCheck {
    private static final Basis PRACTICE = Basis.practice();
    private static final Basis KERNEL = Basis.standard("Linux kernel documentation, kernel parameters");
    private static final Pattern CURLY = Pattern.compile("[\\u2018\\u2019\\u201C\\u201D]");
    private static final Pattern UPPER_HEX =
            Pattern.compile(".*=\\s*0[xX](?=[0-9a-fA-F]*[A-F])[0-9a-fA-F]+\\s*|.*=\\s*0X.*");

    private static final Pattern LINE = Pattern.compile("^Line (\\d{1,9}):");
    private static final int LONGEST_SHOWN = 80;

    private SettingsCheck() {}

    /** Not text at all: the firmware makes nothing of it. */
    public static final String NOT_TEXT = "not-text";

    /** Keys that boards of these families know; one that is nearly one of them is most likely a slip. Common practice, no source. */
    private static final List<String> KNOWN = List.of(
            "arm_64bit",
            "arm_freq",
            "auto_initramfs",
            "camera_auto_detect",
            "disable_overscan",
            "display_auto",
            "dtoverlay",
            "dtparam",
            "enable_uart",
            "gpu_mem",
            "hdmi_force_hotplug",
            "hdmi_group",
            "hdmi_mode",
            "initramfs",
            "kernel",
            "max_framebuffers",
            "over_voltage",
            "overlay",
            "program_usb_start_fuse",
            "start_x",
            "total_mem",
            "usb_max_current");

    private static final int MOST_SLIPS = 2;

    /** The lines that take effect: what an editor spoiled does not. */
    public static List<String> effective(byte[] content) {
        String text = new String(content, StandardCharsets.UTF_8);
        List<String> lines = new ArrayList<>(List.of(text.split("\n", -1)));
        if (text.startsWith("\uFEFF")) {
            lines.remove(0);
        }
        lines.removeIf(line -> line.contains("\r") || CURLY.matcher(line).find());
        lines.replaceAll(String::strip);
        return List.copyOf(lines);
    }

    /** Checks a file of {@code key=value} lines with sections in brackets; findings come in the order of the lines. */
    public static List<Finding> settings(byte[] content) {
        Optional<Finding> broken = notText(content);
        if (broken.isPresent()) {
            return List.of(broken.get());
        }
        String text = new String(content, StandardCharsets.UTF_8);
        List<Finding> findings = new ArrayList<>(encoding(text));
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
                    findings.add(stop(
                            "section-open", "Line " + number + ": the section \"" + shown(line) + "\" is not closed."));
                }
                continue;
            }
            keyed(line, number, section, seen, findings);
        }
        return inOrder(findings);
    }

    private static void keyed(
            String line, int number, String section, Map<String, Integer> seen, List<Finding> findings) {
        String at = "Line " + number + ": ";
        int equals = line.indexOf('=');
        if (equals < 0) {
            if (!line.startsWith("include ") && !line.startsWith("initramfs ")) {
                findings.add(caution("no-value", at + "\"" + shown(line) + "\" sets nothing."));
            }
            return;
        }
        String key = line.substring(0, equals).strip();
        if (UPPER_HEX.matcher(line).matches()) {
            findings.add(stop("upper-case-hex", at + "\"" + shown(line) + "\" must have its hex in lower case."));
        }
        if (line.startsWith("program_usb_start_fuse")) {
            findings.add(
                    caution(
                            "fuse-line-left",
                            at + "\"" + shown(line)
                                    + "\" burns the fuse of every board this card is put in; take it out once it has done its work. It can never be undone."));
        }
        if (line.startsWith("over_voltage") || line.startsWith("arm_freq")) {
            findings.add(caution(
                    "raised-clock",
                    at + "\"" + shown(line)
                            + "\" raises clock or voltage: only with real cooling, and the maker's promise is void."));
        }
        likely(key)
                .ifPresent(known -> findings.add(caution(
                        "unknown-key",
                        at + "\"" + shown(key) + "\" is no key a board knows; did you mean " + known + "?")));
        Integer before = seen.put(section + key, number);
        boolean repeats = line.startsWith("dtoverlay") || line.startsWith("dtparam");
        if (before != null && !repeats) {
            findings.add(caution(
                    "key-twice",
                    at + "\"" + shown(key) + "\" is set on line " + before + " and again here; the last one counts."));
        }
    }

    /** The key a slip of the finger makes this one from. */
    private static Optional<String> likely(String key) {
        if (KNOWN.contains(key) || key.length() < 5) {
            return Optional.empty();
        }
        return KNOWN.stream()
                .filter(known -> Slips.between(key.toLowerCase(java.util.Locale.ROOT), known) <= MOST_SLIPS)
                .findFirst();
    }

    /** Checks the kernel line's file. */
    public static List<Finding> kernelLine(byte[] content, BoardProfile.KernelLineForm form) {
        Optional<Finding> broken = notText(content);
        if (broken.isPresent()) {
            return List.of(broken.get());
        }
        String text = new String(content, StandardCharsets.UTF_8);
        List<Finding> findings = new ArrayList<>(encoding(text));
        String plain = text.replace("\uFEFF", "");
        Optional<KernelLine> line = KernelLine.in(plain, form);
        String lost = form == BoardProfile.KernelLineForm.PLAIN ? KernelLine.lost(plain) : "";
        Optional<String> root = line.flatMap(each -> each.value("root")).map(String::strip);
        if (!lost.isEmpty()) {
            String words = "Line 1: the kernel line is broken here; only the first line is read, and \"" + shown(lost)
                    + "\" is lost.";
            findings.add(
                    root.isPresent() && !lost.contains("root=")
                            ? Finding.caution("kernel-line-break", words, KERNEL)
                                    .mendAt(Step.FIRST_START)
                            : Finding.stop("kernel-line-break", words, KERNEL).mendAt(Step.FIRST_START));
        }
        if (line.isEmpty()) {
            findings.add(Finding.stop("kernel-line-missing", "There is no kernel line in the file.", KERNEL)
                    .mendAt(Step.FIRST_START));
        } else if (root.isEmpty()) {
            findings.add(Finding.stop("kernel-line-no-root", "The kernel line names no root.", KERNEL)
                    .mendAt(Step.FIRST_START));
        } else if (root.get().equals("/dev/nfs") && line.get().value("nfsroot").isEmpty()) {
            findings.add(Finding.stop(
                            "kernel-line-no-server",
                            "The root is on a server, and nfsroot= does not say which.",
                            Basis.standard("Linux kernel documentation, nfsroot"))
                    .mendAt(Step.FIRST_START));
        } else if (root.get().startsWith("/dev/disk/")) {
            findings.add(Finding.stop(
                            "root-by-link",
                            "The root is named by a link, " + shown(root.get())
                                    + "; a kernel knows none. Name it by its PARTUUID.",
                            KERNEL)
                    .mendAt(Step.FIRST_START));
        } else if (root.get().startsWith("/dev/") && !root.get().equals("/dev/nfs")) {
            findings.add(Finding.caution(
                            "root-by-place",
                            "The root is named by its place, " + shown(root.get())
                                    + "; on another port it is not found. Name it by its identifier.",
                            PRACTICE)
                    .mendAt(Step.FIRST_START));
        }
        addressBehindRoot(line).ifPresent(findings::add);
        return findings;
    }

    /** People put an address before the root; behind it, it works as well. */
    private static Optional<Finding> addressBehindRoot(Optional<KernelLine> line) {
        List<String> words = line.map(KernelLine::words).orElse(List.of());
        int root = -1;
        for (int i = 0; i < words.size(); i++) {
            if (words.get(i).startsWith("root=")) {
                root = i;
            } else if (words.get(i).startsWith("ip=") && root >= 0) {
                return Optional.of(Finding.note(
                        "address-behind-root",
                        "The address, ip=, stands behind root=; it usually stands before it.",
                        PRACTICE));
            }
        }
        return Optional.empty();
    }

    private static Optional<Finding> notText(byte[] content) {
        boolean wide = content.length > 1
                && ((content[0] == (byte) 0xFF && content[1] == (byte) 0xFE)
                        || (content[0] == (byte) 0xFE && content[1] == (byte) 0xFF));
        for (int i = 0; i < content.length; i++) {
            if (wide || content[i] == 0) {
                return Optional.of(stop(
                        NOT_TEXT,
                        wide
                                ? "The file is in two bytes a letter (UTF-16), as another system's editor saves it; nothing of it is understood."
                                : "There is a zero byte at byte " + i
                                        + "; the file is damaged, and nothing of it is understood."));
            }
        }
        return Optional.empty();
    }

    private static List<Finding> encoding(String text) {
        List<Finding> findings = new ArrayList<>();
        if (text.startsWith("\uFEFF")) {
            findings.add(stop(
                    "byte-order-mark",
                    "Line 1: the file begins with a byte-order mark; the first line is not understood."));
        }
        if (text.contains("\r")) {
            findings.add(stop(
                    "crlf",
                    "Line " + lineOf(text, text.indexOf('\r'))
                            + ": lines end in CR LF, as another system's editor saves them; they must end in LF."));
        }
        var curly = CURLY.matcher(text);
        if (curly.find()) {
            findings.add(stop(
                    "curly-quotes",
                    "Line " + lineOf(text, curly.start())
                            + ": there are curly quotes in it; a word processor put them there."));
        }
        return findings;
    }

    private static int lineOf(String text, int place) {
        return (int) text.substring(0, place)
                        .chars()
                        .filter(each -> each == '\n')
                        .count()
                + 1;
    }

    /** A stable sort by the number each begins with. */
    private static List<Finding> inOrder(List<Finding> findings) {
        List<Finding> sorted = new ArrayList<>(findings);
        sorted.sort(java.util.Comparator.comparingInt(finding -> {
            var number = LINE.matcher(finding.text());
            return number.find() ? Integer.parseInt(number.group(1)) : 0;
        }));
        return sorted;
    }

    /** A piece of somebody's file as it may go to a terminal. */
    private static String shown(String text) {
        String plain = text.replaceAll("\\p{Cntrl}", "?");
        return plain.length() > LONGEST_SHOWN ? plain.substring(0, LONGEST_SHOWN) + "..." : plain;
    }

    private static Finding stop(String code, String text) {
        return Finding.stop(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }

    private static Finding caution(String code, String text) {
        return Finding.caution(code, text, PRACTICE).mendAt(Step.FIRST_START);
    }
}

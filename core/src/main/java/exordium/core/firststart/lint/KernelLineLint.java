// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import static exordium.core.firststart.lint.TextFlaws.PRACTICE;
import static exordium.core.firststart.lint.TextFlaws.shown;

import exordium.core.board.BoardProfile.KernelLineForm;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Severity;
import exordium.core.finding.Step;
import exordium.core.finding.Subject;
import exordium.core.firststart.kernelline.IpWord;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.firststart.kernelline.StartMenu;
import exordium.core.firststart.settings.LineFinding;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Looks through the file that holds a kernel line, plain or in a menu; findings at their line, each with its mend. */
public final class KernelLineLint {
    private static final Basis KERNEL = Basis.standard("Linux kernel documentation, kernel parameters");
    private static final Basis ADDRESS = Basis.standard("Linux kernel documentation, nfsroot");
    private static final Basis LINK_LOCAL = Basis.standard("RFC 3927, section 2.1");
    private static final Basis HOSTS = Basis.standard("RFC 1123, section 2.1");
    /** Linux source, arch/arm64/include/uapi/asm/setup.h: COMMAND_LINE_SIZE. */
    private static final int LONGEST = 2048;

    private final List<LineFinding> found = new ArrayList<>();
    private final KernelLineForm form;
    private final String text;

    private KernelLineLint(KernelLineForm form, String text) {
        this.form = form;
        this.text = text;
    }

    public static List<LineFinding> of(byte[] content, KernelLineForm form) {
        Optional<Finding> broken = TextFlaws.notText(content);
        if (broken.isPresent()) {
            return List.of(LineFinding.of(broken.get(), 1));
        }
        KernelLineLint lint = new KernelLineLint(form, TextFlaws.text(content));
        lint.all();
        lint.found.sort(Comparator.comparingInt(LineFinding::line));
        return List.copyOf(lint.found);
    }

    private void all() {
        String plain = text.replace(String.valueOf(TextFlaws.MARK), "");
        Optional<KernelLine> line = KernelLine.in(plain, form);
        int at = place(plain);
        String raw = rawLine(plain, at);
        letters(line, at, raw);
        Optional<String> root =
                line.flatMap(each -> each.value("root")).map(String::strip).filter(each -> !each.isEmpty());
        broken(plain, root);
        if (line.isEmpty()) {
            whole(Severity.STOP, "kernel-line-empty", "There is no kernel line in the file.", KERNEL, at);
            return;
        }
        if (line.get().text().length() > LONGEST) {
            add(
                    Severity.CAUTION,
                    "line-too-long",
                    "Line " + at + ": the kernel takes " + LONGEST + " letters at the most, and this one has "
                            + line.get().text().length() + ".",
                    Basis.standard("Linux source, COMMAND_LINE_SIZE of arm64"),
                    at);
        }
        root(line.get(), root, at);
        address(line.get(), at);
        if (line.get().words().stream().noneMatch(word -> word.startsWith("console="))) {
            add(
                    Severity.NOTE,
                    "console-missing",
                    "Line " + at + ": no console= is named; what the kernel says goes to its usual one, if to any.",
                    KERNEL,
                    at);
        }
    }

    /** The number of the line in the file that begins the kernel line. */
    private int place(String plain) {
        if (form == KernelLineForm.PLAIN) {
            return 1;
        }
        return StartMenu.parse(plain, form)
                .chosen()
                .map(StartMenu.Entry::lines)
                .filter(lines -> !lines.isEmpty())
                .map(lines -> lines.get(0) + 1)
                .orElse(1);
    }

    private static String rawLine(String plain, int at) {
        String[] lines = plain.split("\n", -1);
        return at <= lines.length ? lines[at - 1] : "";
    }

    private void letters(Optional<KernelLine> line, int at, String raw) {
        if (text.startsWith(String.valueOf(TextFlaws.MARK))) {
            add(
                    Severity.STOP,
                    "byte-order-mark",
                    "Line 1: the file begins with a byte-order mark; its first word is not understood.",
                    PRACTICE,
                    1,
                    rawLine(text, 1).replace(String.valueOf(TextFlaws.MARK), ""),
                    "take it away");
        }
        int carriage = text.indexOf('\r');
        if (carriage >= 0) {
            int number = (int) text.substring(0, carriage)
                            .chars()
                            .filter(each -> each == '\n')
                            .count()
                    + 1;
            add(
                    Severity.STOP,
                    "crlf",
                    "Line " + number
                            + ": lines end in CR LF, as another system's editor saves them; the carriage return"
                            + " belongs to the last word.",
                    PRACTICE,
                    number,
                    rawLine(text, number).replace("\r", ""),
                    "end it in LF");
        }
        if (TextFlaws.curly(raw)) {
            add(
                    Severity.STOP,
                    "curly-quotes",
                    "Line " + at + ": there are curly quotes in it; a word processor put them there.",
                    PRACTICE,
                    at,
                    TextFlaws.straight(raw),
                    "make them straight");
        }
        if (line.isPresent() && TextFlaws.beyondAscii(line.get().text())) {
            add(
                    Severity.CAUTION,
                    "non-ascii",
                    "Line " + at
                            + ": there are letters beyond plain ASCII in it; the kernel takes them as something else.",
                    PRACTICE,
                    at);
        }
    }

    private void broken(String plain, Optional<String> root) {
        String lost = form == KernelLineForm.PLAIN ? KernelLine.lost(plain) : "";
        if (lost.isEmpty()) {
            return;
        }
        boolean harmless = root.isPresent() && !lost.contains("root=");
        String words = "Line 1: the kernel line is broken here; only the first line is read, and \"" + shown(lost)
                + "\" is lost.";
        Severity severity = harmless ? Severity.CAUTION : Severity.STOP;
        found.add(LineFinding.of(
                        finding(severity, "kernel-line-break", words, KERNEL).about(Subject.KERNEL_LINE), 1)
                .mendedByJoining(
                        plain.split("\n", -1).length,
                        String.join(" ", List.of(plain.strip().split("\\s+"))),
                        "join them"));
    }

    private void root(KernelLine line, Optional<String> root, int at) {
        String on = "Line " + at + ": ";
        if (root.isEmpty()) {
            add(Severity.STOP, "root-missing", on + "the kernel line names no root.", KERNEL, at);
            return;
        }
        long roots =
                line.words().stream().filter(word -> word.startsWith("root=")).count();
        if (roots > 1) {
            add(
                    Severity.CAUTION,
                    "root-twice",
                    on + "the root is named " + roots + " times; the last, " + shown(root.get()) + ", counts.",
                    KERNEL,
                    at);
        }
        if (root.get().equals("/dev/nfs") && line.value("nfsroot").isEmpty()) {
            whole(
                    Severity.STOP,
                    "kernel-line-no-server",
                    on + "the root is on a server, and nfsroot= does not say which.",
                    ADDRESS,
                    at);
        } else if (root.get().equals("/dev/nfs") && line.value("ip").isEmpty()) {
            whole(
                    Severity.STOP,
                    "kernel-line-no-address",
                    on
                            + "the root is on a server, and no ip= sets an address to reach it from: started from a card, the"
                            + " kernel stops there. ip=dhcp asks for one.",
                    ADDRESS,
                    at);
        } else if (root.get().startsWith("/dev/disk/")) {
            add(
                    Severity.STOP,
                    "root-by-place",
                    on + "the root is named by a link, " + shown(root.get())
                            + "; a kernel knows none. Name it by its PARTUUID.",
                    KERNEL,
                    at);
        } else if (root.get().startsWith("/dev/") && !root.get().equals("/dev/nfs")) {
            add(
                    Severity.CAUTION,
                    "root-by-place",
                    on + "the root is named by its place, " + shown(root.get())
                            + "; on another port it is not found. Name it by its identifier.",
                    PRACTICE,
                    at);
        }
    }

    private void address(KernelLine line, int at) {
        int root = -1;
        List<String> addresses = new ArrayList<>();
        for (int i = 0; i < line.words().size(); i++) {
            String word = line.words().get(i);
            if (word.startsWith("root=") && root < 0) {
                root = i;
            } else if (word.startsWith("ip=")) {
                addresses.add(word.substring(3).strip());
                if (root >= 0) {
                    add(
                            Severity.NOTE,
                            "ip-after-root",
                            "Line " + at + ": the address, ip=, stands behind root=; it usually stands before it.",
                            PRACTICE,
                            at);
                }
            }
        }
        if (addresses.size() > 1) {
            add(
                    Severity.CAUTION,
                    "key-twice",
                    "Line " + at + ": ip= is set " + addresses.size() + " times; the last one counts.",
                    KERNEL,
                    at);
        }
        if (!addresses.isEmpty()) {
            for (IpWord.Fault fault :
                    IpWord.parse(addresses.get(addresses.size() - 1)).faults()) {
                Basis basis =
                        switch (fault.flaw()) {
                            case RESERVED -> LINK_LOCAL;
                            case HOST -> HOSTS;
                            default -> ADDRESS;
                        };
                add(
                        fault.flaw().stops() ? Severity.STOP : Severity.CAUTION,
                        fault.code(),
                        "Line " + at + ": " + fault.text(),
                        basis,
                        at);
            }
        }
    }

    /** Of the line as a whole. */
    private void whole(Severity severity, String code, String words, Basis basis, int line) {
        found.add(LineFinding.of(finding(severity, code, words, basis).about(Subject.KERNEL_LINE), line));
    }

    private void add(Severity severity, String code, String words, Basis basis, int line) {
        found.add(LineFinding.of(finding(severity, code, words, basis), line));
    }

    private void add(Severity severity, String code, String words, Basis basis, int line, String mended, String mend) {
        found.add(LineFinding.of(finding(severity, code, words, basis).about(Subject.SPOILED_LINE), line)
                .mendedBy(mended, mend));
    }

    private static Finding finding(Severity severity, String code, String words, Basis basis) {
        return new Finding(severity, code, words, basis, Optional.of(Step.FIRST_START), Optional.empty());
    }
}

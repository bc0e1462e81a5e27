// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import static exordium.core.firststart.lint.TextFlaws.caution;
import static exordium.core.firststart.lint.TextFlaws.note;
import static exordium.core.firststart.lint.TextFlaws.shown;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Finding;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.SettingsDocument.Line;
import exordium.core.firststart.settings.SettingsKeys;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/** Whether the value of a setting is one that this board takes, and what is dangerous or lasting about it. */
final class SettingsValues {
    private static final String GEN_3 = "pciex1_gen=3";

    private final BoardProfile board;
    private final List<LineFinding> found;

    /** Where found: to which its findings are put. */
    SettingsValues(BoardProfile board, List<LineFinding> found) {
        this.board = board;
        this.found = found;
    }

    private void add(Finding finding, Line line) {
        found.add(LineFinding.of(finding, line.number()));
    }

    private void add(Finding finding, Line line, String mended, String words) {
        found.add(LineFinding.of(finding, line.number()).mendedBy(mended, words));
    }

    void judge(Line line, SettingsKeys.Key key, boolean here) {
        if (key.oneTime()) {
            takeOut(
                    line,
                    "one-time-line-left",
                    " burns the fuse of every board this card is put in; take it out once it has done its work. It can"
                            + " never be undone.");
        }
        boolean raised = key.raises() && !line.value().equals("0");
        if (raised) {
            takeOut(
                    line,
                    "clock-raised-without-cooling",
                    " raises clock or voltage: only with real cooling, and the maker's promise is void.");
        }
        range(line, key);
        if (here) {
            forBoard(line, key);
        }
    }

    /** A line that is mended by leaving it out. */
    private void takeOut(Line line, String code, String why) {
        Finding finding = caution(code, SettingsLint.at(line) + "\"" + shown(line.plain()) + "\"" + why);
        found.add(LineFinding.of(finding, line.number()).mendedByLeaving("take it out"));
    }

    private void range(Line line, SettingsKeys.Key key) {
        if (key.kind().equals("text")) {
            return;
        }
        boolean flag = key.kind().equals("flag");
        long least = key.least().orElse(flag ? 0L : Long.MIN_VALUE);
        long most = key.most().orElse(flag ? 1L : Long.MAX_VALUE);
        Optional<Long> number = number(line.value());
        if (number.filter(value -> value >= least && value <= most).isPresent()) {
            return;
        }
        String range = flag ? "0 or 1" : "a number" + (most == Long.MAX_VALUE ? "" : " from " + least + " to " + most);
        add(
                caution(
                        "value-out-of-range",
                        SettingsLint.at(line) + "\"" + shown(key.name()) + "\" is " + range + ", not \""
                                + shown(line.value()) + "\"."),
                line);
    }

    private static Optional<Long> number(String value) {
        try {
            return Optional.of(Long.decode(value));
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    private void forBoard(Line line, SettingsKeys.Key key) {
        Optional<String> missing = key.needs().filter(need -> !has(need));
        boolean pcie = key.name().equals("dtparam") && line.value().startsWith("pciex1");
        if (pcie && !has("nvme")) {
            missing = Optional.of("nvme");
        }
        boolean off = line.value().equals("0") || line.value().endsWith("=off");
        if (missing.isPresent() && !off) {
            add(
                    caution(
                            "value-not-for-this-board",
                            SettingsLint.at(line) + "\"" + shown(line.plain()) + "\" is not for " + board.id()
                                    + ": it has "
                                    + (missing.get().equals("64") ? "a processor of 32 bits." : "no port for that.")),
                    line);
        } else if (pcie && line.value().equals(GEN_3)) {
            add(
                    note(
                            "pcie-3-unrated",
                            SettingsLint.at(line)
                                    + "PCIe 3.0 is outside what such boards are rated for; sequential reading gains, random"
                                    + " reading hardly."),
                    line,
                    "dtparam=pciex1_gen=2",
                    "go back to 2.0");
        }
        if (key.name().equals("total_mem")) {
            memory(line);
        }
    }

    private void memory(Line line) {
        long most = board.memory().stream()
                .mapToLong(size -> ByteSize.parse(size).bytes() / 1_000_000)
                .max()
                .orElse(Long.MAX_VALUE);
        if (number(line.value()).filter(megabytes -> megabytes > most * 1.05).isPresent()) {
            add(
                    caution(
                            "value-not-for-this-board",
                            SettingsLint.at(line) + "no " + board.id() + " has " + shown(line.value())
                                    + " MB of memory; "
                                    + board.memory().get(board.memory().size() - 1) + " is the most."),
                    line);
        }
    }

    private boolean has(String need) {
        if (need.equals("64")) {
            return board.width() == 64;
        }
        return board.ports().stream().anyMatch(port -> port.source() == StartSource.of(need));
    }
}

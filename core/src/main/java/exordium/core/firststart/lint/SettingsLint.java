// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.lint;

import static exordium.core.firststart.lint.TextFlaws.caution;
import static exordium.core.firststart.lint.TextFlaws.note;
import static exordium.core.firststart.lint.TextFlaws.shown;
import static exordium.core.firststart.lint.TextFlaws.stop;

import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.firststart.settings.LineFinding;
import exordium.core.firststart.settings.SettingsDocument;
import exordium.core.firststart.settings.SettingsDocument.Line;
import exordium.core.firststart.settings.SettingsKeys;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Looks through a settings file for one family of boards; findings come in the order of the lines, each with its mend. */
public final class SettingsLint {
    /** Firmware of these families reads so many letters of a line. From memory. */
    static final int LONGEST_LINE = 98;

    private static final Pattern UPPER_HEX = Pattern.compile("0[xX](?=[0-9a-fA-F]*[A-F])[0-9a-fA-F]+|0X[0-9a-fA-F]+");
    private static final Pattern FILTER = Pattern.compile(
            "all|none|tryboot|0x[0-9a-fA-F]+|gpio\\d+=[01]|edid=.*|hdmi:[01]|partition=\\d+|boot_.*",
            Pattern.CASE_INSENSITIVE);
    private static final Pattern FAMILY = Pattern.compile("[a-z]+-[a-z0-9]+(-[a-z0-9]+)*");
    private static final Pattern ORDER = Pattern.compile("0x[0-9a-f]{1,8}");
    /** Those that stand for a source, for stop or again; 0 in front is filling. */
    private static final String DIGITS = "01234567ef";

    private final BoardProfile board;
    private final SettingsKeys known;
    private final List<LineFinding> found = new ArrayList<>();
    private final SettingsValues values;
    private final Map<String, Integer> seen = new HashMap<>();
    private final Map<String, Line> effective = new HashMap<>();
    private final List<Line> repeated = new ArrayList<>();

    private SettingsLint(BoardProfile board, SettingsKeys known) {
        this.board = board;
        this.values = new SettingsValues(board, found);
        this.known = known;
    }

    public static List<LineFinding> of(byte[] content, BoardProfile board) {
        Optional<Finding> broken = TextFlaws.notText(content);
        if (broken.isPresent()) {
            return List.of(LineFinding.of(broken.get(), 1));
        }
        Optional<BoardProfile.Stock> stock = board.startFiles().stock();
        SettingsLint lint = new SettingsLint(board, SettingsKeys.shipped());
        List<Line> lines = SettingsDocument.parse(content).lines();
        boolean asItCame = stock.filter(each -> each.sha256().equals(SettingsDocument.digest(content)))
                .isPresent();
        if (asItCame && lines.stream().noneMatch(lint::harms)) {
            return List.of();
        }
        lines.forEach(lint::line);
        lint.together();
        lint.allForOthers(lines);
        lint.found.sort(Comparator.comparingInt(LineFinding::line));
        return List.copyOf(lint.found);
    }

    static String at(Line line) {
        return "Line " + line.number() + ": ";
    }

    private LineFinding add(Finding finding, Line line) {
        LineFinding one = LineFinding.of(finding, line.number());
        found.add(one);
        return one;
    }

    private void add(Finding finding, Line line, String mended, String words) {
        found.add(LineFinding.of(finding, line.number()).mendedBy(mended, words));
    }

    private static Finding spoiled(Finding finding) {
        return finding.about(Subject.SPOILED_LINE);
    }

    private void line(Line line) {
        letters(line);
        if (line.blank() || line.comment()) {
            return;
        }
        if (line.heading()) {
            if (!line.plain().contains("]")) {
                add(
                        spoiled(stop(
                                "section-open",
                                at(line) + "the section \"" + shown(line.plain()) + "\" is not closed.")),
                        line,
                        line.text().stripTrailing() + "]",
                        "close it");
            }
            return;
        }
        if (line.plain().length() > LONGEST_LINE) {
            add(
                    caution(
                            "line-too-long",
                            at(line) + "it has " + line.plain().length() + " letters, and what stands behind the "
                                    + LONGEST_LINE + "th is not read."),
                    line);
        }
        if (line.key().isEmpty() || line.key().get().isEmpty()) {
            add(
                    spoiled(caution("key-without-value", at(line) + "\"" + shown(line.plain()) + "\" sets nothing.")),
                    line,
                    "# " + line.plain(),
                    "make it a comment");
            return;
        }
        if (line.value().isEmpty()) {
            // Some keys are switched off by leaving their value empty.
            if (known.find(line.key().get())
                    .filter(key -> !key.kind().equals("text"))
                    .isPresent()) {
                add(
                        spoiled(caution(
                                "key-without-value",
                                at(line) + "\"" + shown(line.key().get()) + "\" has no value behind the equals sign.")),
                        line,
                        "# " + line.plain(),
                        "make it a comment");
                return;
            }
        }
        int before = found.size();
        keyed(line, line.key().get());
        boolean came = board.startFiles()
                .stock()
                .filter(each -> each.lines().contains(line.inItsSection()))
                .isPresent();
        if (came && !harms(line)) {
            // It came so with a system for this board.
            found.subList(before, found.size()).clear();
        }
    }

    /** Whatever a system came with: a line that burns a bit, or raises clock or voltage, is spoken of. */
    private boolean harms(Line line) {
        return line.key()
                .flatMap(this::meant)
                .filter(key -> key.oneTime() || key.raises())
                .isPresent();
    }

    private void letters(Line line) {
        if (line.number() == 1 && line.text().indexOf(TextFlaws.MARK) >= 0) {
            add(
                    spoiled(stop(
                            "byte-order-mark",
                            "Line 1: the file begins with a byte-order mark; the first line is not understood.")),
                    line,
                    line.text().replace(String.valueOf(TextFlaws.MARK), ""),
                    "take it away");
        }
        boolean first = found.stream().noneMatch(each -> each.finding().isAbout(Subject.LINE_ENDS));
        if ((line.ending().startsWith("\r") || line.text().indexOf('\r') >= 0) && first) {
            add(
                    stop(
                                    "crlf",
                                    at(line)
                                            + "lines end in CR LF, as another system's editor saves them; they must end in LF.")
                            .about(Subject.LINE_ENDS),
                    line,
                    line.text().replace("\r", ""),
                    "end it in LF");
        }
        if (TextFlaws.curly(line.text()) && !line.comment()) {
            add(
                    spoiled(stop(
                            "curly-quotes",
                            at(line) + "there are curly quotes in it; a word processor put them there.")),
                    line,
                    TextFlaws.straight(line.text()),
                    "make them straight");
        }
        if (TextFlaws.beyondAscii(line.text()) && !line.comment()) {
            add(
                    caution(
                            "non-ascii",
                            at(line) + "there are letters beyond plain ASCII in \"" + shown(line.plain())
                                    + "\"; firmware reads them as something else."),
                    line);
        }
    }

    private void keyed(Line line, String key) {
        Optional<SettingsKeys.Key> meant = meant(key);
        boolean own = key.equals(board.order().key())
                || board.ports().stream().anyMatch(port -> port.key().equals(Optional.of(key)));
        if (meant.isEmpty() && !own) {
            unknown(line, key);
        }
        if (UPPER_HEX.matcher(line.value()).matches()) {
            add(
                    spoiled(stop(
                            "upper-case-hex",
                            at(line) + "\"" + shown(line.plain()) + "\" must have its hex in lower case.")),
                    line,
                    key + "=" + line.value().toLowerCase(Locale.ROOT),
                    "write it in lower case");
        }
        if (key.equals(board.order().key()) && board.order().form().digits()) {
            order(line);
        }
        boolean here = section(line, meant);
        meant.ifPresent(each -> values.judge(line, each, here));
        boolean repeats = meant.filter(SettingsKeys.Key::repeats).isPresent();
        Integer before = seen.put(line.section().toLowerCase(Locale.ROOT) + "]" + key, line.number());
        if (before != null && !repeats) {
            found.add(LineFinding.of(
                            caution(
                                    "key-twice",
                                    at(line) + "\"" + shown(key) + "\" is set on line " + before
                                            + " and again here; the last one counts."),
                            line.number())
                    .mendedByLeaving("leave this line out"));
        }
        if (here && repeats) {
            repeated.add(line);
        } else if (here) {
            effective.put(key, line);
        }
    }

    /** The key of the bit is the family's own, and means nothing to one that was described and has another, or none. */
    private Optional<SettingsKeys.Key> meant(String key) {
        Optional<String> bit = board.bitLine().map(line -> line.substring(0, line.indexOf('=')));
        Optional<SettingsKeys.Key> shipped = known.find(key);
        if (bit.filter(key::equals).isPresent()) {
            return shipped.filter(SettingsKeys.Key::oneTime).or(() -> Optional.of(SettingsKeys.Key.oneTimeBit(key)));
        }
        boolean others = board.sources().isPresent()
                && shipped.filter(SettingsKeys.Key::oneTime).isPresent();
        return others ? Optional.empty() : shipped;
    }

    /** As it would be refused when it is staged: a value that cannot be read, or a digit that stands for nothing. */
    private void order(Line line) {
        String value = line.value();
        if (UPPER_HEX.matcher(value).matches()) {
            return;
        }
        if (!ORDER.matcher(value).matches()) {
            boolean letter = ORDER.matcher(value.replaceAll("[oO]", "0")).matches();
            LineFinding found = add(
                    stop(
                                    "order-not-hex",
                                    at(line) + "\"" + shown(value) + "\" is no order such as 0xf41"
                                            + (letter ? ": there is a letter O in it where a digit belongs." : "."))
                            .about(Subject.ORDER_VALUE),
                    line);
            if (letter) {
                this.found.remove(found);
                this.found.add(found.mendedBy(line.key().orElse("") + "=" + value.replaceAll("[oO]", "0"), "write 0"));
            }
            return;
        }
        value.substring(2)
                .chars()
                .filter(digit -> DIGITS.indexOf(digit) < 0)
                .findFirst()
                .ifPresent(digit -> add(
                        stop(
                                        "digit-unknown",
                                        at(line) + "the digit " + (char) digit + " in \"" + shown(value)
                                                + "\" stands for no source.")
                                .about(Subject.ORDER_VALUE),
                        line));
    }

    /** Each line may be in order, and yet none of them counts on this board. */
    private void allForOthers(List<Line> lines) {
        List<Line> keyed = lines.stream()
                .filter(line -> !line.blank() && !line.comment() && !line.heading())
                .toList();
        if (!keyed.isEmpty() && keyed.stream().allMatch(this::isForOthers)) {
            add(
                    caution(
                            "nothing-for-this-board",
                            at(keyed.get(0))
                                    + "this line and all others stand under filters of other boards, so nothing in"
                                    + " the file takes effect on a " + board.id()
                                    + ". Put [all] above what is for it."),
                    keyed.get(0));
        }
    }

    /** Filters that are no board's may hold at any; a section of no board is told by itself. */
    private boolean isForOthers(Line line) {
        String name = line.section().toLowerCase(Locale.ROOT);
        return FAMILY.matcher(name).matches() && !isOwn(name) && isKnown(name);
    }

    private static boolean isKnown(String name) {
        return BoardProfiles.shipped().all().stream()
                .anyMatch(each -> each.id().equals(name)
                        || (name.length() > 3 && each.id().startsWith(name)));
    }

    private List<String> filters() {
        return board.startFiles().filters().orElse(List.of());
    }

    private boolean isOwn(String name) {
        return name.equals(board.id()) || (name.length() > 3 && board.id().startsWith(name));
    }

    private void unknown(Line line, String key) {
        Optional<String> near = known.nearest(key);
        Finding finding = note(
                "key-unknown",
                at(line) + "\"" + shown(key) + "\" is no key known here"
                        + near.map(each -> "; did you mean " + each + "?")
                                .orElse(", and takes no effect where none knows it."));
        if (near.isPresent()) {
            add(finding, line, near.get() + "=" + line.value(), "write " + near.get());
        } else {
            add(finding, line);
        }
    }

    /** Whether what stands in this section holds for this board; says so where it can hold for none. */
    private boolean section(Line line, Optional<SettingsKeys.Key> key) {
        String name = line.section().toLowerCase(Locale.ROOT);
        if (name.equals(SettingsDocument.ALL)) {
            return true;
        }
        if (name.startsWith("[")) {
            return false;
        }
        if (key.filter(SettingsKeys.Key::onlyAll).isPresent()) {
            add(
                    caution(
                            "key-in-wrong-section",
                            at(line) + "\"" + shown(key.get().name())
                                    + "\" counts outside all filters only, and stands in [" + shown(line.section())
                                    + "]."),
                    line);
            return false;
        }
        boolean family = FAMILY.matcher(name).matches();
        if (isOwn(name)) {
            return true;
        }
        if (filters().contains(name)) {
            return false;
        }
        if (board.sources().isPresent() && filters().isEmpty()) {
            add(
                    note(
                            "filter-not-known",
                            at(line) + "it stands in [" + shown(line.section()) + "]; which filters hold for a "
                                    + board.id() + " is not known here."),
                    line);
            return false;
        }
        if (family && !isKnown(name)) {
            add(
                    caution(
                            "section-of-no-board",
                            at(line) + "it stands in [" + shown(line.section())
                                    + "], and no family of that name is known here: it takes effect on none of them."),
                    line);
            return false;
        }
        if (!family && !FILTER.matcher(name).matches()) {
            add(
                    caution(
                            "key-in-wrong-section",
                            at(line) + "it stands in [" + shown(line.section())
                                    + "], which is no filter a board knows: it takes effect nowhere."),
                    line);
        }
        return false;
    }

    /** What several lines say together. */
    private void together() {
        for (List<String> pair : known.contradictions()) {
            Optional<Line> first = standing(pair.get(0));
            Optional<Line> second = standing(pair.get(1));
            if (first.isPresent() && second.isPresent()) {
                Line later = first.get().number() > second.get().number() ? first.get() : second.get();
                Line earlier = later.equals(first.get()) ? second.get() : first.get();
                found.add(LineFinding.of(
                                caution(
                                        "key-contradicts",
                                        at(later) + "\"" + shown(later.plain()) + "\" contradicts \""
                                                + shown(earlier.plain()) + "\" on line " + earlier.number() + "."),
                                later.number())
                        .mendedByLeaving("leave this line out"));
            }
        }
        width();
    }

    private Optional<Line> standing(String setting) {
        int equals = setting.indexOf('=');
        String key = setting.substring(0, equals);
        String value = setting.substring(equals + 1);
        return Stream.concat(repeated.stream(), effective.values().stream())
                .filter(line ->
                        line.key().equals(Optional.of(key)) && line.value().equals(value))
                .findFirst();
    }

    /** A kernel of one width started in the other does not run. */
    private void width() {
        Line wide = effective.get("arm_64bit");
        Line kernel = effective.get("kernel");
        Map<String, Integer> kernels = board.startFiles().kernels();
        if (kernel != null && wide != null) {
            Integer bits = kernels.get(kernel.value());
            boolean asked = wide.value().equals("1");
            if (bits != null && (bits == 64) != asked) {
                add(
                        stop(
                                "width-mismatch",
                                at(kernel) + "\"" + shown(kernel.value()) + "\" is a kernel of " + bits
                                        + " bits, and line " + wide.number() + " asks for " + (asked ? "64." : "32.")),
                        kernel);
            }
        } else if (wide != null && wide.value().equals("0") && !kernels.containsValue(32) && !kernels.isEmpty()) {
            add(
                    stop(
                            "width-mismatch",
                            at(wide) + "it asks for 32 bits, and " + board.id() + " starts kernels of 64 bits only."),
                    wide,
                    "arm_64bit=1",
                    "ask for 64 bits");
        }
    }
}

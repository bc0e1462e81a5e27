// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A hex number of up to eight digits, one digit a source, read from the right. Digits 1, 4, 6 and f: common practice,
 * no source; the others from memory.
 */
public final class HexDigitOrder implements OrderDialect {
    private static final int MOST_DIGITS = 8;
    private static final Pattern LOWER = Pattern.compile("0x[0-9a-f]{1," + MOST_DIGITS + "}");
    private static final Basis PRACTICE = Basis.practice();

    /** Which digit stands for which source. */
    private enum Digit {
        CARD('1', StartSource.CARD),
        NETWORK('2', StartSource.NETWORK),
        SERIAL_RECOVERY('3', StartSource.SERIAL_RECOVERY),
        USB('4', StartSource.USB),
        USB_DEVICE('5', StartSource.USB_DEVICE),
        NVME('6', StartSource.NVME),
        NETWORK_INSTALL('7', StartSource.NETWORK_INSTALL),
        STOP('e', StartSource.STOP),
        RESTART('f', StartSource.RESTART);

        private final char hex;
        private final StartSource source;

        Digit(char hex, StartSource source) {
            this.hex = hex;
            this.source = source;
        }
    }

    private final BoardProfile profile;

    public HexDigitOrder(BoardProfile profile) {
        this.profile = profile;
    }

    /** The digit a source is written with. */
    public static Optional<Character> digitOf(StartSource source) {
        return Arrays.stream(Digit.values())
                .filter(digit -> digit.source == source)
                .map(digit -> digit.hex)
                .findFirst();
    }

    @Override
    public DecodedOrder decode(String value) {
        Optional<Finding> broken = formOf(value);
        if (broken.isPresent()) {
            return new DecodedOrder(value, List.of(), List.of(broken.get()));
        }
        List<StartSource> sources = new ArrayList<>();
        List<Finding> findings = new ArrayList<>();
        String digits = value.substring(2);
        for (int i = digits.length() - 1; i >= 0; i--) {
            char hex = digits.charAt(i);
            if (hex == '0') {
                if (!digits.substring(0, i + 1).chars().allMatch(each -> each == '0')) {
                    findings.add(Finding.caution(
                            "digit-zero",
                            "The digit 0 at place " + (digits.length() - i) + " stands for nothing.",
                            PRACTICE));
                }
                continue;
            }
            Optional<Digit> digit = Arrays.stream(Digit.values())
                    .filter(each -> each.hex == hex)
                    .findFirst();
            if (digit.isEmpty()) {
                findings.add(Finding.stop(
                        "digit-unknown",
                        "The digit " + hex + " at place " + (digits.length() - i)
                                + " from the right stands for no source.",
                        PRACTICE));
                continue;
            }
            sources.add(digit.get().source);
            if (!profile.supports(digit.get().source)) {
                findings.add(Finding.caution(
                        "source-not-on-board",
                        "The digit " + hex + " asks for " + digit.get().source.code() + ", which a " + profile.id()
                                + " does not have.",
                        Basis.computed("the board's profile")));
            }
        }
        findings.addAll(OrderFindings.of(sources));
        return new DecodedOrder(value, List.copyOf(sources), Finding.worstFirst(findings));
    }

    @Override
    public String encode(List<StartSource> sources) throws UnreadableInput {
        if (sources.isEmpty()) {
            throw new UnreadableInput("An order needs at least one source.");
        }
        if (sources.size() > MOST_DIGITS) {
            throw new UnreadableInput(
                    "An order has room for " + MOST_DIGITS + " digits; these are " + sources.size() + ".");
        }
        StringBuilder digits = new StringBuilder();
        for (StartSource source : sources) {
            digits.append(digitOf(source)
                    .orElseThrow(() -> new UnreadableInput("No digit stands for " + source.code() + ".")));
        }
        return "0x" + digits.reverse();
    }

    @Override
    public List<StartSource> available() {
        return Arrays.stream(Digit.values())
                .map(digit -> digit.source)
                .filter(profile::supports)
                .toList();
    }

    /** One finding for whatever is wrong with the form as a whole. */
    private static Optional<Finding> formOf(String value) {
        if (LOWER.matcher(value).matches()) {
            return Optional.empty();
        }
        String lower = value.toLowerCase(Locale.ROOT);
        if (value.isBlank()) {
            return Optional.of(
                    Finding.stop("order-empty", "The order is empty; it needs a value such as 0xf41.", PRACTICE)
                            .about(Subject.UNREADABLE_ORDER));
        }
        if (LOWER.matcher(lower).matches()) {
            return Optional.of(Finding.stop(
                            "order-upper-case", "\"" + value + "\" must be in lower case: " + lower + ".", PRACTICE)
                    .about(Subject.UNREADABLE_ORDER));
        }
        if (lower.matches("[0-9a-f]{1," + MOST_DIGITS + "}")) {
            return Optional.of(Finding.stop(
                            "order-no-prefix", "\"" + value + "\" lacks the 0x in front: 0x" + lower + ".", PRACTICE)
                    .about(Subject.UNREADABLE_ORDER));
        }
        if (lower.matches("(0x)?[0-9a-f]{9,}")) {
            int count = lower.startsWith("0x") ? lower.length() - 2 : lower.length();
            return Optional.of(Finding.stop(
                            "order-too-long",
                            "\"" + value + "\" has " + count + " digits; there is room for " + MOST_DIGITS + ".",
                            PRACTICE)
                    .about(Subject.UNREADABLE_ORDER));
        }
        String digits = lower.startsWith("0x") ? lower.substring(2) : lower;
        int wrong = (int)
                digits.chars().takeWhile(each -> Character.digit(each, 16) >= 0).count();
        return Optional.of(Finding.stop(
                        "order-not-hex",
                        digits.isEmpty()
                                ? "\"" + value + "\" has no digits after 0x."
                                : "\"" + value + "\" is no hex number: '"
                                        + digits.charAt(Math.min(wrong, digits.length() - 1)) + "' is not a hex digit.",
                        PRACTICE)
                .about(Subject.UNREADABLE_ORDER));
    }

    /** The sources with the first tried first, as rungs of a ladder; the inverse of how digits are written. */
    public static List<Character> digitsLeftToRight(String value) {
        List<Character> digits = new ArrayList<>();
        value.substring(Math.min(2, value.length())).chars().forEach(each -> digits.add((char) each));
        return Collections.unmodifiableList(digits);
    }
}

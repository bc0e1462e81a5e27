// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Older boards: the card first, always, and one bit of one-time memory that allows another source after it. The value
 * is the register as eight hex digits. Register before 1020000a, after 3020000a, bit 29: common practice, no source.
 */
public final class FuseBitOrder implements OrderDialect {
    private final BoardProfile.Fuse fuse;

    public FuseBitOrder(BoardProfile profile) {
        this.fuse =
                profile.order().fuse().orElseThrow(() -> new IllegalArgumentException(profile.id() + " has no fuse"));
    }

    @Override
    public DecodedOrder decode(String value) {
        String digits = digits(value);
        if (!digits.matches("[0-9a-f]{8}")) {
            return new DecodedOrder(
                    value,
                    List.of(),
                    List.of(Finding.stop(
                                    "register-not-hex",
                                    "\"" + value + "\" is not a register of eight hex digits such as " + fuse.before()
                                            + ".",
                                    Basis.practice())
                            .about(Subject.UNREADABLE_ORDER)));
        }
        boolean set = (Long.parseLong(digits, 16) >>> fuse.bit() & 1) == 1;
        List<StartSource> sources = new ArrayList<>(List.of(StartSource.CARD));
        List<Finding> findings = new ArrayList<>();
        if (set) {
            sources.add(fuse.allows());
            findings.add(Finding.note(
                    "fuse-set",
                    "Bit " + fuse.bit() + " is set: after the card, "
                            + fuse.allows().code() + " is tried, about 5 s later.",
                    Basis.practice()));
        } else {
            findings.add(Finding.note(
                    "fuse-not-set",
                    "Bit " + fuse.bit() + " is not set: only the card is tried. Setting it can never be undone.",
                    Basis.practice()));
        }
        return new DecodedOrder(value, List.copyOf(sources), findings);
    }

    /** The tool that prints the register puts its number in front, as in 17:3020000a (common practice, no source). */
    private static String digits(String value) {
        return value.strip()
                .toLowerCase(Locale.ROOT)
                .replaceFirst("^\\d{1,2}:", "")
                .replaceFirst("^0x", "");
    }

    /** Of a value that {@link #decode} could read. */
    static long register(String value) {
        return Long.parseLong(digits(value), 16);
    }

    @Override
    public String encode(List<StartSource> sources) throws UnreadableInput {
        if (sources.equals(List.of(StartSource.CARD))) {
            return fuse.before();
        }
        if (sources.equals(List.of(StartSource.CARD, fuse.allows()))) {
            return fuse.after();
        }
        throw new UnreadableInput("This board tries the card first and, with its fuse, "
                + fuse.allows().code() + " after it; no other order can be set.");
    }

    @Override
    public List<StartSource> available() {
        return List.of(StartSource.CARD, fuse.allows());
    }
}

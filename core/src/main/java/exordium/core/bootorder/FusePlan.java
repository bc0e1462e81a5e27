// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.BoardProfile;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.UnreadableInput;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * What setting the bit that allows another source comes to: the register before and after, and the steps, in which the line that sets it is
 * put in and taken out again. Register, bit and line: common practice, no source.
 *
 * @param before as the board's tool prints it, without the number in front; after: with the bit
 */
public record FusePlan(int bit, String before, String after, String line, List<Finding> findings, List<String> steps) {

    /**
     * Works it out.
     *
     * @param register as the tool prints it, {@code 17:1020000a} or {@code 1020000a}
     * @throws UnreadableInput on a family without such a bit, or when it is no register
     */
    public static FusePlan of(BoardProfile profile, String register) throws UnreadableInput {
        BoardProfile.Fuse fuse = profile.order()
                .fuse()
                .orElseThrow(
                        () -> new UnreadableInput(
                                "A " + profile.id()
                                        + " keeps its order as a setting; it has no bit of one-time memory that decides about its start."));
        DecodedOrder decoded = OrderDialect.of(profile).decode(register);
        if (!decoded.readable()) {
            throw new UnreadableInput(decoded.findings().get(0).text());
        }
        long value = FuseBitOrder.register(register);
        String before = hex(value);
        String after = hex(value | 1L << fuse.bit());
        List<Finding> findings = new ArrayList<>();
        if (before.equals(after)) {
            findings.add(Finding.stop(
                    "fuse-already-set",
                    "Bit " + fuse.bit() + " of register " + before + " is set already; there is nothing to do.",
                    Basis.practice()));
        } else {
            findings.add(Finding.caution(
                    "fuse-for-ever",
                    "Bit " + fuse.bit() + " can never be cleared again: the register goes from " + before + " to "
                            + after + ".",
                    Basis.practice()));
            if (!before.equals(fuse.before())) {
                findings.add(Finding.caution(
                        "register-unusual",
                        "A new board's register is " + fuse.before() + "; this one shows " + before
                                + ". Read it once more before anything is set.",
                        Basis.practice()));
            }
            findings.add(Finding.caution(
                    "fuse-line-stays",
                    "While the line stands in the settings, that card sets the bit of every board of this family it is put into.",
                    Basis.practice()));
        }
        String line = profile.bitLine().orElseThrow();
        String settings = profile.startFiles().settings().orElse("the settings file");
        return new FusePlan(
                fuse.bit(),
                before,
                after,
                line,
                List.copyOf(findings),
                List.of(
                        "Read the register with the board's own tool and write it down: " + before + " now.",
                        "Use a card with a system that knows how to set the bit; an old one ignores the line.",
                        "Put the line " + line + " at the end of " + settings + " on that card.",
                        "Start the board from it once, and wait until it is up.",
                        "Read the register again: " + after + " is right, bit " + fuse.bit() + " is set.",
                        "Take the line " + line + " out of " + settings
                                + " again, before that card goes anywhere else.",
                        "Shut down, take the card out and try the drive: it is tried after the card, about 5 s later."));
    }

    private static String hex(long value) {
        return String.format(Locale.ROOT, "%08x", value);
    }

    /** What has to be typed the second time. */
    public String secondWord() {
        return "bit " + bit;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A way in which a virtual drive misbehaves, to practise with and to test against. */
public sealed interface DriveFault {
    Pattern WRITTEN = Pattern.compile("(flip|wrap|unplug):(\\d+)|(bad):(\\d+)\\+(\\d+)|(slow):(\\d+)@(\\d+)");

    /** One byte comes back with its lowest bit turned, whatever was written. */
    record Flip(long offset) implements DriveFault {}

    /** A stretch that can be neither read nor written. */
    record Bad(long offset, long length) implements DriveFault {}

    /** A counterfeit: it announces its size but holds this much, and wraps round. */
    record Wrap(long size) implements DriveFault {}

    /** Gone once this many bytes were written. */
    record Unplug(long afterBytes) implements DriveFault {}

    /** Writes drop to this rate once this many bytes were written. */
    record Slow(long afterBytes, ByteRate rate) implements DriveFault {}

    /**
     * Reads {@code flip:OFFSET}, {@code bad:OFFSET+LENGTH}, {@code wrap:BYTES}, {@code unplug:BYTES} or
     * {@code slow:BYTES@RATE}.
     *
     * @throws UnreadableInput naming the text
     */
    static DriveFault parse(String text) throws UnreadableInput {
        Matcher match = WRITTEN.matcher(text);
        if (!match.matches()) {
            throw new UnreadableInput(
                    "\"" + text
                            + "\" is no fault; there are flip:OFFSET, bad:OFFSET+LENGTH, wrap:BYTES, unplug:BYTES and slow:BYTES@RATE.");
        }
        try {
            if (match.group(3) != null) {
                return new Bad(Long.parseLong(match.group(4)), Long.parseLong(match.group(5)));
            }
            if (match.group(6) != null) {
                return new Slow(Long.parseLong(match.group(7)), new ByteRate(Long.parseLong(match.group(8))));
            }
            long number = Long.parseLong(match.group(2));
            if (match.group(1).equals("wrap") && number == 0) {
                throw new UnreadableInput("A drive cannot wrap round at nothing: \"" + text + "\".");
            }
            return switch (match.group(1)) {
                case "flip" -> new Flip(number);
                case "wrap" -> new Wrap(number);
                default -> new Unplug(number);
            };
        } catch (NumberFormatException e) {
            throw new UnreadableInput("\"" + text + "\" has a number that is too large.", e);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteRate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A way in which a virtual drive misbehaves, to practise with and to test against. */
public sealed interface DriveFault {
    Pattern WRITTEN = Pattern.compile("(flip|wrap|unplug|readonly|lose|hang):(\\d+)|(bad|wrong|stale):(\\d+)\\+(\\d+)"
            + "|(slow|shrink):(\\d+)@(\\d+)|(twice):(\\d+)\\+(\\d+)@(\\d+)");

    /** One byte comes back with its lowest bit turned, whatever was written. */
    record Flip(long offset) implements DriveFault {}

    /** A stretch that can be neither read nor written. */
    record Bad(long offset, long length) implements DriveFault {}

    /** A stretch that gives back wrong data without saying so, whatever was written. */
    record Wrong(long offset, long length) implements DriveFault {}

    /** A worn stretch: it says that it took what was written, and gives back what it held before. */
    record Stale(long offset, long length) implements DriveFault {}

    /** Refuses every write once this many bytes were written, as worn cards do. */
    record ReadOnly(long afterBytes) implements DriveFault {}

    /** Once this many bytes were written, everything it had not been made to take in is lost without a word. */
    record Lose(long afterBytes) implements DriveFault {}

    /** Once this many bytes were written, it does not answer any more. */
    record Hang(long afterBytes) implements DriveFault {}

    /** Once this many bytes were written, it ends at this size. */
    record Shrink(long afterBytes, long size) implements DriveFault {}

    /** What is written to a stretch lands at a second place as well. */
    record Twice(long offset, long length, long second) implements DriveFault {}

    /** In words, as the window lists them. */
    default String said() {
        if (this instanceof Flip flip) {
            return "one byte flipped at " + flip.offset();
        }
        if (this instanceof Bad bad) {
            return "unreadable from byte " + bad.offset() + ", " + bad.length() + " bytes";
        }
        if (this instanceof Wrong wrong) {
            return "silently wrong from byte " + wrong.offset() + ", " + wrong.length() + " bytes";
        }
        if (this instanceof Stale stale) {
            return "gives back old data from byte " + stale.offset() + ", " + stale.length() + " bytes";
        }
        if (this instanceof Wrap wrap) {
            return "wraps round after " + wrap.size() + " bytes";
        }
        if (this instanceof Unplug unplug) {
            return "gone after " + unplug.afterBytes() + " bytes written";
        }
        if (this instanceof ReadOnly worn) {
            return "read-only after " + worn.afterBytes() + " bytes written";
        }
        if (this instanceof Lose lose) {
            return "loses what it was not made to take in, after " + lose.afterBytes() + " bytes written";
        }
        if (this instanceof Hang hang) {
            return "does not answer after " + hang.afterBytes() + " bytes written";
        }
        if (this instanceof Shrink shrink) {
            return "ends at byte " + shrink.size() + " after " + shrink.afterBytes() + " bytes written";
        }
        if (this instanceof Twice twice) {
            return "puts " + twice.length() + " bytes from byte " + twice.offset() + " at byte " + twice.second()
                    + " as well";
        }
        Slow slow = (Slow) this;
        return "drops to " + slow.rate().said() + " after " + slow.afterBytes() + " bytes written";
    }

    /** A counterfeit: it announces its size but holds this much, and wraps round. */
    record Wrap(long size) implements DriveFault {}

    /** Gone once this many bytes were written. */
    record Unplug(long afterBytes) implements DriveFault {}

    /** Writes drop to this rate once this many bytes were written. */
    record Slow(long afterBytes, ByteRate rate) implements DriveFault {}

    /** A length, or a rate, of nothing is no fault. */
    private static long atLeastOne(String digits, String text) throws UnreadableInput {
        long number = Long.parseLong(digits);
        if (number < 1) {
            throw new UnreadableInput("\"" + text + "\" is no fault: a length or a rate of 0 does nothing.");
        }
        return number;
    }

    /**
     * Reads {@code flip:OFFSET}, {@code bad:OFFSET+LENGTH}, {@code wrong:OFFSET+LENGTH}, {@code stale:OFFSET+LENGTH},
     * {@code wrap:BYTES}, {@code unplug:BYTES}, {@code readonly:BYTES}, {@code lose:BYTES}, {@code hang:BYTES},
     * {@code shrink:BYTES@SIZE}, {@code twice:OFFSET+LENGTH@SECOND} or {@code slow:BYTES@RATE}.
     *
     * @throws UnreadableInput naming the text
     */
    static DriveFault parse(String text) throws UnreadableInput {
        Matcher match = WRITTEN.matcher(text);
        if (!match.matches()) {
            throw new UnreadableInput(
                    "\"" + text
                            + "\" is no fault; there are flip:OFFSET, bad:OFFSET+LENGTH, wrong:OFFSET+LENGTH, stale:OFFSET+LENGTH, wrap:BYTES, "
                            + "unplug:BYTES, readonly:BYTES, lose:BYTES, hang:BYTES, shrink:BYTES@SIZE, twice:OFFSET+LENGTH@SECOND and slow:BYTES@RATE.");
        }
        try {
            if (match.group(3) != null) {
                long offset = Long.parseLong(match.group(4));
                long length = atLeastOne(match.group(5), text);
                return switch (match.group(3)) {
                    case "bad" -> new Bad(offset, length);
                    case "wrong" -> new Wrong(offset, length);
                    default -> new Stale(offset, length);
                };
            }
            if (match.group(6) != null) {
                long after = Long.parseLong(match.group(7));
                long value = match.group(6).equals("slow")
                        ? atLeastOne(match.group(8), text)
                        : Long.parseLong(match.group(8));
                return match.group(6).equals("slow") ? new Slow(after, new ByteRate(value)) : new Shrink(after, value);
            }
            if (match.group(9) != null) {
                return new Twice(
                        Long.parseLong(match.group(10)),
                        atLeastOne(match.group(11), text),
                        Long.parseLong(match.group(12)));
            }
            long number = Long.parseLong(match.group(2));
            if (match.group(1).equals("wrap") && number == 0) {
                throw new UnreadableInput("A drive cannot wrap round at nothing: \"" + text + "\".");
            }
            return switch (match.group(1)) {
                case "flip" -> new Flip(number);
                case "wrap" -> new Wrap(number);
                case "readonly" -> new ReadOnly(number);
                case "lose" -> new Lose(number);
                case "hang" -> new Hang(number);
                default -> new Unplug(number);
            };
        } catch (NumberFormatException e) {
            throw new UnreadableInput("\"" + text + "\" has a number that is too large.", e);
        }
    }
}

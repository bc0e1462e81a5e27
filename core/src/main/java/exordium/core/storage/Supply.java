// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage;

import exordium.core.finding.BadArgument;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What feeds the board; via is adapter, poe-af, poe-at or poe-bt. */
public record Supply(double volts, double amps, String via) {
    private static final double MOST_AMPS = 30;

    /**
     * What reaches the board: the least of what the adapter or splitter gives and, over Ethernet, what the class allows at the
     * device (IEEE 802.3).
     */
    public Watts power() {
        Watts own = Watts.of(volts, amps);
        Watts most =
                switch (via) {
                    case "poe-af" -> new Watts(12.95);
                    case "poe-at" -> new Watts(25.5);
                    case "poe-bt" -> new Watts(51);
                    default -> own;
                };
        return own.compareTo(most) < 0 ? own : most;
    }

    private static final Pattern ADAPTER = Pattern.compile(
            "([0-9]+(?:[.,][0-9]+)?)\\s*(?:V\\s*[x/]?|[x/]|\\s)\\s*([0-9]+(?:[.,][0-9]+)?)\\s*A?",
            Pattern.CASE_INSENSITIVE);

    /**
     * As people say it: {@code 5 V 3 A}, {@code 5.1 x 2.5}, or a class of Power over Ethernet such as {@code poe-at}, whose splitter
     * gives what the family is made for.
     *
     * @throws BadArgument when it is neither, or its volts are not those of the family
     */
    public static Supply parse(String text, Supply usual) throws BadArgument {
        String said = text.strip().toLowerCase(Locale.ROOT);
        if (List.of("poe-af", "poe-at", "poe-bt").contains(said)) {
            return new Supply(usual.volts(), usual.amps(), said);
        }
        Matcher parts = ADAPTER.matcher(said);
        if (!parts.matches()) {
            throw new BadArgument("\"" + text + "\" is no supply such as \"5 V 3 A\", poe-af, poe-at or poe-bt.", text);
        }
        Supply given = new Supply(number(parts.group(1)), number(parts.group(2)), "adapter");
        if (given.volts() != usual.volts() || given.amps() <= 0 || given.amps() > MOST_AMPS) {
            throw new BadArgument(
                    String.format(
                            Locale.ROOT,
                            "This family takes %s V; \"%s\" is no supply for it, and other volts would harm it.",
                            plain(usual.volts()),
                            text),
                    text);
        }
        return given;
    }

    /** Volts and amps of an adapter, for whatever they are good. @throws BadArgument when it says neither */
    public static Supply parse(String text) throws BadArgument {
        Matcher parts = ADAPTER.matcher(text.strip().toLowerCase(Locale.ROOT));
        if (!parts.matches()) {
            throw new BadArgument("\"" + text + "\" is no supply such as \"5 V 3 A\", poe-af, poe-at or poe-bt.", text);
        }
        return new Supply(number(parts.group(1)), number(parts.group(2)), "adapter");
    }

    private static double number(String text) {
        return Double.parseDouble(text.replace(',', '.'));
    }

    /** As it is written down: what {@link #parse} reads again. */
    public String said() {
        return via.startsWith("poe") ? via : String.format(Locale.ROOT, "%s V %s A", plain(volts), plain(amps));
    }

    private static String plain(double number) {
        return Double.toString(number).replaceFirst("\\.0$", "");
    }

    public String title() {
        return via.startsWith("poe")
                ? "Power over Ethernet, " + via.substring(4)
                : String.format(Locale.ROOT, "%.0f V x %.1f A", volts, amps);
    }
}

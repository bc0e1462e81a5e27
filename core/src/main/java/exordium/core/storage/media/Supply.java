// SPDX-License-Identifier: Apache-2.0
package exordium.core.storage.media;

import exordium.core.finding.BadArgument;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.Watts;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What feeds the board; via is adapter, charger (one that does not tell the board its current), poe-af, poe-at or poe-bt.
 *
 * @param volts of an adapter; over Ethernet those of the line, or of what is behind the splitter, or 0 where nobody said
 * @param amps at those volts; over Ethernet 0 where nobody said
 */
public record Supply(double volts, double amps, String via) {
    private static final String CHARGER = "charger";
    private static final double MOST_AMPS = 30;
    /** At the device (IEEE 802.3); what is meant where nobody said. */
    private static final double LEAST_LINE = 48;

    private static final double MOST_LINE = 57;

    /**
     * What reaches the board: the least of what the adapter or splitter gives and, over Ethernet, what the class allows at the
     * device (IEEE 802.3).
     */
    public Watts power() {
        Watts own = Watts.of(volts == 0 ? LEAST_LINE : volts, amps);
        Watts most =
                switch (via) {
                    case "poe-af" -> new Watts(12.95);
                    case "poe-at" -> new Watts(25.5);
                    case "poe-bt" -> new Watts(51);
                    default -> own;
                };
        boolean unsaid = amps == 0;
        return !unsaid && own.compareTo(most) < 0 ? own : most;
    }

    /** Whether the board is told how much it gives: hats for Power over Ethernet and most chargers tell nothing. */
    public boolean tellsItsCurrent() {
        return via.equals("adapter");
    }

    private boolean overEthernet() {
        return via.startsWith("poe");
    }

    /**
     * Whether it may feed a board of a family.
     *
     * @param board what the family is made for
     * @throws UnreadableInput when its volts are others: an adapter's are the board's, over Ethernet also those of the line
     */
    public void requireFor(String family, Supply board) throws UnreadableInput {
        boolean line = overEthernet() && (volts == 0 || (volts >= LEAST_LINE && volts <= MOST_LINE));
        if (!line && volts != board.volts()) {
            throw new UnreadableInput(String.format(
                    Locale.ROOT,
                    "A %s runs on %s V; a supply of %s V would destroy it or not run it.%s",
                    family,
                    plain(board.volts()),
                    plain(volts),
                    overEthernet() ? " Over Ethernet the line has 48 to 57 V." : ""));
        }
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
        boolean charger = said.endsWith(CHARGER);
        Matcher parts = ADAPTER.matcher(said.replaceFirst("\\s*" + CHARGER + "$", ""));
        if (!parts.matches()) {
            throw new BadArgument("\"" + text + "\" is no supply such as \"5 V 3 A\", poe-af, poe-at or poe-bt.", text);
        }
        Supply given = new Supply(number(parts.group(1)), number(parts.group(2)), charger ? CHARGER : "adapter");
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
        return overEthernet()
                ? via
                : String.format(Locale.ROOT, "%s V %s A", plain(volts), plain(amps))
                        + (via.equals(CHARGER) ? " " + CHARGER : "");
    }

    private static String plain(double number) {
        return Double.toString(number).replaceFirst("\\.0$", "");
    }

    public String title() {
        return overEthernet()
                ? "Power over Ethernet, " + via.substring(4)
                : String.format(Locale.ROOT, "%.0f V x %.1f A", volts, amps);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Numbers as tools print them. */
final class Figures {
    private static final Pattern SIZE = Pattern.compile("^([0-9]{1,15})(?:[.,]([0-9]{1,3}))?([BKMGTP]?)(?:i?B)?$");
    private static final String UNITS = "KMGTP";

    private Figures() {}

    /** util-linux, coreutils: a number, with a letter for powers of 1024. */
    static Optional<Long> bytes(String text) {
        Matcher size = SIZE.matcher(text.strip());
        if (!size.matches()) {
            return Optional.empty();
        }
        double value = Double.parseDouble(size.group(1) + (size.group(2) == null ? "" : "." + size.group(2)));
        int power = size.group(3).isEmpty() ? 0 : UNITS.indexOf(size.group(3)) + 1;
        double bytes = value * Math.pow(1024, power);
        return bytes < Long.MAX_VALUE ? Optional.of(Math.round(bytes)) : Optional.empty();
    }

    /** systemd-analyze(1): {@code 1min 2.345s}, {@code 534ms}. */
    static Optional<Double> seconds(String text) {
        Matcher part =
                Pattern.compile("([0-9]{1,9}(?:\\.[0-9]{1,6})?)(ms|us|s|min|h)").matcher(text);
        double seconds = 0;
        boolean any = false;
        while (part.find()) {
            any = true;
            double value = Double.parseDouble(part.group(1));
            seconds += switch (part.group(2)) {
                case "us" -> value / 1e6;
                case "ms" -> value / 1e3;
                case "min" -> value * 60;
                case "h" -> value * 3600;
                default -> value;
            };
        }
        return any ? Optional.of(Math.round(seconds * 1000) / 1000.0) : Optional.empty();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.quantity;

import java.time.Duration;
import java.util.Locale;

/** Says a span of time the way people do. */
public final class Span {
    private Span() {}

    /** "0.8 s", "14.2 s", "1 min 02 s", "2 h 05 min", "34 days". */
    public static String said(Duration span) {
        double seconds = span.toMillis() / 1000.0;
        if (seconds < 59.95) {
            return String.format(Locale.ROOT, "%.1f s", seconds);
        }
        long whole = Math.round(seconds);
        if (whole < 3600) {
            return String.format(Locale.ROOT, "%d min %02d s", whole / 60, whole % 60);
        }
        if (whole < 86_400) {
            return String.format(Locale.ROOT, "%d h %02d min", whole / 3600, whole % 3600 / 60);
        }
        return days(span.toDays());
    }

    /** Time left, where tenths would only flicker: "8 s", "1 min 02 s". */
    public static String left(Duration span) {
        long whole = Math.max(0, (span.toMillis() + 999) / 1000);
        return whole < 60 ? whole + " s" : said(Duration.ofSeconds(whole));
    }

    public static String days(long days) {
        return days == 1 ? "1 day" : days + " days";
    }
}

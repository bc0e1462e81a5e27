// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.finding.BadArgument;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * When a board may be off: spans of days of the week, each with hours where they are given, such as {@code mon-fri 18:00-22:00,
 * sun}. Hours that end before they begin go on to the next morning. Nothing said: always.
 *
 * @param text as it was given, in the usual form
 */
public record QuietTimes(String text, List<Span> spans) {
    public static final QuietTimes ALWAYS = new QuietTimes("", List.of());

    private static final int MOST = 200;
    private static final List<String> DAYS = List.of("mon", "tue", "wed", "thu", "fri", "sat", "sun");
    private static final Pattern SPAN = Pattern.compile(
            "(daily|(?:mon|tue|wed|thu|fri|sat|sun)(?:-(?:mon|tue|wed|thu|fri|sat|sun))?)(?: (\\d{1,2}:\\d{2})-(\\d{1,2}:\\d{2}))?");

    /** Some days of the week; from and until are both midnight for the whole of each. */
    public record Span(Set<DayOfWeek> days, LocalTime from, LocalTime until) {
        public Span {
            days = Set.copyOf(days);
        }

        boolean wholeDay() {
            return from.equals(until);
        }

        boolean holds(LocalDateTime time) {
            LocalTime hour = time.toLocalTime();
            boolean today = days.contains(time.getDayOfWeek());
            if (wholeDay()) {
                return today;
            }
            if (from.isBefore(until)) {
                return today && !hour.isBefore(from) && hour.isBefore(until);
            }
            boolean yesterday = days.contains(time.getDayOfWeek().minus(1));
            return (today && !hour.isBefore(from)) || (yesterday && hour.isBefore(until));
        }
    }

    public QuietTimes {
        spans = List.copyOf(spans);
    }

    /** @throws BadArgument naming what cannot be read */
    public static QuietTimes parse(String text) throws BadArgument {
        String plain = text.strip().toLowerCase(Locale.ROOT).replaceAll("\\s+", " ");
        if (plain.isEmpty()) {
            return ALWAYS;
        }
        if (plain.length() > MOST) {
            throw new BadArgument("That are too many times; " + MOST + " letters are the most.", "quiet times");
        }
        List<Span> spans = new ArrayList<>();
        for (String part : plain.split(",", -1)) {
            Matcher match = SPAN.matcher(part.strip());
            if (!match.matches()) {
                throw new BadArgument(
                        "\"" + part.strip()
                                + "\" is no time a board may be off; such are \"mon-fri 18:00-22:00\", \"sun\" and"
                                + " \"daily 20:00-23:00\".",
                        part.strip());
            }
            LocalTime from = match.group(2) == null ? LocalTime.MIDNIGHT : time(match.group(2));
            LocalTime until = match.group(3) == null ? LocalTime.MIDNIGHT : time(match.group(3));
            spans.add(new Span(days(match.group(1)), from, until));
        }
        return new QuietTimes(plain.replaceAll(" ?, ?", ", "), spans);
    }

    /** What was read before and kept; what nobody can read any more counts as nothing said. */
    public static QuietTimes kept(String text) {
        try {
            return parse(text);
        } catch (BadArgument e) {
            return ALWAYS;
        }
    }

    private static LocalTime time(String text) throws BadArgument {
        String[] parts = text.split(":");
        int hour = Integer.parseInt(parts[0]);
        int minute = Integer.parseInt(parts[1]);
        if (hour == 24 && minute == 0) {
            return LocalTime.MIDNIGHT;
        }
        if (hour > 23 || minute > 59) {
            throw new BadArgument("\"" + text + "\" is no time of day.", text);
        }
        return LocalTime.of(hour, minute);
    }

    private static Set<DayOfWeek> days(String text) {
        if (text.equals("daily")) {
            return EnumSet.allOf(DayOfWeek.class);
        }
        String[] ends = text.split("-");
        int first = DAYS.indexOf(ends[0]);
        int last = DAYS.indexOf(ends[ends.length - 1]);
        Set<DayOfWeek> days = EnumSet.noneOf(DayOfWeek.class);
        for (int day = first; ; day = (day + 1) % 7) {
            days.add(DayOfWeek.of(day + 1));
            if (day == last) {
                return days;
            }
        }
    }

    public boolean holds(LocalDateTime time) {
        return spans.isEmpty() || spans.stream().anyMatch(span -> span.holds(time));
    }

    /** Whether the board may be off at some hour that begins on that day. */
    public boolean onDay(LocalDate day) {
        return spans.isEmpty() || spans.stream().anyMatch(span -> span.days().contains(day.getDayOfWeek()));
    }

    /** The earliest hour of that day at which it may go off; empty where it may not, or at any hour. */
    public Optional<LocalTime> begin(LocalDate day) {
        return spans.stream()
                .filter(span -> span.days().contains(day.getDayOfWeek()) && !span.wholeDay())
                .map(Span::from)
                .min(LocalTime::compareTo);
    }
}

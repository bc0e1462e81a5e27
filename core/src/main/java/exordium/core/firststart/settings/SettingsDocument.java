// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.settings;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A settings file with everything in it kept exactly: sections, filters, comments, order, spacing and line endings. What is not
 * edited is written back byte for byte.
 */
public final class SettingsDocument {
    private static final Pattern SETTING = Pattern.compile("^([^=]*?)\\s*=(.*)$");
    private static final Pattern BARE = Pattern.compile("^(include|initramfs)\\s+(.*)$");
    /** Sections that hold for every board. */
    public static final String ALL = "all";

    private final Charset charset;
    private final List<Line> lines;

    private SettingsDocument(Charset charset, List<Line> lines) {
        this.charset = charset;
        this.lines = List.copyOf(lines);
    }

    /**
     * A line as it stands there.
     *
     * @param text without its ending
     * @param ending LF, CR LF, or nothing at the very end
     * @param section the name in brackets above it; "all" where there is none
     * @param key empty where it sets nothing
     */
    public record Line(int number, String text, String ending, String section, Optional<String> key, String value) {
        /** As it is told from the same words under another filter. */
        public String inItsSection() {
            return "[" + section.toLowerCase(Locale.ROOT) + "] " + plain();
        }

        public boolean comment() {
            return plain().startsWith("#");
        }

        public boolean heading() {
            return plain().startsWith("[");
        }

        public boolean blank() {
            return plain().isEmpty();
        }

        /** As the firmware takes it: without blanks and what an editor put before the first letter. */
        public String plain() {
            return text.replace("\uFEFF", "").strip();
        }
    }

    /** Bytes that are no UTF-8 are kept as they are as well. */
    public static SettingsDocument parse(byte[] content) {
        Charset charset = charsetOf(content);
        String text = new String(content, charset);
        List<String[]> raw = new ArrayList<>();
        int at = 0;
        while (at < text.length()) {
            int end = text.indexOf('\n', at);
            int next = end < 0 ? text.length() : end + 1;
            int stop = end < 0 ? text.length() : end;
            boolean carriage = end > at && text.charAt(end - 1) == '\r';
            raw.add(new String[] {
                text.substring(at, carriage ? stop - 1 : stop), text.substring(carriage ? stop - 1 : stop, next)
            });
            at = next;
        }
        return of(charset, raw);
    }

    private static Charset charsetOf(byte[] content) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(content));
            return StandardCharsets.UTF_8;
        } catch (CharacterCodingException e) {
            return StandardCharsets.ISO_8859_1;
        }
    }

    private static SettingsDocument of(Charset charset, List<String[]> raw) {
        List<Line> lines = new ArrayList<>();
        String section = ALL;
        for (String[] each : raw) {
            String plain = each[0].replace("\uFEFF", "").strip();
            if (plain.startsWith("[")) {
                // One that is not closed is nobody knows which.
                section = plain.contains("]") ? plain.replaceAll("^\\[\\s*|\\s*\\].*$", "") : plain;
            }
            Matcher setting = SETTING.matcher(plain);
            Matcher bare = BARE.matcher(plain);
            boolean sets = !plain.startsWith("#") && !plain.startsWith("[");
            Optional<String> key = Optional.empty();
            String value = "";
            if (sets && bare.matches()) {
                key = Optional.of(bare.group(1));
                value = bare.group(2);
            } else if (sets && setting.matches()) {
                key = Optional.of(setting.group(1));
                value = setting.group(2).strip();
            }
            lines.add(new Line(lines.size() + 1, each[0], each[1], section, key, value));
        }
        return new SettingsDocument(charset, lines);
    }

    /** SHA-256 of a whole file, in hex. */
    public static String digest(byte[] content) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(content));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    public List<Line> lines() {
        return lines;
    }

    /** The document with a line changed, several made one, or one left out. */
    public SettingsDocument with(LineFinding.Mend mend) {
        List<String[]> raw = new ArrayList<>();
        for (Line line : lines) {
            if (line.number() < mend.line() || line.number() > mend.through()) {
                raw.add(new String[] {line.text(), line.ending()});
            } else if (line.number() == mend.line() && mend.text().isPresent()) {
                raw.add(new String[] {mend.text().get(), line.ending().isEmpty() ? "" : "\n"});
            }
        }
        return of(charset, raw);
    }

    /**
     * The document in which a key has this value for all boards: where it stands already, the last line that counts is changed;
     * else it comes behind the last line of its section, in a section of its own where there is none.
     */
    public SettingsDocument with(String key, String value) {
        Optional<Line> there = lines.stream()
                .filter(line -> line.section().equals(ALL) && line.key().equals(Optional.of(key)))
                .reduce((first, last) -> last);
        if (there.isPresent()) {
            return there.get().value().equals(value)
                    ? this
                    : with(new LineFinding.Mend(
                            there.get().number(), there.get().number(), Optional.of(key + "=" + value), ""));
        }
        return appended(key + "=" + value);
    }

    private SettingsDocument appended(String text) {
        List<String[]> raw = new ArrayList<>();
        lines.forEach(line -> raw.add(new String[] {line.text(), line.ending()}));
        if (!raw.isEmpty() && raw.get(raw.size() - 1)[1].isEmpty()) {
            raw.get(raw.size() - 1)[1] = "\n";
        }
        boolean open = lines.isEmpty() || lines.get(lines.size() - 1).section().equals(ALL);
        if (!open) {
            raw.add(new String[] {"[" + ALL + "]", "\n"});
        }
        raw.add(new String[] {text, "\n"});
        return of(charset, raw);
    }

    /** Whether a line for all boards sets this. */
    public boolean sets(String key, String value) {
        return lines.stream()
                .anyMatch(line -> line.section().equals(ALL)
                        && line.key().equals(Optional.of(key))
                        && line.value().equals(value));
    }

    /** The document with this very line for all boards, which may stand beside others of its key. */
    public SettingsDocument withLine(String key, String value) {
        return sets(key, value) ? this : appended(key + "=" + value);
    }

    /** The document without the lines for all boards that set this. */
    public SettingsDocument without(String key, String value) {
        SettingsDocument now = this;
        for (int i = lines.size() - 1; i >= 0; i--) {
            Line line = lines.get(i);
            if (line.section().equals(ALL)
                    && line.key().equals(Optional.of(key))
                    && line.value().equals(value)) {
                now = now.with(new LineFinding.Mend(line.number(), line.number(), Optional.empty(), ""));
            }
        }
        return now;
    }

    /** The document without any line for all boards that sets this key. */
    public SettingsDocument without(String key) {
        SettingsDocument now = this;
        for (Line line : lines) {
            if (line.section().equals(ALL) && line.key().equals(Optional.of(key))) {
                now = now.without(key, line.value());
            }
        }
        return now;
    }

    public byte[] bytes() {
        StringBuilder text = new StringBuilder();
        lines.forEach(line -> text.append(line.text()).append(line.ending()));
        return text.toString().getBytes(charset);
    }
}

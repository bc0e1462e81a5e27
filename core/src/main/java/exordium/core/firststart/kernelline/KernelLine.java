// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import exordium.core.board.BoardProfile;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The parameters handed to the kernel: words with spaces between, all on one line. */
public record KernelLine(List<String> words) {
    private static final Pattern FIRST_WORD = Pattern.compile("^\\s*\\S+\\s+");
    private static final Pattern FIRST_NAME = Pattern.compile("^\\s*(?:setenv\\s+\\w+\\s+|\\w+=)");

    /**
     * Takes the line out of its file, which holds nothing else or is a menu. Of a plain file the first line alone is read, and
     * only blanks part its words: a carriage return belongs to the last of them.
     */
    public static Optional<KernelLine> in(String file, BoardProfile.KernelLineForm form) {
        if (form == BoardProfile.KernelLineForm.PLAIN) {
            return Optional.of(parse(file.split("\n", 2)[0]))
                    .filter(line -> !line.words().isEmpty());
        }
        return StartMenu.parse(file, form)
                .chosen()
                .flatMap(StartMenu.Entry::parameters)
                .map(KernelLine::parse);
    }

    public static KernelLine parse(String line) {
        return new KernelLine(Arrays.stream(line.split("[ \t]+"))
                .filter(word -> !word.isEmpty() && !word.equals("\r"))
                .toList());
    }

    /** What a break cut off from a plain line: everything behind it that is not blank. */
    public static String lost(String file) {
        String[] halves = file.split("\n", 2);
        return halves.length < 2 ? "" : halves[1].strip();
    }

    /** The file with this line in the place of its own: in a menu, within the entry that is started. */
    public String putInto(String file, BoardProfile.KernelLineForm form) {
        if (form == BoardProfile.KernelLineForm.PLAIN) {
            return text() + "\n";
        }
        List<Integer> places =
                StartMenu.parse(file, form).chosen().map(StartMenu.Entry::lines).orElse(List.of());
        List<String> lines = new java.util.ArrayList<>(List.of(file.split("\n", -1)));
        for (int i = places.size() - 1; i >= 0; i--) {
            int place = places.get(i);
            if (i > 0) {
                lines.remove(place);
            } else {
                boolean named = form == BoardProfile.KernelLineForm.ENVIRONMENT;
                Matcher word = (named ? FIRST_NAME : FIRST_WORD).matcher(lines.get(place));
                String before = word.find() ? word.group() : "";
                String quote = named && lines.get(place).startsWith("\"", before.length()) ? "\"" : "";
                lines.set(place, before + quote + text() + quote);
            }
        }
        return String.join("\n", lines);
    }

    public Optional<String> value(String key) {
        return words.stream()
                .filter(word -> word.startsWith(key + "="))
                .map(word -> word.substring(key.length() + 1))
                .reduce((first, last) -> last);
    }

    /**
     * Replaces the value of a key where it stands, or puts it before {@code root=} where it is new. Where it stands more than
     * once, the last counts and is the one that stays.
     */
    public KernelLine with(String key, String value) {
        String word = key + "=" + value;
        List<String> changed = new java.util.ArrayList<>(words);
        for (int i = changed.size() - 1; i >= 0; i--) {
            if (changed.get(i).startsWith(key + "=")) {
                changed.set(i, word);
                return new KernelLine(List.copyOf(changed));
            }
        }
        changed.add(placeOfRoot(changed), word);
        return new KernelLine(List.copyOf(changed));
    }

    /** Without any word of this key. */
    public KernelLine without(String key) {
        return new KernelLine(
                words.stream().filter(word -> !word.startsWith(key + "=")).toList());
    }

    /** With this very word, which may stand beside others of its key; before {@code root=} where it is new. */
    public KernelLine withWord(String word) {
        if (words.contains(word)) {
            return this;
        }
        List<String> changed = new java.util.ArrayList<>(words);
        changed.add(placeOfRoot(changed), word);
        return new KernelLine(List.copyOf(changed));
    }

    public KernelLine withoutWord(String word) {
        return new KernelLine(words.stream().filter(each -> !each.equals(word)).toList());
    }

    private static int placeOfRoot(List<String> words) {
        int root = 0;
        while (root < words.size() && !words.get(root).startsWith("root=")) {
            root++;
        }
        return root;
    }

    /** Takes a key out wherever it stands and puts it before {@code root=}, where people look for an address. */
    public KernelLine withBeforeRoot(String key, String value) {
        List<String> there =
                words.stream().filter(word -> word.startsWith(key + "=")).toList();
        boolean already = there.equals(List.of(key + "=" + value)) && words.indexOf(there.get(0)) < placeOfRoot(words);
        if (already) {
            return this;
        }
        List<String> without =
                words.stream().filter(word -> !word.startsWith(key + "=")).toList();
        return new KernelLine(without).with(key, value);
    }

    public String text() {
        return String.join(" ", words);
    }
}

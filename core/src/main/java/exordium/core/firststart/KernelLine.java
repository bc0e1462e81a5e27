// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import exordium.core.board.BoardProfile;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The parameters handed to the kernel: words with spaces between, all on one line. */
public record KernelLine(List<String> words) {

    /** Takes the line out of its file, which holds nothing else or names it with a word in front. */
    public static Optional<KernelLine> in(String file, BoardProfile.KernelLineForm form) {
        if (form == BoardProfile.KernelLineForm.PLAIN) {
            String line = file.split("\\R", 2)[0].trim();
            return line.isEmpty() ? Optional.empty() : Optional.of(parse(line));
        }
        Matcher match = named(form).matcher(file);
        return match.find() ? Optional.of(parse(match.group(2))) : Optional.empty();
    }

    public static KernelLine parse(String line) {
        return new KernelLine(Arrays.stream(line.trim().split("\\s+"))
                .filter(word -> !word.isEmpty())
                .toList());
    }

    /** The file with this line in the place of its own. */
    public String putInto(String file, BoardProfile.KernelLineForm form) {
        if (form == BoardProfile.KernelLineForm.PLAIN) {
            return text() + "\n";
        }
        return named(form).matcher(file).replaceFirst(match -> Matcher.quoteReplacement(match.group(1) + text()));
    }

    public Optional<String> value(String key) {
        return words.stream()
                .filter(word -> word.startsWith(key + "="))
                .map(word -> word.substring(key.length() + 1))
                .reduce((first, last) -> last);
    }

    /** Replaces the value of a key where it stands, or puts it before {@code root=} where it is new. */
    public KernelLine with(String key, String value) {
        String word = key + "=" + value;
        List<String> changed = new java.util.ArrayList<>(words);
        for (int i = 0; i < changed.size(); i++) {
            if (changed.get(i).startsWith(key + "=")) {
                changed.set(i, word);
                return new KernelLine(List.copyOf(changed));
            }
        }
        int root = 0;
        while (root < changed.size() && !changed.get(root).startsWith("root=")) {
            root++;
        }
        changed.add(root, word);
        return new KernelLine(List.copyOf(changed));
    }

    public String text() {
        return String.join(" ", words);
    }

    private static Pattern named(BoardProfile.KernelLineForm form) {
        String word = form == BoardProfile.KernelLineForm.APPEND ? "append" : "options";
        return Pattern.compile("(?im)^(\\s*" + word + "\\s+)(.*)$");
    }
}

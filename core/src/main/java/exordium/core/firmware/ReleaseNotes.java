// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.board.StartSource;
import exordium.core.image.PackageFiles;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;

/** Notes that come along with releases: what stands under a line with a date is of the release of that date. */
final class ReleaseNotes {
    private static final Pattern FILE =
            Pattern.compile("(?i)(.*/)?[^/]*(notes|changelog|changes|history|news)[^/]*(\\.(md|txt|gz))?");
    private static final Pattern HEAD =
            Pattern.compile("^[\\s#*=\\[(-]*(?:[A-Za-z][\\w .-]{0,40}[ _(-])?(20\\d\\d)-(\\d\\d)-(\\d\\d)\\b(.*)$");
    private static final int LARGEST = 1 << 20;
    private static final String STARTS = "(boot|start|load)(s|ing|ed)?\\b";
    private static final Pattern VERB = Pattern.compile(
            "\\b(add|enabl|support|allow|start|boot|now|can|first|introduc|install)\\w*", Pattern.CASE_INSENSITIVE);
    private static final Pattern MENDS = Pattern.compile(
            "^(mend|fix|correct|repair|resolve|work around)\\w*\\s*:?\\s+(.*)", Pattern.CASE_INSENSITIVE);
    private static final Map<StartSource, Pattern> SOURCES = new LinkedHashMap<>(Map.of(
            StartSource.NETWORK_INSTALL,
            Pattern.compile(
                    "(network|net|http)\\W+install|install\\w*\\W+(over|from|via)\\W+(the\\W+)?(net|network|http)",
                    Pattern.CASE_INSENSITIVE),
            StartSource.NVME,
            Pattern.compile("\\bnvme\\b", Pattern.CASE_INSENSITIVE),
            StartSource.USB,
            Pattern.compile("\\busb\\b", Pattern.CASE_INSENSITIVE),
            StartSource.NETWORK,
            Pattern.compile(
                    STARTS + ".*\\b(from|over|via)\\W+(the\\W+)?(net|network|tftp|pxe)\\b|\\b(network|pxe|netw?)[- ]"
                            + STARTS,
                    Pattern.CASE_INSENSITIVE)));
    private static final Pattern OF_STARTING = Pattern.compile("\\b" + STARTS + "|install", Pattern.CASE_INSENSITIVE);
    private static final Pattern NOT = Pattern.compile(
            "\\b(fix|mend|correct|repair|revert|remov|disabl|no longer|not|never|slow|timeout|faster|wait)\\w*",
            Pattern.CASE_INSENSITIVE);

    private final Map<LocalDate, List<String>> lines = new TreeMap<>();

    private ReleaseNotes() {}

    static ReleaseNotes in(PackageFiles files) {
        ReleaseNotes notes = new ReleaseNotes();
        files.files().forEach((path, content) -> {
            if (FILE.matcher(path).matches() && content.length <= LARGEST) {
                notes.take(text(path, content));
            }
        });
        return notes;
    }

    private static String text(String path, byte[] content) {
        if (!path.endsWith(".gz")) {
            return new String(content, StandardCharsets.UTF_8);
        }
        try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(content))) {
            return new String(in.readNBytes(LARGEST), StandardCharsets.UTF_8);
        } catch (IOException e) {
            // Notes that cannot be read say nothing.
            return "";
        }
    }

    private void take(String text) {
        if (text.indexOf('\0') >= 0) {
            return;
        }
        LocalDate at = null;
        for (String line : text.split("\\R")) {
            Matcher head = HEAD.matcher(line);
            Optional<LocalDate> date = head.matches() ? PublishedReleases.day(head) : Optional.empty();
            if (date.isPresent()) {
                at = date.get();
                lines.computeIfAbsent(at, each -> new ArrayList<>());
                add(at, head.group(4).replaceFirst("^[\\s:)\\]=*#-]+", ""));
            } else if (at != null) {
                add(at, line);
            }
        }
    }

    private void add(LocalDate at, String line) {
        String plain = line.strip()
                .replaceFirst("^([*+#>-]+|\\d+[.)])\\s+", "")
                .replaceAll("[`*_]{1,2}(\\S.*?)[`*_]{1,2}", "$1")
                .replaceAll("\\p{Cntrl}", " ")
                .strip();
        if (!plain.isEmpty() && !plain.matches("[=\\-#*]+") && !lines.get(at).contains(plain)) {
            lines.get(at).add(plain);
        }
    }

    Optional<LocalDate> newest() {
        return lines.keySet().stream().reduce((first, last) -> last);
    }

    String of(LocalDate version, int longest) {
        String all = String.join(" ", lines.getOrDefault(version, List.of()));
        return all.length() <= longest ? all : all.substring(0, longest).replaceFirst("\\s\\S*$", "") + " …";
    }

    /** What lines of the notes seem to say that a release enables or mends. */
    List<PublishedReleases.Proposal> proposals(Collection<LocalDate> versions) {
        List<PublishedReleases.Proposal> found = new ArrayList<>();
        for (LocalDate version : versions) {
            for (String line : lines.getOrDefault(version, List.of())) {
                List<StartSource> enables = enables(line);
                Matcher mends = MENDS.matcher(line);
                List<String> mended = mends.matches() ? List.of(mends.group(2).replaceFirst("\\.$", "")) : List.of();
                if (!enables.isEmpty() || !mended.isEmpty()) {
                    found.add(new PublishedReleases.Proposal(version, enables, mended, line));
                }
            }
        }
        return List.copyOf(found);
    }

    private static List<StartSource> enables(String line) {
        if (NOT.matcher(line).find()
                || !VERB.matcher(line).find()
                || !OF_STARTING.matcher(line).find()) {
            return List.of();
        }
        List<StartSource> found = new ArrayList<>();
        boolean install = SOURCES.get(StartSource.NETWORK_INSTALL).matcher(line).find();
        SOURCES.forEach((source, pattern) -> {
            boolean is = pattern.matcher(line).find();
            if (is && !(source == StartSource.NETWORK && install)) {
                found.add(source);
            }
        });
        found.sort((one, other) -> one.code().toLowerCase(Locale.ROOT).compareTo(other.code()));
        return List.copyOf(found);
    }
}

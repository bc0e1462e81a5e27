// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a text for a loader sets: names and values, one a line, or a script of {@code setenv} and {@code load} (U-Boot documentation,
 * environment, load, booti). What the values are called: common practice, no source.
 */
final class LoaderText {
    private static final Pattern SET = Pattern.compile("^\\s*(?:setenv\\s+(\\w+)\\s+(.*)|(\\w+)=(.*))$");
    private static final Pattern LOAD =
            Pattern.compile("^\\s*(?:if\\s+)?(?:fat|ext[24])?load\\s+\\S+\\s+\\S+\\s+(\\S+)\\s+(\\S+?);?(?:\\s.*)?$");
    private static final Pattern VARIABLE = Pattern.compile("\\$\\{?(\\w+)\\}?");
    private static final List<String> LINES = List.of("bootargs", "cmdline", "optargs");
    private static final List<String> KERNELS = List.of("kernel_file", "kernel", "image", "bootfile", "kernel_image");
    private static final List<String> TREES = List.of("fdtfile", "fdt_file", "fdt", "dtb", "fdtimage");
    private static final List<String> RAMDISKS = List.of("initrd_file", "ramdisk_file", "initrd", "ramdisk", "rdfile");
    /** What a packed script has before its text: a head of 64 bytes and two lengths, on the first line (U-Boot documentation, image). */
    private static final Pattern PACKED = Pattern.compile("^\\x27\\x05\\x19V[^\\n]*[\\x00-\\x08]");

    private static final int MOST_PASSES = 8;

    private final Map<String, String> values = new LinkedHashMap<>();
    private final Map<String, Integer> places = new LinkedHashMap<>();
    private String kernel;
    private String tree;
    private String ramdisk;

    private LoaderText() {}

    /** The one entry it makes; empty where it names neither a line for the kernel nor a kernel. */
    static Optional<StartMenu.Entry> parse(String file) {
        LoaderText text = new LoaderText();
        String[] lines = PACKED.matcher(file).replaceFirst("").split("\n", -1);
        for (int i = 0; i < lines.length; i++) {
            text.line(lines[i], i);
        }
        return text.entry();
    }

    private void line(String line, int number) {
        if (line.strip().startsWith("#")) {
            return;
        }
        Matcher set = SET.matcher(line);
        if (set.matches()) {
            boolean script = set.group(1) != null;
            String name = script ? set.group(1) : set.group(3);
            String value = script ? set.group(2) : set.group(4);
            values.put(name, unquoted(value));
            places.put(name, number);
            return;
        }
        Matcher load = LOAD.matcher(line);
        if (load.matches()) {
            String address = load.group(1);
            String path = load.group(2);
            if (address.contains("fdt")) {
                tree = path;
            } else if (address.contains("ramdisk") || address.contains("initrd") || address.contains("rdaddr")) {
                ramdisk = path;
            } else if (address.contains("kernel") || address.contains("loadaddr")) {
                kernel = path;
            }
        }
    }

    /** A carriage return belongs to the last word, as in a plain line. */
    private static String unquoted(String value) {
        String plain = value.stripTrailing().isEmpty() ? "" : value;
        boolean quoted = plain.length() > 1
                && (plain.startsWith("\"") || plain.startsWith("'"))
                && plain.strip().endsWith(plain.substring(0, 1));
        return quoted ? plain.strip().substring(1, plain.strip().length() - 1) : plain;
    }

    private Optional<StartMenu.Entry> entry() {
        Optional<String> named = LINES.stream()
                .filter(name -> expanded(values.getOrDefault(name, "")).contains("root="))
                .findFirst()
                .or(() -> LINES.stream().filter(values::containsKey).findFirst());
        Optional<String> image = Optional.ofNullable(kernel).or(() -> first(KERNELS));
        if (named.isEmpty() && image.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new StartMenu.Entry(
                "",
                known(image),
                known(Optional.ofNullable(tree).or(() -> first(TREES))),
                known(Optional.ofNullable(ramdisk).or(() -> first(RAMDISKS))),
                named.map(values::get).map(this::expanded),
                named.map(places::get).stream().toList()));
    }

    private Optional<String> first(List<String> names) {
        return names.stream()
                .map(values::get)
                .filter(value -> value != null && !value.isBlank())
                .map(String::strip)
                .findFirst();
    }

    /** A name that only the loader knows is none that could be looked for. */
    private Optional<String> known(Optional<String> path) {
        return path.map(this::expanded).filter(each -> each.indexOf('$') < 0);
    }

    /** Names of its own in the place they stand for; others, which the loader knows, stay. */
    private String expanded(String value) {
        String text = value;
        for (int pass = 0; pass < MOST_PASSES && text.indexOf('$') >= 0; pass++) {
            String before = text;
            text = VARIABLE.matcher(text)
                    .replaceAll(match -> Matcher.quoteReplacement(
                            values.getOrDefault(match.group(1), match.group()).strip()));
            if (text.equals(before) || text.length() > (1 << 16)) {
                break;
            }
        }
        return text;
    }
}

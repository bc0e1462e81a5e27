// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.kernelline;

import exordium.core.board.BoardProfile;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A menu file and the entry that is taken: the one its default names, else the first (U-Boot documentation, extlinux.conf), or
 * the single entry of a file (Boot Loader Specification, type 1, in which "options" may stand more than once and count
 * together).
 */
public record StartMenu(List<Entry> entries, Optional<String> wanted) {

    /**
     * One entry; names of files as they stand there.
     *
     * @param parameters the line for the kernel; empty where none stands there
     * @param lines numbers of the lines the parameters stand on, from 0
     */
    public record Entry(
            String label,
            Optional<String> kernel,
            Optional<String> tree,
            Optional<String> initramfs,
            Optional<String> parameters,
            List<Integer> lines) {}

    /** The entry that is started; empty in a menu without any. */
    public Optional<Entry> chosen() {
        return wanted.flatMap(name -> entries.stream()
                        .filter(entry -> entry.label().equals(name))
                        .findFirst())
                .or(() -> entries.stream().findFirst());
    }

    public static StartMenu parse(String file, BoardProfile.KernelLineForm form) {
        return switch (form) {
            case OPTIONS -> single(file);
            case ENVIRONMENT ->
                LoaderText.parse(file)
                        .map(entry -> new StartMenu(List.of(entry), Optional.empty()))
                        .orElse(new StartMenu(List.of(), Optional.empty()));
            default -> labelled(file);
        };
    }

    private static StartMenu single(String file) {
        Building entry = new Building("");
        boolean any = false;
        String[] lines = file.split("\n", -1);
        for (int i = 0; i < lines.length; i++) {
            any |= entry.take(lines[i], i, "linux", "devicetree", "options", true);
        }
        return new StartMenu(any ? List.of(entry.built()) : List.of(), Optional.empty());
    }

    private static StartMenu labelled(String file) {
        List<Building> found = new ArrayList<>();
        Optional<String> wanted = Optional.empty();
        String[] lines = file.split("\n", -1);
        for (int i = 0; i < lines.length; i++) {
            String[] words = lines[i].strip().split("\\s+", 2);
            String word = words[0].toLowerCase(Locale.ROOT);
            if (word.equals("label") && words.length > 1) {
                found.add(new Building(words[1].strip()));
            } else if (word.equals("default") && words.length > 1) {
                wanted = Optional.of(words[1].strip());
            } else {
                if (found.isEmpty() && List.of("kernel", "linux", "append").contains(word)) {
                    found.add(new Building(""));
                }
                if (!found.isEmpty()) {
                    found.get(found.size() - 1).take(lines[i], i, "kernel", "fdt", "append", false);
                }
            }
        }
        return new StartMenu(found.stream().map(Building::built).toList(), wanted);
    }

    /** An entry while its lines are read. */
    private static final class Building {
        private final String label;
        private String kernel;
        private String tree;
        private String initramfs;
        private String parameters;
        private final List<Integer> lines = new ArrayList<>();

        Building(String label) {
            this.label = label;
        }

        /** Whether the line was one of an entry. */
        boolean take(String line, int number, String kernelWord, String treeWord, String lineWord, boolean adds) {
            String[] words = line.strip().split("\\s+", 2);
            String word = words[0].toLowerCase(Locale.ROOT);
            // Only the ends of a name are cut; a carriage return belongs to the last word of a line of parameters.
            String rest = words.length > 1 ? words[1].strip() : "";
            if (word.equals(kernelWord) || word.equals("linux")) {
                kernel = rest;
            } else if (word.equals(treeWord) || word.equals("devicetree")) {
                tree = rest;
            } else if (word.equals("initrd")) {
                initramfs = rest;
            } else if (word.equals(lineWord)) {
                boolean joins = adds && parameters != null;
                parameters = joins ? parameters + " " + rest : rest;
                if (!joins) {
                    lines.clear();
                }
                lines.add(number);
            } else {
                return word.equals("title");
            }
            return true;
        }

        Entry built() {
            return new Entry(
                    label,
                    Optional.ofNullable(kernel),
                    Optional.ofNullable(tree),
                    Optional.ofNullable(initramfs),
                    Optional.ofNullable(parameters),
                    List.copyOf(lines));
        }
    }
}

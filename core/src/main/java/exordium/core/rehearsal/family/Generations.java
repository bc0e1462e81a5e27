// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.family;

import exordium.core.board.BoardProfiles;
import exordium.core.board.NamePattern;
import exordium.core.finding.UnknownName;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The generations of boards that one image starts, by the names of its trees: which of them is meant, and what is none of its own. */
final class Generations {
    /** A tree in its root, up to its first number: its generation. */
    private static final Pattern TREE = Pattern.compile("(?:boot/)?([^/0-9]*[0-9]+)[^/]*\\.dtb");

    private final StartTree tree;

    Generations(StartTree tree) {
        this.tree = tree;
    }

    /**
     * Leaves out trees and kernels of other generations.
     *
     * @return the one that was kept; empty where there are no two
     */
    Optional<String> keepOne(BoardProfiles known, Optional<String> like, Optional<String> wanted) throws IOException {
        Map<String, List<String>> groups = new TreeMap<>();
        for (String name : tree.names().toList()) {
            Matcher found = TREE.matcher(name.toLowerCase(Locale.ROOT));
            if (found.matches()) {
                groups.computeIfAbsent(found.group(1), each -> new ArrayList<>())
                        .add(name);
            }
        }
        List<String> all = List.copyOf(groups.keySet());
        if (wanted.isPresent() && !all.contains(wanted.get())) {
            throw new UnknownName(
                    "It starts no generation \"" + wanted.get() + "\""
                            + (all.isEmpty()
                                    ? "; it holds no device trees that tell."
                                    : "; there " + (all.size() == 1 ? "is " : "are ") + String.join(", ", all) + "."),
                    wanted.get(),
                    all);
        }
        if (all.size() < 2) {
            return Optional.empty();
        }
        String one = wanted.isPresent() ? wanted.get() : likeOne(groups, known, like);
        groups.forEach((generation, trees) -> {
            if (!generation.equals(one)) {
                tree.leaveOut(trees);
                tree.leaveOut(name -> isKernelOf(name, generation, one));
            }
        });
        return Optional.of(one);
    }

    /** The one that the family it begins with has trees of. */
    private static String likeOne(Map<String, List<String>> groups, BoardProfiles known, Optional<String> like)
            throws IOException {
        List<String> fitting = new ArrayList<>();
        if (like.isPresent()) {
            List<String> patterns = known.require(like.get()).startFiles().deviceTrees();
            groups.forEach((generation, trees) -> {
                if (trees.stream()
                        .anyMatch(tree -> patterns.stream().anyMatch(each -> NamePattern.isLike(tree, each)))) {
                    fitting.add(generation);
                }
            });
        }
        if (fitting.size() != 1) {
            throw new SeveralGenerations(List.copyOf(groups.keySet()));
        }
        return fitting.get(0);
    }

    /** A kernel that bears the number of another generation, and not of this. */
    private static boolean isKernelOf(String name, String other, String one) {
        String plain = name.toLowerCase(Locale.ROOT).replaceFirst("^boot/", "");
        return plain.matches("[^/]*(kernel|image|linuz)[^/]*") && bears(plain, other) && !bears(plain, one);
    }

    private static boolean bears(String name, String generation) {
        String number = generation.replaceFirst("^.*?(\\d+)$", "$1");
        return name.matches(".*(?<!\\d)" + number + "(?!\\d).*");
    }
}

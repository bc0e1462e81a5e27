// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;

/** The lines of a text while its parsers go over it: which of them belong to something, and what they tell. */
final class Page {
    private final List<String> lines;
    private final Set<Integer> claimed = new TreeSet<>();
    private final List<Fact> facts = new ArrayList<>();
    private final Set<String> kinds = new LinkedHashSet<>();
    private String kind = "";
    private boolean ofPc;

    Page(List<String> lines) {
        this.lines = lines;
    }

    void under(TextParser parser) {
        kind = parser.kind();
    }

    int size() {
        return lines.size();
    }

    /** Where number: from 1. */
    String line(int number) {
        return lines.get(number - 1);
    }

    boolean isFree(int number) {
        return !claimed.contains(number);
    }

    boolean holds(Pattern pattern) {
        return lines.stream().anyMatch(line -> pattern.matcher(line).matches());
    }

    /** Whether it is a list of what a kernel has mounted: that has its own file systems in it, which no fstab of a board has all. */
    boolean holdsKernelMounts() {
        return lines.stream().anyMatch(line -> line.startsWith("proc /proc proc rw"))
                && lines.stream().anyMatch(line -> line.startsWith("sysfs /sys sysfs r"));
    }

    /** This line belongs to this kind of text. */
    void claim(int number) {
        claimed.add(number);
        kinds.add(kind);
    }

    /** The same of a line that is only around it, such as a prompt. */
    void passOver(int number) {
        claimed.add(number);
    }

    void board(String fact, Object value, int number) {
        add(new Fact(fact, value, number, Fact.Whose.BOARD, Optional.empty()));
    }

    void medium(String fact, Object value, int number, Optional<String> device) {
        add(new Fact(fact, value, number, Fact.Whose.MEDIUM, device));
    }

    void pc(String fact, Object value, int number) {
        add(new Fact(fact, value, number, Fact.Whose.PC, Optional.empty()));
    }

    private void add(Fact fact) {
        claim(fact.line());
        if (fact.value() instanceof Map<?, ?> fields && seen(fact, fields)) {
            return;
        }
        boolean told = facts.stream()
                .anyMatch(each -> each.fact().equals(fact.fact())
                        && each.value().equals(fact.value())
                        && each.name().equals(fact.name())
                        && !(each.value() instanceof Map));
        if (!told) {
            facts.add(fact);
        }
    }

    /** Several tools tell of the same drive or mount: once is enough, and of mounts the one with its room. */
    private boolean seen(Fact fact, Map<?, ?> fields) {
        List<String> keys =
                switch (fact.fact()) {
                    case "drive" -> List.of("name");
                    case "mount" -> List.of("device", "at");
                    default -> List.of();
                };
        if (keys.isEmpty()) {
            return false;
        }
        Optional<Fact> before = facts.stream()
                .filter(each -> each.fact().equals(fact.fact())
                        && each.value() instanceof Map<?, ?> known
                        && keys.stream().allMatch(key -> Objects.equals(known.get(key), fields.get(key))))
                .findFirst();
        boolean richer = before.isPresent()
                && fields.get("bytes") != null
                && before.get().value() instanceof Map<?, ?> known
                && known.get("bytes") == null;
        if (richer) {
            facts.remove(before.get());
        }
        return before.isPresent() && !richer;
    }

    /** It shows what only a PC shows. */
    void isOfPc() {
        ofPc = true;
    }

    boolean ofPc() {
        return ofPc;
    }

    List<Fact> facts() {
        return facts;
    }

    Set<String> kinds() {
        return kinds;
    }

    List<Integer> unread() {
        List<Integer> unread = new ArrayList<>();
        for (int i = 1; i <= lines.size(); i++) {
            if (isFree(i) && !line(i).isBlank()) {
                unread.add(i);
            }
        }
        return unread;
    }
}

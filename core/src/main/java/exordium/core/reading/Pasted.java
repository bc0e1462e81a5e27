// SPDX-License-Identifier: Apache-2.0
package exordium.core.reading;

import exordium.core.access.Sighting;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a pasted text tells.
 *
 * @param kinds of texts it holds
 * @param facts in the order of their lines
 * @param unread lines that belong to none, each as it stands, without what would paint a terminal
 * @param hosts names of machines whose prompts stand in it
 */
public record Pasted(List<String> kinds, List<Fact> facts, List<Unread> unread, Set<String> hosts) {
    /** A line nobody knows. */
    public record Unread(int line, String text) {}

    private static final Pattern PROMPT = Pattern.compile(
            "^[a-z_][a-z0-9_.-]{0,31}@([A-Za-z0-9][A-Za-z0-9.-]{0,62}):\\S{0,200}\\s?[#$]( .{0,500})?$");
    private static final Pattern ONLY_COMMAND = Pattern.compile("^[#$] (?:sudo )?[a-z0-9./_-]+( .{0,500})?$");

    /** What the script that is run at a board prints around each answer. */
    private static final Pattern MARK =
            Pattern.compile("^== .{2,200} ==$|^" + BoardScript.BEGIN + "$|^" + BoardScript.END + "$");

    private static final List<TextParser> PARSERS = List.of(
            new AskedTexts(),
            new DriveTexts(),
            new MountTexts(),
            new KernelTexts(),
            new BoardTexts(),
            new BusTexts(),
            new PaceTexts(),
            new HealthTexts(),
            new NetworkTexts());

    /** @throws UnreadableInput when it is empty, binary, or larger than anything somebody pastes */
    public static Pasted of(byte[] text) throws UnreadableInput {
        List<String> lines = PlainLines.of(text);
        Page page = new Page(lines);
        Set<String> hosts = new LinkedHashSet<>();
        for (int i = 1; i <= lines.size(); i++) {
            Matcher prompt = PROMPT.matcher(lines.get(i - 1).strip());
            if (prompt.matches()) {
                hosts.add(prompt.group(1));
                page.passOver(i);
            } else if (ONLY_COMMAND.matcher(lines.get(i - 1).strip()).matches()
                    || MARK.matcher(lines.get(i - 1).strip()).matches()) {
                page.passOver(i);
            }
        }
        for (int i = 1; i < lines.size(); i++) {
            String next = lines.get(i).strip();
            boolean named = AskedTexts.command(lines.get(i - 1))
                    .filter("hostname"::equals)
                    .isPresent();
            if (named && next.matches("[A-Za-z0-9][A-Za-z0-9.-]{0,62}")) {
                hosts.add(next);
                page.passOver(i + 1);
            }
        }
        for (TextParser parser : PARSERS) {
            page.under(parser);
            parser.read(page);
        }
        List<Fact> facts = new ArrayList<>(page.facts());
        facts.sort(Comparator.comparingInt(Fact::line));
        return new Pasted(
                List.copyOf(page.kinds()),
                facts.stream()
                        .map(each -> page.ofPc() && each.of() == Fact.Whose.BOARD ? each.of(Fact.Whose.PC) : each)
                        .toList(),
                page.unread().stream()
                        .map(number -> new Unread(number, lines.get(number - 1)))
                        .toList(),
                hosts);
    }

    /** The only value told of this. */
    public Optional<String> only(String fact) {
        List<String> values = facts.stream()
                .filter(each -> each.fact().equals(fact) && each.of() == Fact.Whose.BOARD)
                .map(each -> String.valueOf(each.value()))
                .distinct()
                .toList();
        return values.size() == 1 ? Optional.of(values.get(0)) : Optional.empty();
    }

    /** What of it one look at a board of this family would show. */
    public Sighting sighting(BoardProfile profile) {
        return new Sighting(
                only("firmwareDate").map(LocalDate::parse),
                only(profile.order().fuse().isPresent() ? "fuseRegister" : "order"),
                only("rootDevice"),
                only("startDevice").filter(port -> profile.port(port).isPresent()),
                Optional.empty());
    }
}

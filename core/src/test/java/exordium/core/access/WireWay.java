// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A third way, of the tests alone: the board answers in a file of lines such as {@code firmware=2026-09-02} beside its own. All that is
 * needed for it is this file and its line among the services.
 */
public final class WireWay implements BoardWay {
    @Override
    public String code() {
        return "test-wire";
    }

    @Override
    public String said() {
        return "by wire";
    }

    @Override
    public String meaning() {
        return "by wire: it is read when asked, and I act at it";
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of(Ability.LOOK);
    }

    @Override
    public BoardReading reading(BoardPlace place) {
        return () -> look(answers(place));
    }

    @Override
    public BoardDeeds deeds(BoardPlace place) {
        return new PutDown(place.file());
    }

    /** Where the board of that chip answers. */
    private static Path answers(BoardPlace place) {
        return place.chip()
                .resolveSibling(String.valueOf(place.chip().getFileName()).replace(".chip", ".wire"));
    }

    private static Sighting look(Path answers) throws IOException {
        if (!Files.exists(answers)) {
            throw new UnreadableInput("The wire is silent.");
        }
        Map<String, String> facts = new HashMap<>();
        for (String line : Files.readAllLines(answers)) {
            int at = line.indexOf('=');
            facts.put(line.substring(0, at), line.substring(at + 1));
        }
        return new Sighting(
                Optional.ofNullable(facts.get("firmware")).map(LocalDate::parse),
                Optional.ofNullable(facts.get("order")),
                Optional.ofNullable(facts.get("root")),
                Optional.empty(),
                Optional.empty());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import exordium.cli.common.ExitCode;
import exordium.core.passage.Deed;
import exordium.core.passage.Wish;
import exordium.core.testing.DiskBuilder;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.LoopCard;
import exordium.core.testing.Needs;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Wishes, ways, parts and house rules by command, over one demo workspace; each test that changes something has a board of its own. */
class PassageCommandsTest {
    @TempDir
    static Path folder;

    private static Terminal terminal;

    @BeforeAll
    static void demo() {
        terminal = Terminal.ofDemo(folder.resolve("demo"));
    }

    private static JsonNode json(String... words) {
        Terminal.Ran ran = terminal.json(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isZero();
        return ran.json();
    }

    private static String ends(int code, String... words) {
        Terminal.Ran ran = terminal.json(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isEqualTo(code);
        assertThat(ran.err()).doesNotContain("Exception");
        return ran.sentence();
    }

    private static List<String> texts(JsonNode list, String field) {
        List<String> texts = new ArrayList<>();
        list.forEach(each -> texts.add(each.path(field).asText()));
        return texts;
    }

    @Test
    void eachWishIsNamedWithWhatItTakes() {
        JsonNode wishes = json("passage", "wishes", "ticket-desk");
        assertThat(texts(wishes, "wish"))
                .containsExactlyElementsOf(
                        Arrays.stream(Wish.Kind.values()).map(Wish.Kind::code).toList());
    }

    @Test
    void aWayNamesItsStepsAndWhatTheyCome() {
        JsonNode plan = json("passage", "plan", "ticket-desk", "to-usb-ssd");
        assertThat(plan.get("routes")).hasSizeBetween(1, 3);
        List<String> deeds = Arrays.stream(Deed.values()).map(Deed::code).toList();
        for (JsonNode route : plan.get("routes")) {
            long written = StreamSupport.stream(route.get("steps").spliterator(), false)
                    .mapToLong(step -> step.get("bytesWritten").asLong())
                    .sum();
            assertThat(written).isEqualTo(route.get("bytesWritten").asLong()).isPositive();
            assertThat(texts(route.get("steps"), "deed")).isSubsetOf(deeds);
            assertThat(texts(route.get("steps"), "id")).doesNotHaveDuplicates();
            assertThat(texts(route.get("steps"), "at")).containsOnly("pc", "board");
            assertThat(texts(route.get("steps"), "proves")).doesNotContain("");
            assertThat(route.get("ends").get("outcome").asText()).isEqualTo("running");
            assertThat(route.get("ends").get("rootFrom").asText()).startsWith("usb");
            assertThat(route.get("buy").isEmpty()).isEqualTo(route.get("cost").asDouble() == 0);
        }
    }

    @Test
    void whatIsLeftOutIsNeitherUsedNorBought() {
        JsonNode plan = json(
                "passage", "plan", "ticket-desk", "to-usb-ssd", "--without", "enclosure", "--without", "spare-ssd-240");
        String all = plan.get("routes").toString();
        assertThat(all)
                .doesNotContain("enclosure")
                .doesNotContain("spare-ssd-240")
                .contains("\"buy\"");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "plan", "ticket-desk", "to-usb-ssd", "--without", "enclosur"))
                .contains("enclosure");
    }

    @Test
    void noWayAndNothingToDoAreToldApart() {
        Terminal.Ran none = terminal.json("passage", "plan", "ticket-desk", "to-nvme");
        assertThat(none.code()).isEqualTo(ExitCode.REFUSED);
        assertThat(none.out() + none.err()).contains("no port for NVMe");
        JsonNode nothing = json("passage", "plan", "ticket-desk", "new-board");
        assertThat(nothing.get("routes")).isEmpty();
        assertThat(nothing.get("reason").asText()).contains("runs already");
    }

    @Test
    void whatIsMistypedIsAnsweredWithTheNearest() {
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "plan", "ticket-desk", "to-usb-sd"))
                .contains("to-usb-ssd");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "plan", "ticket-dusk", "spare"))
                .contains("ticket-desk");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "plan", "ticket-desk", "order"))
                .contains("order=");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "plan", "ticket-desk", "batch=many"))
                .contains("batch=4");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "stop", "tide-clock")).contains("No passage is under way");
        assertThat(ends(ExitCode.BAD_INPUT, "parts", "have", "keybord")).contains("keyboard");
    }

    @Test
    void aPassageIsBegunGoneThroughAndLeft() throws Exception {
        String board = "store-room-spare";
        json("passage", "start", board, "new-board");
        JsonNode shown = json("passage", "show", board).get("passages").get(0);
        assertThat(shown.get("state").asText()).isEqualTo("under-way");
        JsonNode next = shown.get("steps").get(0);
        assertThat(next.get("state").asText()).isEqualTo("next");
        String step = next.get("id").asText();
        String name = next.get("confirm").asText();
        assertThat(ends(ExitCode.REFUSED, "passage", "done", step, "--board", board, "--confirm", "other.img"))
                .contains(name);
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "done", step + "x", "--board", board))
                .contains(step);
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "done", step, "--board", board, "--saw", "rot=x"))
                .contains("rootDevice");
        json("passage", "done", step, "--board", board, "--confirm", name);
        shown = json("passage", "show", board).get("passages").get(0);
        assertThat(texts(shown.get("steps"), "state")).startsWith("done", "next");
        assertThat(ends(ExitCode.BAD_INPUT, "passage", "start", board, "spare")).contains("on its way already");
        assertThat(json("passage", "anew", board)
                        .get("passages")
                        .get(0)
                        .get("changed")
                        .asText())
                .contains("Planned anew");
        Path card = folder.resolve("card.pdf");
        json("passage", "card", board, "--to", card.toString());
        assertThat(Files.readString(card, java.nio.charset.StandardCharsets.ISO_8859_1))
                .startsWith("%PDF");
        assertThat(json("passage", "stop", board)
                        .get("passages")
                        .get(0)
                        .get("state")
                        .asText())
                .isEqualTo("stopped");
    }

    @Test
    void partsAtHandAndWhatHasToBeBought() {
        assertThat(texts(json("parts", "list"), "id")).contains("reader", "cooler");
        json("parts", "have", "cooler");
        assertThat(part("cooler").get("atHand").asBoolean()).isTrue();
        json("parts", "lack", "cooler");
        assertThat(part("cooler").get("atHand").asBoolean()).isFalse();
        json("passage", "start", "tide-clock", "to-larger");
        JsonNode bought =
                json("passage", "show", "tide-clock").get("passages").get(0).get("steps");
        List<String> wanted = StreamSupport.stream(bought.spliterator(), false)
                .filter(step -> step.get("deed").asText().equals("buy"))
                .map(step -> step.get("id").asText().substring("buy-".length()))
                .toList();
        assertThat(texts(json("parts", "shopping").get("things"), "thing")).containsAll(wanted);
        assertThat(json("parts", "shopping").get("cost").asDouble() > 0).isEqualTo(!wanted.isEmpty());
        json("passage", "stop", "tide-clock");
    }

    private static JsonNode part(String id) {
        return StreamSupport.stream(json("parts", "list").spliterator(), false)
                .filter(each -> each.get("id").asText().equals(id))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void houseRulesAreSetByTheirNames() {
        assertThat(texts(json("rules", "list"), "name")).contains("pcie", "weigh-euro");
        json("rules", "set", "weigh-euro", "2");
        JsonNode rule = StreamSupport.stream(json("rules", "list").spliterator(), false)
                .filter(each -> each.get("name").asText().equals("weigh-euro"))
                .findFirst()
                .orElseThrow();
        assertThat(rule.get("value").asText()).startsWith("2");
        assertThat(ends(ExitCode.BAD_INPUT, "rules", "set", "weigh-euro", "much"))
                .contains("weigh-euro");
        assertThat(ends(ExitCode.BAD_INPUT, "rules", "set", "weigh-eura", "2")).contains("weigh-euro");
        json("rules", "set", "weigh-euro", "1");
    }

    /** A card that nothing but its size tells, pulled out and put back between the steps: each of them is a call of its own. */
    @Test
    void aCardOfOnesOwnGoesTheWholeWay() throws Exception {
        Path own = Files.createDirectories(folder.resolve("own"));
        Terminal mine = new Terminal(own.resolve("house"));
        try (LoopCard card = new LoopCard(own, 200 * DiskBuilder.MIB)) {
            Needs.here(card.isThere(), "no loop devices here");
            Path image = new DiskBuilder(own).id("0c4d0c5b").build("system.img");
            good(mine, "workspace", "new", "--name", "Mine");
            good(mine, "board", "new", "Attic", "--profile", "plover-4", "--memory", "4 GB", "--reach", "by-hand");
            good(mine, "shelf", "image", image.toString());
            good(mine, "medium", "take", card.name(), "--name", "Attic card", "--allow-real-drives");
            good(mine, "passage", "start", "attic", "new-board", "--allow-real-drives");
            Terminal.Ran far =
                    mine.run("passage", "done", "write-attic-card", "--confirm", "nothing", "--allow-real-drives");
            assertThat(far.code()).isEqualTo(ExitCode.REFUSED);
            good(mine, "passage", "done", "write-attic-card", "--confirm", card.name(), "--allow-real-drives");
            for (String step : List.of("set-up-attic-card", "plug-attic-card", "power-on")) {
                good(mine, "passage", "done", step, "--allow-real-drives");
            }
            assertThat(mine.run("passage", "done", "look").code()).isEqualTo(ExitCode.BAD_INPUT);
            Terminal.Ran seen = mine.json("passage", "done", "look", "--saw", "startDevice=card");
            assertThat(seen.json().get("passages").get(0).get("state").asText()).isEqualTo("done");
            assertThat(GeneralTools.run("mdir", "-b", "-i", card.backing() + "@@" + 4 * DiskBuilder.MIB, "::"))
                    .containsIgnoringCase("::/ssh");
        }
    }

    private static void good(Terminal mine, String... words) {
        Terminal.Ran ran = mine.run(words);
        assertThat(ran.code()).as(String.join(" ", words) + ": " + ran.err()).isZero();
    }
}

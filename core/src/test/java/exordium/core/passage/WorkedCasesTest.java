// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;

/** The cases of passages.txt, written down before the plan was asked; the plan agrees. */
class WorkedCasesTest {
    private static final int LEAST_CASES = 12;

    private static List<Map<String, String>> cases() throws IOException {
        String text;
        try (InputStream in = WorkedCasesTest.class.getResourceAsStream("/exordium/passages.txt")) {
            text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        List<Map<String, String>> cases = new ArrayList<>();
        for (String paragraph : text.split("\n\\s*\n")) {
            Map<String, String> one = new HashMap<>();
            paragraph.lines().filter(line -> !line.startsWith("#")).forEach(line -> {
                String[] parts = line.split("\\s+", 2);
                one.put(parts[0], parts[1].strip());
            });
            if (!one.isEmpty()) {
                cases.add(one);
            }
        }
        return cases;
    }

    @Test
    void thePlanDoesWhatAGoodPractitionerDoes() throws IOException {
        Houses houses = Houses.made();
        List<Map<String, String>> cases = cases();
        assertThat(cases).hasSizeGreaterThanOrEqualTo(LEAST_CASES);
        SoftAssertions soft = new SoftAssertions();
        for (Map<String, String> one : cases) {
            PassagePlan plan =
                    PassagePlan.of(facts(houses, one), Wish.parse(one.get("wish")), PassagePlan.Given.NOTHING);
            String name = one.get("case");
            soft.assertThat(does(plan)).as(name + " " + plan.reason()).isEqualTo(one.get("does"));
            if (one.containsKey("ends") && !plan.routes().isEmpty()) {
                Route route = plan.routes().get(0);
                soft.assertThat(
                                route.end().board().on()
                                        ? route.ends().rootFrom().orElse("nowhere")
                                        : "off")
                        .as(name)
                        .isEqualTo(one.get("ends"));
            }
        }
        soft.assertAll();
    }

    private static String does(PassagePlan plan) {
        if (plan.routes().isEmpty()) {
            return plan.possible() ? "nothing" : "none";
        }
        return String.join(
                " ",
                plan.routes().get(0).steps().stream()
                        .map(step -> step.deed().code() + thing(step))
                        .toList());
    }

    private static String thing(Step step) {
        return switch (step.deed()) {
            case RESTART, POWER_OFF, POWER_ON, LOOK, TELL -> "";
            default -> step.medium().or(step::value).map(each -> "/" + each).orElse("");
        };
    }

    private static PassageFacts facts(Houses houses, Map<String, String> one) {
        String[] board = one.get("board").split("\\s+");
        Houses.House house = houses.house(board[0]).order(board[1]).firmware(board[2]);
        List<String> marks = List.of(board).subList(3, board.length);
        if (marks.contains("shut")) {
            house.slotShut();
        }
        if (marks.contains("overlay")) {
            house.overlay();
        }
        if (one.containsKey("in")) {
            String[] in = one.get("in").split("\\s+");
            house.in(in[0], in[1], Long.parseLong(in[2]), in.length < 4);
        }
        for (String each : words(one, "have")) {
            String[] parts = each.split(":");
            house.drawer(parts[0], parts[1], Long.parseLong(parts[2]));
        }
        for (String each : words(one, "shop")) {
            String[] parts = each.split(":");
            house.shop(parts[0], parts[1], Long.parseLong(parts[2]), Double.parseDouble(parts[3]));
        }
        house.parts(words(one, "parts").toArray(new String[0]));
        List<String> also = words(one, "also");
        if (also.contains("copied")) {
            house.copied();
        }
        house.without(also.contains("no-images"), also.contains("no-recovery"));
        return house.facts();
    }

    private static List<String> words(Map<String, String> one, String key) {
        return one.containsKey(key) ? List.of(one.get(key).split("\\s+")) : List.of();
    }
}

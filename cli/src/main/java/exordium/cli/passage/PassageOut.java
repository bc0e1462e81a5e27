// SPDX-License-Identifier: Apache-2.0
package exordium.cli.passage;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import exordium.cli.common.StartOut;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Prospect;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** What commands about passages print. */
final class PassageOut {
    private PassageOut() {}

    record WishOut(String wish, String title, boolean possible, Optional<Double> minutes, Optional<String> reason) {
        static WishOut of(Prospect.Offer offer) {
            Optional<PassagePlan> plan = offer.plan();
            return new WishOut(
                    offer.kind().code(),
                    offer.kind().title(),
                    plan.map(PassagePlan::possible).orElse(true),
                    plan.flatMap(each -> each.routes().stream().findFirst())
                            .map(route -> rounded(route.cost().minutes())),
                    plan.map(PassagePlan::reason).filter(reason -> !reason.isEmpty()));
        }

        String line() {
            return wish + ": " + title
                    + minutes.map(each -> ", about " + Math.round(each) + " min")
                            .orElse("")
                    + reason.map(each -> (possible ? ". " : ". Not now: ") + each)
                            .orElse("");
        }
    }

    record StepOut(
            String id,
            String at,
            String deed,
            String text,
            double minutes,
            long bytesWritten,
            List<String> needs,
            String proves,
            Optional<String> caution,
            Optional<String> medium,
            Optional<String> source,
            Optional<String> port,
            Optional<String> value) {
        static StepOut of(Step step) {
            return new StepOut(
                    step.id(),
                    step.deed().place().code(),
                    step.deed().code(),
                    step.text(),
                    rounded(step.cost().minutes()),
                    step.cost().bytesWritten(),
                    step.needs(),
                    step.proves(),
                    step.caution(),
                    step.medium(),
                    step.source(),
                    step.port(),
                    step.value());
        }
    }

    record RouteOut(
            double minutes,
            long bytesWritten,
            int openings,
            double cost,
            List<String> buy,
            List<StepOut> steps,
            StartOut ends) {
        static RouteOut of(Route route) {
            return new RouteOut(
                    rounded(route.cost().minutes()),
                    route.cost().bytesWritten(),
                    route.cost().openings(),
                    route.cost().euros(),
                    route.buy(),
                    route.steps().stream().map(StepOut::of).toList(),
                    StartOut.of(route.ends()));
        }
    }

    record MissingOut(String thing, Optional<Double> wouldSaveMinutes) {}

    record PlanOut(
            String board, String wish, List<RouteOut> routes, List<MissingOut> missing, Optional<String> reason) {
        static PlanOut of(String board, PassagePlan plan) {
            return new PlanOut(
                    board,
                    plan.wish().said(),
                    plan.routes().stream().map(RouteOut::of).toList(),
                    plan.missing().stream()
                            .map(each -> new MissingOut(
                                    each.thing(), each.wouldSaveMinutes().map(PassageOut::rounded)))
                            .toList(),
                    Optional.of(plan.reason()).filter(reason -> !reason.isEmpty()));
        }
    }

    record StandingOut(
            @JsonUnwrapped StepOut step,
            String state,
            Optional<Instant> doneAt,
            String said,
            Optional<String> confirm,
            List<String> tells) {
        static StandingOut of(PassageJob.Standing standing) {
            return new StandingOut(
                    StepOut.of(standing.step()),
                    standing.progress().code(),
                    standing.at(),
                    standing.said(),
                    standing.confirm(),
                    standing.tells().facts());
        }
    }

    record PassageShown(
            String board,
            String wish,
            String state,
            Instant begun,
            Optional<String> changed,
            List<StandingOut> steps) {}

    record PassagesOut(List<PassageShown> passages) {
        static PassagesOut of(List<PassageJob.Shown> shown) {
            return new PassagesOut(shown.stream()
                    .map(each -> new PassageShown(
                            each.board(),
                            each.wish().said(),
                            each.state().code(),
                            each.begun(),
                            Optional.of(each.changed()).filter(why -> !why.isEmpty()),
                            each.steps().stream().map(StandingOut::of).toList()))
                    .toList());
        }
    }

    private static double rounded(double minutes) {
        return Math.round(minutes * 10) / 10.0;
    }

    static List<String> lines(PassagePlan plan) {
        List<String> lines = new ArrayList<>();
        if (plan.routes().isEmpty() && plan.possible()) {
            lines.add(plan.reason());
        }
        int number = 0;
        for (Route route : plan.routes()) {
            lines.add(String.format(
                    Locale.ROOT,
                    "Way %d: %s%s",
                    ++number,
                    route.cost().said(),
                    route.buy().isEmpty()
                            ? ""
                            : String.format(
                                    Locale.ROOT,
                                    ", to buy: %s (%.0f euros)",
                                    String.join(", ", route.buy()),
                                    route.cost().euros())));
            for (Step step : route.steps()) {
                lines.add("  " + step.id() + "  " + step.text());
                step.caution().ifPresent(caution -> lines.add("      " + caution));
            }
            lines.add("  It ends so: " + route.ended(UnaryOperator.identity()));
        }
        plan.missing()
                .forEach(each -> lines.add("With " + each.thing()
                        + each.wouldSaveMinutes()
                                .map(minutes -> " it would take " + Math.round(minutes) + " min less.")
                                .orElse(" there would be a way.")));
        return lines;
    }

    static List<String> lines(PassageJob.Shown shown) {
        List<String> lines = new ArrayList<>();
        lines.add(shown.board() + ", " + shown.wish().said() + ": "
                + shown.state().code()
                + (shown.underWay() ? ", about " + Math.round(shown.minutesLeft()) + " min left" : ""));
        if (!shown.changed().isEmpty()) {
            lines.add("  " + shown.changed());
        }
        shown.steps().forEach(each -> {
            lines.add("  " + each.progress().code() + "  " + each.step().id() + "  "
                    + each.step().text() + (each.said().isEmpty() ? "" : " " + each.said()));
            each.confirm().ifPresent(name -> lines.add("        with --confirm " + name));
        });
        return lines;
    }
}

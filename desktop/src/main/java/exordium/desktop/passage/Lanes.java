// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.passage;

import exordium.core.passage.Deed;
import exordium.core.passage.Route;
import exordium.core.passage.Step;
import exordium.desktop.draw.time.RouteLane;
import exordium.jobs.passage.PassageJob;
import exordium.jobs.passage.Progress;
import java.util.List;

/** Ways and job cards as lanes. */
final class Lanes {
    private Lanes() {}

    static RouteLane of(int number, Route route, double longest) {
        return new RouteLane(
                "Way " + number + ": " + route.cost().said(),
                route.cost().wholeMinutes() + " min",
                route.steps().stream().map(step -> piece(step, false, false)).toList(),
                longest);
    }

    static RouteLane of(PassageJob.Shown shown) {
        List<PassageJob.Standing> counted = shown.steps().stream()
                .filter(each -> each.progress() != Progress.FALLEN)
                .toList();
        double all = counted.stream()
                .mapToDouble(each -> each.step().cost().minutes())
                .sum();
        RouteLane lane = new RouteLane(
                "How far it is: " + shown.done() + " of " + shown.counted() + " steps",
                shown.wholeMinutesLeft() + " min left",
                counted.stream()
                        .map(each ->
                                piece(each.step(), each.progress() == Progress.DONE, each.progress() == Progress.NEXT))
                        .toList(),
                all);
        lane.setId("passage-lane");
        return lane;
    }

    private static RouteLane.Piece piece(Step step, boolean done, boolean next) {
        return new RouteLane.Piece(
                step.cost().minutes(),
                step.deed().place() == Deed.Place.PC,
                step.deed() == Deed.BUY,
                step.cost().openings() > 0,
                done,
                next);
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import exordium.core.rehearsal.Trace;
import java.util.List;
import java.util.Optional;

/** A start as it was worked out. */
public record StartOut(
        String outcome,
        Optional<String> startedFrom,
        Optional<String> rootFrom,
        String cause,
        double seconds,
        boolean reachable,
        String explanation,
        List<EventOut> steps,
        List<Common.FindingOut> findings) {

    /** What happened at one moment of it. */
    public record EventOut(double at, String stage, Optional<String> port, String result, String text) {}

    public static StartOut of(Trace trace) {
        return new StartOut(
                trace.outcome().code(),
                trace.startedFrom(),
                trace.rootFrom(),
                trace.cause().code(),
                trace.seconds(),
                trace.reachable(),
                trace.explanation(),
                trace.steps().stream()
                        .map(each -> new EventOut(
                                Math.round(each.at() * 10) / 10.0,
                                each.stage().code(),
                                each.port(),
                                each.result().code(),
                                each.text()))
                        .toList(),
                Common.out(trace.findings()));
    }
}

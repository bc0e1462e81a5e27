// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.time;

import exordium.core.rehearsal.Trace;
import exordium.desktop.draw.Drawing;
import java.util.Locale;

/** A start as one bar along time, a piece for each attempt, with a break where it ends before running. */
public final class TraceBar extends Drawing {
    /** Width kept free at the end for the outcome. */
    private static final double NAME_ROOM = 166;

    private final Trace trace;
    private final double longest;

    /** Where longest: seconds that the whole width stands for. */
    public TraceBar(String name, Trace trace, double longest) {
        super(
                name + ": "
                        + (trace.runs()
                                ? "running after " + trace.seconds() + " s"
                                : "never, " + trace.cause().code()),
                24);
        standsAlone();
        this.trace = trace;
        this.longest = Math.max(1, longest);
    }

    @Override
    protected void draw(double width, double height) {
        double perSecond = (width - NAME_ROOM) / longest;
        double x = 1;
        for (Trace.Event event : trace.steps()) {
            double wide = Math.max(event.seconds() > 0 ? 2 : 0, event.seconds() * perSecond);
            String fill =
                    switch (event.stage()) {
                        case KERNEL -> "fill-shallow";
                        case SYSTEM, ROOT -> "fill-water";
                        default -> event.result() == Trace.Result.WORKS ? "fill-paper" : "fill-land";
                    };
            if (wide > 0) {
                box(x, 3, wide, 16, fill, trace.runs() ? "line-ink" : "line-magenta");
                if (wide > 44) {
                    String word = event.stage() == Trace.Stage.KERNEL
                            ? "kernel"
                            : event.stage() == Trace.Stage.SYSTEM
                                    ? event.port().filter("network"::equals).orElse("system")
                                    : "";
                    textCentred(x + wide / 2, 15, word, "small");
                }
            }
            x += wide;
        }
        if (trace.runs()) {
            text(x + 8, 15, String.format(Locale.ROOT, "%.1f s", trace.seconds()), "figure");
        } else {
            path("line-magenta", x + 3, 2, x + 9, 9, x + 4, 12, x + 10, 20).setStrokeWidth(2);
            text(x + 16, 15, "never: " + trace.cause().shortText(), "figure", "alarm");
        }
    }
}

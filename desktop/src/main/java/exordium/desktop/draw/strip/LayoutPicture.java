// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.multiboot.LayoutPlan;
import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.Drawing;
import java.util.stream.Collectors;

/** A drive with several systems as it would be, to scale: each part with what goes into it from below, and what stays free. */
public final class LayoutPicture extends Drawing {
    private static final double TOP = 20;
    private static final double TALL = 46;
    private static final double NAME_ROOM = 64;

    private final LayoutPlan.Laid laid;
    private final ByteSize drive;

    public LayoutPicture(LayoutPlan.Laid laid, ByteSize drive) {
        super(said(laid), 88);
        standsAlone();
        this.laid = laid;
        this.drive = drive;
    }

    private static String said(LayoutPlan.Laid laid) {
        return (laid.gpt() ? "GPT: " : "MBR: ")
                + laid.parts().stream()
                        .map(each -> each.name() + " " + each.size().said())
                        .collect(Collectors.joining(", "))
                + ", " + laid.free().said() + " free";
    }

    @Override
    protected void draw(double width, double height) {
        long end = laid.parts().stream().mapToLong(LayoutPlan.Part::end).max().orElse(1);
        double perByte = (width - 2) / Math.max(1.0, Math.max(drive.bytes(), end));
        box(0, TOP, drive.bytes() * perByte, TALL, "fill-paper", "line-ink");
        for (LayoutPlan.Part part : laid.parts()) {
            double from = part.start() * perByte;
            double wide = Math.max(2, part.size().bytes() * perByte);
            double filled = part.size().bytes() == 0
                    ? 0
                    : Math.min(1, (double) part.least().bytes() / part.size().bytes());
            boolean over = part.end() > drive.bytes() || part.least().compareTo(part.size()) > 0;
            box(from, TOP, wide, TALL, "fill-shallow", over ? "line-magenta" : "line-soft");
            box(from, TOP + TALL * (1 - filled), wide, TALL * filled, "fill-water");
            if (wide > NAME_ROOM) {
                text(from + 4, TOP - 6, part.name(), "small", "strong");
                text(from + 4, TOP + TALL + 16, part.size().said(), "figure", "small");
            } else {
                text(from, TOP - 6, String.valueOf(part.number()), "small", "soft");
            }
        }
        line(drive.bytes() * perByte, TOP - 4, drive.bytes() * perByte, TOP + TALL + 4, "line-ink")
                .setStrokeWidth(2);
    }
}

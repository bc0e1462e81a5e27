// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.PartitionContent;
import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.Drawing;
import java.util.Locale;
import java.util.Optional;

/** A drive or image as a strip to scale: partitions with their fill, gaps, and what is being written over it. */
public final class LayoutStrip extends Drawing {
    private final Optional<DriveInspection> content;
    private final ByteSize size;
    private final ByteSize scale;
    private double written;
    private double proven;

    /** Where scale: how many bytes the whole width stands for. */
    public LayoutStrip(String name, Optional<DriveInspection> content, ByteSize size, ByteSize scale) {
        super(
                name + ", " + size.said()
                        + content.map(each -> ", " + each.partitions().size() + " partitions")
                                .orElse(", nothing known of it"),
                58);
        standsAlone();
        this.content = content;
        this.size = size;
        this.scale = scale;
    }

    /** Bytes from the start that are written, and of these, proven. */
    public void tide(ByteSize writtenTo, ByteSize provenTo) {
        written = writtenTo.bytes();
        proven = provenTo.bytes();
        redraw();
    }

    @Override
    protected void draw(double width, double height) {
        double perByte = (width - 2) / Math.max(1.0, scale.bytes());
        double full = Math.max(3, size.bytes() * perByte);
        box(0, 4, full, 36, "fill-paper", "line-ink");
        content.ifPresent(inspection -> inspection.partitions().forEach(each -> partition(each, perByte, full)));
        if (written > 0) {
            box(0, 4, Math.max(2, written * perByte), 36, "fill-water");
            box(0, 4, Math.max(proven > 0 ? 2 : 0, proven * perByte), 36, "fill-ink");
        }
        line(full, 0, full, 44, "line-ink").setStrokeWidth(2);
        textRight(Math.max(full, 60), 55, size.said(), "figure", "soft");
    }

    private void partition(PartitionContent each, double perByte, double full) {
        double from = Math.min(full, each.partition().startByte() * perByte);
        double wide = Math.min(full - from, each.partition().size().bytes() * perByte);
        double share = each.partition().size().bytes() == 0
                ? 0
                : (double) each.used().bytes() / each.partition().size().bytes();
        box(from, 4, wide, 36, "fill-shallow", "line-soft");
        box(from, 4 + 36 * (1 - share), wide, 36 * share, "fill-water");
        if (wide > 150) {
            String label = each.fileSystem().label().isEmpty()
                    ? each.fileSystem().kind().code()
                    : each.fileSystem().label().toLowerCase(Locale.ROOT) + ", "
                            + each.fileSystem().kind().code();
            text(from + 6, 19, label, "small");
            text(
                    from + 6,
                    34,
                    each.used().said() + " of " + each.partition().size().said(),
                    "figure");
        }
    }
}

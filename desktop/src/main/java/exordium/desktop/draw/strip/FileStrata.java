// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.Drawing;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * One file through the copies, newest on top: a layer for each copy, as wide as the file was large, shaded by its content. Where it
 * became another one a thick line lies between; where it was not there the layer is empty.
 */
public final class FileStrata extends Drawing {
    private static final double ROW = 24;
    private static final double DAY = 84;
    private static final double SIZE = 66;
    private static final List<String> SHADES = List.of("fill-deep", "fill-shallow", "fill-water", "fill-land");

    private final List<Layer> layers;

    /**
     * The file in one copy.
     *
     * @param which of its contents, counted from 1; 0 where it was not there
     * @param changed whether it was another one in the copy before
     */
    public record Layer(LocalDate day, Optional<Long> bytes, int which, boolean changed) {}

    /** Where layers: newest first. */
    public FileStrata(List<Layer> layers) {
        super(said(layers), 12 + ROW * layers.size());
        standsAlone();
        this.layers = List.copyOf(layers);
    }

    private static String said(List<Layer> layers) {
        List<String> words = layers.stream()
                .filter(Layer::changed)
                .map(each -> each.day() + " "
                        + each.bytes().map(bytes -> ByteSize.of(bytes).said()).orElse("not there"))
                .toList();
        return layers.size() + " copies; it changed " + words.size() + " times: " + String.join(", ", words);
    }

    @Override
    protected void draw(double width, double height) {
        long most =
                layers.stream().mapToLong(each -> each.bytes().orElse(0L)).max().orElse(1);
        double room = Math.max(20, width - DAY - SIZE - 4);
        double y = 4;
        for (Layer each : layers) {
            text(0, y + 16, each.day().toString(), "figure", "small");
            if (each.which() > 0) {
                double wide = Math.max(3, room * each.bytes().orElse(0L) / Math.max(1, most));
                box(DAY, y + 2, wide, ROW - 4, SHADES.get((each.which() - 1) % SHADES.size()), "line-ink");
                textRight(
                        width - 2, y + 16, ByteSize.of(each.bytes().orElse(0L)).said(), "figure", "soft", "small");
            } else {
                box(DAY, y + 2, room, ROW - 4, "fill-none", "line-faint");
                textRight(width - 2, y + 16, "not there", "soft", "small");
            }
            y += ROW;
            if (each.changed()) {
                line(DAY - 6, y, width - 2, y, "line-deep").setStrokeWidth(2.5);
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.inspection.DriveInspection;
import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.strip.LayoutStrip;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Targets;
import java.util.Optional;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** What is written and what it is written to, to one scale. */
final class TwoStrips extends VBox {
    private static final double ROOM = 80;
    private static final int MOST_TIMES = 12;

    private final VBox above = new VBox(2);
    private final VBox below = new VBox(2);
    private LayoutStrip drawing;
    private Label says = new Label();

    TwoStrips() {
        super(8);
        // Room is kept for strips that are still being read, so that nothing moves under the hand.
        above.setMinHeight(ROOM);
        below.setMinHeight(ROOM);
        getChildren().setAll(above, below);
    }

    void waiting(String title) {
        above.getChildren().setAll(Parts.label("Looking into " + title + " …", "aside"));
        below.getChildren().clear();
    }

    /** One scale for both, but never so that the image cannot be seen: then the target is cut and says so. */
    void show(
            ImageSource from, DriveInspection image, Targets.Target to, String name, Optional<DriveInspection> target) {
        long targetBytes = to.description().size().bytes();
        long shown = Math.min(
                targetBytes,
                Math.max(from.size().bytes() * MOST_TIMES, from.size().bytes()));
        ByteSize scale = ByteSize.of(Math.max(shown, from.size().bytes()));
        above.getChildren()
                .setAll(
                        Parts.row(
                                10,
                                Parts.whole(Parts.label(from.title(), "strong")),
                                Parts.label(
                                        from.container() + ", "
                                                + from.compressed().said() + "  ·  " + from.checksumText() + "  ·  "
                                                + LayoutWords.of(image),
                                        "aside",
                                        "small")),
                        new LayoutStrip(from.title(), Optional.of(image), from.size(), scale));
        String cut = shown < targetBytes ? "  ·  the first " + scale.said() + " shown" : "";
        says = Parts.label(
                to.description().size().exact() + " = "
                        + to.description().size().binary() + cut + "  ·  holds "
                        + target.map(LayoutWords::of).orElse("nothing known"),
                "aside",
                "small");
        drawing = new LayoutStrip(name, target, to.description().size(), scale);
        below.getChildren().setAll(Parts.row(10, Parts.whole(Parts.label(name, "strong")), says), drawing);
    }

    /** How much is written, and how much read back. */
    void tide(ByteSize written, ByteSize readBack) {
        if (drawing != null) {
            drawing.tide(written, readBack);
        }
    }

    /** What was looked into was looked into before it was written. */
    void heldBefore() {
        says.setText(says.getText().replace("  holds ", "  held before: "));
    }
}

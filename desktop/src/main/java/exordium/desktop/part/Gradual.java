// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import java.util.List;
import java.util.function.Supplier;
import javafx.animation.AnimationTimer;
import javafx.scene.Node;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Rows that come in over a few frames, so that the window answers keys in between. */
public final class Gradual {
    private Gradual() {}

    /**
     * Fills a column: the first rows at once, the others so many a frame in the places kept for them. Ends by itself when the
     * column has left the window.
     *
     * @param done called on the interface thread after the last row
     */
    public static void fill(VBox column, List<? extends Supplier<? extends Node>> rows, int aFrame, Runnable done) {
        List<Region> places = rows.stream().map(row -> place()).toList();
        column.getChildren().setAll(places);
        Filling filling = new Filling(column, places, rows, aFrame, done);
        if (filling.more()) {
            filling.start();
        }
    }

    private static Region place() {
        Region place = new Region();
        VBox.setVgrow(place, Priority.SOMETIMES);
        return place;
    }

    private static final class Filling extends AnimationTimer {
        private final VBox column;
        private final List<Region> places;
        private final List<? extends Supplier<? extends Node>> rows;
        private final int aFrame;
        private final Runnable done;
        private int next;
        private boolean seen;

        Filling(
                VBox column,
                List<Region> places,
                List<? extends Supplier<? extends Node>> rows,
                int aFrame,
                Runnable done) {
            this.column = column;
            this.places = places;
            this.rows = rows;
            this.aFrame = aFrame;
            this.done = done;
        }

        /** Puts the next rows in; whether any are left. */
        private boolean more() {
            int end = Math.min(rows.size(), next + aFrame);
            for (; next < end; next++) {
                int at = column.getChildren().indexOf(places.get(next));
                if (at < 0) {
                    // Somebody filled the column anew.
                    return false;
                }
                column.getChildren().set(at, rows.get(next).get());
            }
            if (next == rows.size()) {
                done.run();
            }
            return next < rows.size();
        }

        @Override
        public void handle(long now) {
            boolean shown = column.getScene() != null;
            seen |= shown;
            if ((seen && !shown) || !more()) {
                stop();
            }
        }
    }
}

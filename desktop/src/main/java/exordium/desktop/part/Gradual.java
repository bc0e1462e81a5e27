// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import java.util.List;
import java.util.function.Supplier;
import javafx.animation.AnimationTimer;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Rows that come in over a few frames, so that the window answers keys in between. */
public final class Gradual {
    private static final String UNDER_WAY = "exordium.gradual";

    private Gradual() {}

    /**
     * Fills a pane, so many rows a frame from the next one on, in the places kept for them. What it holds already stays until its
     * successor is there, where there are as many; who had the keys keeps them. Ends by itself when the pane has left the window, or
     * is filled anew.
     *
     * @param done called on the interface thread after the last row
     */
    public static void fill(Pane pane, List<? extends Supplier<? extends Node>> rows, int aFrame, Runnable done) {
        if (pane.getProperties().get(UNDER_WAY) instanceof Filling former) {
            former.stop();
        }
        Filling filling = new Filling(pane, rows, aFrame, done);
        if (pane.getChildren().size() != rows.size()) {
            filling.noteKeys(pane);
            pane.getChildren().setAll(rows.stream().map(row -> place()).toList());
        }
        pane.getProperties().put(UNDER_WAY, filling);
        filling.start();
    }

    /** Whether rows are still to come, in a part of the window or in what it holds. */
    public static boolean underWay(Node part) {
        return part.getProperties().containsKey(UNDER_WAY)
                || (part instanceof Parent holds
                        && holds.getChildrenUnmodifiable().stream().anyMatch(Gradual::underWay));
    }

    private static Region place() {
        Region place = new Region();
        VBox.setVgrow(place, Priority.SOMETIMES);
        return place;
    }

    private static final class Filling extends AnimationTimer {
        private final Pane pane;
        private final List<? extends Supplier<? extends Node>> rows;
        private final int aFrame;
        private final Runnable done;
        private int next;
        private boolean seen;
        private String keysAt;

        Filling(Pane pane, List<? extends Supplier<? extends Node>> rows, int aFrame, Runnable done) {
            this.pane = pane;
            this.rows = rows;
            this.aFrame = aFrame;
            this.done = done;
        }

        /** Puts the next rows in; whether any are left. */
        private boolean more() {
            if (pane.getChildren().size() != rows.size()) {
                // Somebody put something else there.
                return false;
            }
            int end = Math.min(rows.size(), next + aFrame);
            for (; next < end; next++) {
                noteKeys(pane.getChildren().get(next));
                Node now = rows.get(next).get();
                pane.getChildren().set(next, now);
                keysTo(now);
            }
            if (next == rows.size()) {
                keysTo(pane);
                done.run();
            }
            return next < rows.size();
        }

        private void noteKeys(Node goes) {
            if (goes.isFocusWithin()) {
                keysAt = goes.getScene().getFocusOwner().getId();
            }
        }

        /** Who had the keys may stand somewhere else now. */
        private void keysTo(Node within) {
            Node again = keysAt == null ? null : within.lookup("#" + keysAt);
            if (again != null) {
                again.requestFocus();
                keysAt = null;
            }
        }

        @Override
        public void handle(long now) {
            boolean shown = pane.getScene() != null;
            seen |= shown;
            if ((seen && !shown) || !more()) {
                stop();
            }
        }

        @Override
        public void stop() {
            super.stop();
            pane.getProperties().remove(UNDER_WAY, this);
        }
    }
}

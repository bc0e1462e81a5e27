// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.part;

import javafx.scene.Node;

/**
 * What fills the middle of the window while one is at its place. The shell makes it, tells it of new facts, and closes it when it
 * is left; then nothing of it listens any more.
 */
public interface Page extends Visited {
    Node root();

    /** Everything was read anew; what is being looked at and typed stays. */
    void facts();
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.io.IOException;

/**
 * A board the user acts at. What is staged is what is meant to be set there; restarting and switching off are the user's, and change
 * nothing here: what came of them is told.
 */
public final class BoardByHand extends BoardOnFile {
    public BoardByHand(BoardFile file) {
        super(file);
    }

    @Override
    public BoardState restart() throws IOException {
        return read();
    }

    @Override
    public BoardState switchOff() throws IOException {
        return read();
    }
}

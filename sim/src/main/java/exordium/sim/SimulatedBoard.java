// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.access.BoardFile;
import exordium.core.access.BoardOnFile;
import exordium.core.access.BoardState;
import java.io.IOException;

/** A board that the program plays: deeds take effect by themselves. */
public final class SimulatedBoard extends BoardOnFile {
    public SimulatedBoard(BoardFile file) {
        super(file);
    }

    @Override
    public BoardState restart() throws IOException {
        return file().change(board -> board.with(board.chip().restart()));
    }

    @Override
    public BoardState switchOff() throws IOException {
        return file().change(board -> board.with(board.chip().switchOff()));
    }
}

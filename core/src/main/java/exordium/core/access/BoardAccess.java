// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.firmware.FirmwareConfig;
import java.io.IOException;
import java.time.LocalDate;

/**
 * A board one can get at. Each deed gives the board as it is afterwards, read anew. One thread at a time; another process may
 * have changed it between two calls, so what is decided on is read first.
 */
public interface BoardAccess {
    /** What it is at this moment. @throws IOException when it cannot be had */
    BoardState read() throws IOException;

    /** Puts a release down for the next restart. */
    BoardState stage(LocalDate release) throws IOException;

    /** Puts settings down for the next restart. */
    BoardState stage(FirmwareConfig settings) throws IOException;

    /** Restarts it: what was staged counts from then on. */
    BoardState restart() throws IOException;

    /** Switches it off and on: what was staged is lost. */
    BoardState switchOff() throws IOException;

    /** Restarts it, and the power fails when so many bytes have gone to its chip. A board by hand is as it was: nobody does that to one. */
    default BoardState powerCut(long after) throws IOException {
        return read();
    }

    /** Has its chip written anew, as a recovery card does. A board by hand is as it was: what came of it is told. */
    default BoardState recover(LocalDate release, byte[] payload, FirmwareConfig settings) throws IOException {
        return read();
    }

    /** Plugs a drive in, in place of whatever was on that port. */
    BoardState plug(BoardState.Plug plug) throws IOException;

    /** Takes a drive out, from whatever port it is on. */
    BoardState unplug(String drive) throws IOException;
}

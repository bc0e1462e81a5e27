// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.firmware.FirmwareConfig;
import java.io.IOException;
import java.time.LocalDate;

/**
 * What is done at one board. Each deed gives the board as it is known afterwards. Staging and plugging are put down by every way;
 * the others are asked for only where the way has the ability.
 */
public interface BoardDeeds {
    /** Puts a release down for the next restart. */
    BoardState stage(LocalDate release) throws IOException;

    /** Puts settings down for the next restart. */
    BoardState stage(FirmwareConfig settings) throws IOException;

    /** Plugs a drive in, in place of whatever was on that port. */
    BoardState plug(BoardState.Plug plug) throws IOException;

    /** Takes a drive out, from whatever port it is on. */
    BoardState unplug(String drive) throws IOException;

    /** Restarts it: what was staged counts from then on. */
    default BoardState restart() throws IOException {
        throw cannot(Ability.RESTART);
    }

    /** Switches it off and on: what was staged is lost. */
    default BoardState switchOff() throws IOException {
        throw cannot(Ability.SWITCH_OFF);
    }

    /** Restarts it, and the power fails when so many bytes have gone to its chip. */
    default BoardState powerCut(long after) throws IOException {
        throw cannot(Ability.CUT_POWER);
    }

    /** Has its chip written anew, as a recovery card does. */
    default BoardState recover(LocalDate release, byte[] payload, FirmwareConfig settings) throws IOException {
        throw cannot(Ability.WRITE_CHIP);
    }

    private static IllegalStateException cannot(Ability ability) {
        return new IllegalStateException("asked of a way without " + ability);
    }
}

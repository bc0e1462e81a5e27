// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.access.Ability;
import exordium.core.access.BoardDeeds;
import exordium.core.access.BoardPlace;
import exordium.core.access.BoardReading;
import exordium.core.access.BoardWay;
import java.util.EnumSet;
import java.util.Set;

/** The program plays the board: what it is, is read whenever it is asked for, and deeds take effect by themselves. */
public final class Played implements BoardWay {
    @Override
    public String code() {
        return "simulated";
    }

    @Override
    public String said() {
        return "simulated";
    }

    @Override
    public String meaning() {
        return "simulated: the program plays it";
    }

    @Override
    public Set<Ability> abilities() {
        return EnumSet.complementOf(EnumSet.of(Ability.LOOK));
    }

    @Override
    public BoardReading reading(BoardPlace place) {
        return BoardReading.NONE;
    }

    @Override
    public BoardDeeds deeds(BoardPlace place) {
        return new SimulatedBoard(place);
    }
}

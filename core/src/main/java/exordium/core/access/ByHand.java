// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.util.Set;

/**
 * The user acts at the board and tells what it shows. What is staged is what is meant to be set there; restarting and switching off
 * are the user's.
 */
public final class ByHand implements BoardWay {
    @Override
    public String code() {
        return "by-hand";
    }

    @Override
    public String said() {
        return "by hand";
    }

    @Override
    public String meaning() {
        return "by hand: I act at it and tell what it shows";
    }

    @Override
    public Set<Ability> abilities() {
        return Set.of();
    }

    @Override
    public BoardReading reading(BoardPlace place) {
        return BoardReading.NONE;
    }

    @Override
    public BoardDeeds deeds(BoardPlace place) {
        return new PutDown(place.file());
    }
}

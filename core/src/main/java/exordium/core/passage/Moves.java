// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** All that can be done as things stand, for one scheme. A further deed is one more entry in the list. */
final class Moves {
    /** What a deed makes of a situation, where it can be done. */
    interface Entry {
        void from(Situation now, Consumer<Act> acts);
    }

    private final List<Entry> entries;

    Moves(PassageFacts facts, Starts starts, Scheme scheme) {
        DeskMoves desk = new DeskMoves(facts, starts, scheme);
        BoardMoves board = new BoardMoves(facts, starts, scheme);
        entries = List.of(
                desk::buy,
                desk::prove,
                board::stageFirmware,
                board::stageSettings,
                board::stageOrder,
                board::restart,
                board::powerOff,
                board::takeOut,
                desk::copy,
                desk::copyOntoIt,
                desk::write,
                desk::restore,
                desk::grow,
                desk::setUp,
                desk::nameRoot,
                desk::newIdentity,
                desk::clear,
                board::plug,
                board::powerOn,
                board::look);
    }

    List<Act> from(Situation now) {
        List<Act> acts = new ArrayList<>();
        entries.forEach(entry -> entry.from(now, acts::add));
        return acts;
    }
}

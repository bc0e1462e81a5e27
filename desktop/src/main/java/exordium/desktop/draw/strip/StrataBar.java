// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.draw.strip;

import exordium.core.quantity.ByteSize;
import exordium.desktop.draw.Drawing;

/** What one copy takes in the vault, to one scale with its neighbours: its own bytes solid, what it shares with others pale. */
public final class StrataBar extends Drawing {
    private final ByteSize own;
    private final ByteSize shared;
    private final long largest;

    /** Where largest: the bytes that fill the whole width. */
    public StrataBar(ByteSize own, ByteSize shared, long largest) {
        super(own.said() + " of its own, " + shared.said() + " shared with other copies", 16);
        this.own = own;
        this.shared = shared;
        this.largest = Math.max(1, largest);
    }

    @Override
    protected void draw(double width, double height) {
        double room = width - 2;
        double mine = Math.max(own.bytes() > 0 ? 2 : 0, room * own.bytes() / largest);
        double theirs = Math.max(shared.bytes() > 0 ? 2 : 0, room * shared.bytes() / largest);
        box(0, 3, Math.min(room, mine), height - 6, "fill-deep", "line-ink");
        box(mine, 3, Math.min(room - mine, theirs), height - 6, "fill-shallow", "line-ink");
    }
}

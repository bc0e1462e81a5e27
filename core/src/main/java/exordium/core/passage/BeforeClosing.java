// SPDX-License-Identifier: Apache-2.0
package exordium.core.passage;

import java.util.List;

/** What is looked at once more before a box is closed, and the care that goes with all work at boards; common practice, no source. */
public final class BeforeClosing {
    public static final String TITLE = "Before the box is closed";
    public static final List<String> CHECKS = List.of(
            "Every ribbon square in its latch, no sharp bend, nothing under the lid.",
            "Drives and cards in to the end, screws even and not tight.",
            "What was taken out is labelled with the board and the day.",
            "It started once with the box open, from what was meant.");
    public static final String CARE =
            "Power off before plugging boards, cards, ribbons or carriers; touch earth first; power goes in last. Mains and Power over"
                    + " Ethernet: approved adapters, local codes, fixed wiring by licensed people. Ladders and roofs: not alone.";

    private BeforeClosing() {}
}

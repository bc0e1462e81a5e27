// SPDX-License-Identifier: Apache-2.0
package exordium.core.bootorder;

import exordium.core.board.StartSource;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.Step;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** House rule: what is tried first. Both schools are right; it depends on whether the slot can be reached. */
public enum FirstTried {
    CARD("the card, if it can be reached"),
    DRIVE("the fast drive");

    private static final Set<StartSource> DRIVES =
            EnumSet.of(StartSource.USB, StartSource.USB_DEVICE, StartSource.NVME);

    private final String title;

    FirstTried(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }

    /** What the rule comes to for a board: a card nobody can get at is no rescue. */
    public FirstTried at(boolean slotReachable) {
        return slotReachable ? this : DRIVE;
    }

    /** Says whether an order keeps the rule. */
    public Finding judge(List<StartSource> sources, boolean slotReachable) {
        String reason = !slotReachable
                ? "The card slot of this box is shut in: a drive first survives a forgotten card."
                : this == CARD
                        ? "The card slot can be reached: card first keeps a rescue way in."
                        : "Drive first saves seconds and survives a forgotten card.";
        Basis house = Basis.houseRule("first " + title);
        return arranged(sources, slotReachable)
                .map(better -> Finding.note(
                                "house-first-tried",
                                reason + " This order tries "
                                        + firstOf(sources).title() + " first; the house would try "
                                        + firstOf(better).title() + ".",
                                house)
                        .mendAt(Step.ORDER))
                .orElseGet(() -> Finding.note("house-first-tried", reason + " This order keeps to that.", house));
    }

    /** The same sources as the house would try them; empty where nothing has to move. */
    public Optional<List<StartSource>> arranged(List<StartSource> sources, boolean slotReachable) {
        int card = sources.indexOf(StartSource.CARD);
        int drive = firstDrive(sources);
        if (card < 0 || drive < 0) {
            return Optional.empty();
        }
        boolean cardFirst = at(slotReachable) == CARD;
        if (cardFirst == card < drive) {
            return Optional.empty();
        }
        List<StartSource> arranged = new ArrayList<>(sources);
        StartSource moved = arranged.remove(cardFirst ? card : drive);
        arranged.add(cardFirst ? drive : card, moved);
        return Optional.of(List.copyOf(arranged));
    }

    private static int firstDrive(List<StartSource> sources) {
        for (int i = 0; i < sources.size(); i++) {
            if (DRIVES.contains(sources.get(i))) {
                return i;
            }
        }
        return -1;
    }

    private static StartSource firstOf(List<StartSource> sources) {
        return sources.get(Math.min(
                firstDrive(sources),
                sources.contains(StartSource.CARD) ? sources.indexOf(StartSource.CARD) : Integer.MAX_VALUE));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.passage;

import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.passage.Part;
import exordium.core.passage.PassageFacts;
import exordium.core.passage.PassagePlan;
import exordium.core.passage.Route;
import exordium.core.passage.Wish;
import java.util.Optional;

/** All that a board's ways are planned from, read once; it does not change with the house. */
public final class Prospect {
    private final PassageFacts facts;

    Prospect(PassageFacts facts) {
        this.facts = facts;
    }

    /**
     * A wish as it stands for a board.
     *
     * @param plan its ways; empty for one that needs a value first
     */
    public record Offer(Wish.Kind kind, Optional<PassagePlan> plan) {}

    /** @throws UnreadableInput when a thing is named that there is not */
    public PassagePlan plan(Wish wish, PassagePlan.Given given) throws UnreadableInput {
        return PassagePlan.of(facts, wish, given);
    }

    public Offer offer(Wish.Kind kind) throws UnreadableInput {
        return new Offer(
                kind,
                kind == Wish.Kind.ORDER
                        ? Optional.empty()
                        : Optional.of(plan(Wish.of(kind), PassagePlan.Given.NOTHING)));
    }

    /** What a medium or a part is called. */
    public String called(String thing) {
        return facts.stock(thing)
                .map(stock -> stock.medium().name())
                .or(() -> facts.parts().stream()
                        .filter(part -> part.id().equals(thing))
                        .map(Part::title)
                        .findFirst())
                .or(() -> facts.enclosures().stream()
                        .filter(box -> box.id().equals(thing))
                        .map(box -> box.title())
                        .findFirst())
                .orElse(thing);
    }

    /** Whether it can be left out of a plan, or has to be bought for one. */
    public boolean isMedium(String thing) {
        return facts.stock(thing).isPresent();
    }

    /** Whether it is at hand. */
    public boolean here(String thing) {
        return facts.atHand().contains(thing)
                || facts.stock(thing).filter(PassageFacts.Stock::owned).isPresent();
    }

    /** How a way ends, with the port by its title. */
    public String ended(Route route) {
        return route.ended(id ->
                facts.bench().profile().port(id).map(BoardProfile.Port::title).orElse(id));
    }
}

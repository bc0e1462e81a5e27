// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.quantity.Coded;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jdbi.v3.core.Jdbi;

/** Boards on their way to what was wished for them; one at a time for each board, and those that ended. */
public final class Passages {
    private final Jdbi jdbi;

    Passages(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /** How far a passage is. */
    public enum State implements Coded {
        UNDER_WAY,
        DONE,
        STOPPED
    }

    /**
     * One passage.
     *
     * @param plan its steps with what became of them, as JSON
     * @param changed why it was planned anew; empty where it was not
     */
    public record Passage(long id, String board, String wish, State state, Instant begun, String plan, String changed) {
        public Passage with(State now, String otherPlan, String why) {
            return new Passage(id, board, wish, now, begun, otherPlan, why);
        }
    }

    /** The newest last. */
    public List<Passage> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM passage ORDER BY id")
                .map((row, context) -> new Passage(
                        row.getLong("id"),
                        row.getString("board"),
                        row.getString("wish"),
                        Coded.of(State.class, row.getString("state")),
                        Instant.parse(row.getString("begun")),
                        row.getString("plan"),
                        row.getString("changed")))
                .list());
    }

    /** The one that is under way at a board. */
    public Optional<Passage> underWay(String board) {
        return all().stream()
                .filter(each -> each.board().equals(board) && each.state() == State.UNDER_WAY)
                .findFirst();
    }

    /** Begins one; the register holds that there is no other one under way at that board. */
    public void add(String board, String wish, Instant begun, String plan) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        """
                        INSERT INTO passage (board, wish, state, begun, plan)
                        VALUES (:board, :wish, 'under-way', :begun, :plan)
                        """)
                .bind("board", board)
                .bind("wish", wish)
                .bind("begun", begun.toString())
                .bind("plan", plan)
                .execute());
    }

    /** Puts down how far it is. */
    public void put(Passage passage) {
        jdbi.useHandle(handle -> handle.createUpdate(
                        "UPDATE passage SET state = :state, plan = :plan, changed = :changed WHERE id = :id")
                .bind("state", passage.state().code())
                .bind("plan", passage.plan())
                .bind("changed", passage.changed())
                .bind("id", passage.id())
                .execute());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.access.Ability;
import exordium.core.access.BoardWay;
import exordium.core.access.BoardWays;
import exordium.core.finding.UnknownName;
import exordium.core.firmware.Channel;
import exordium.core.quantity.ByteSize;
import java.util.List;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.mapper.reflect.JdbiConstructor;

/** The register of boards. */
public final class Boards {
    private final Jdbi jdbi;

    Boards(Jdbi jdbi) {
        this.jdbi = jdbi;
    }

    /**
     * One board as its owner knows it.
     *
     * @param way how one gets at it
     * @param note whatever its owner wants to remember of it
     */
    public record Board(
            String id,
            String name,
            String place,
            String profile,
            Channel channel,
            boolean lightlyUsed,
            boolean slotReachable,
            ByteSize dailyWrites,
            BoardWay way,
            String note) {
        @JdbiConstructor
        public Board {}

        /** One the program plays. */
        public Board(
                String id,
                String name,
                String place,
                String profile,
                Channel channel,
                boolean lightlyUsed,
                boolean slotReachable,
                ByteSize dailyWrites) {
            this(id, name, place, profile, channel, lightlyUsed, slotReachable, dailyWrites, BoardWays.simulated(), "");
        }

        /** Whether the way to it does this by itself. */
        public boolean can(Ability ability) {
            return way.can(ability);
        }
    }

    public List<Board> all() {
        return jdbi.withHandle(handle -> handle.createQuery("SELECT * FROM board ORDER BY sort")
                .mapTo(Board.class)
                .list());
    }

    /** @throws UnknownName naming the boards there are */
    public Board require(String id) throws UnknownName {
        List<Board> all = all();
        for (Board board : all) {
            if (board.id().equals(id)) {
                return board;
            }
        }
        List<String> known = all.stream().map(Board::id).toList();
        throw new UnknownName(
                all.isEmpty()
                        ? "There is no board \"" + id + "\"; this workspace has none yet."
                        : "There is no board \"" + id + "\"; there are " + String.join(", ", known) + ".",
                id,
                known);
    }

    public void add(Board board) {
        run(
                """
                INSERT INTO board (id, name, place, profile, channel, lightly_used, slot_reachable, daily_writes, way, note, sort)
                VALUES (:id, :name, :place, :profile, :channel, :lightlyUsed, :slotReachable, :dailyWrites, :way, :note,
                        (SELECT coalesce(max(sort), 0) + 1 FROM board))
                """,
                board);
    }

    /** What is known of a board in place of what was; its id stays. */
    public void change(Board board) {
        run(
                """
                UPDATE board SET name = :name, place = :place, profile = :profile, channel = :channel,
                       lightly_used = :lightlyUsed, slot_reachable = :slotReachable, daily_writes = :dailyWrites, way = :way, note = :note
                WHERE id = :id
                """,
                board);
    }

    private void run(String statement, Board board) {
        jdbi.useHandle(
                handle -> handle.createUpdate(statement).bindMethods(board).execute());
    }
}

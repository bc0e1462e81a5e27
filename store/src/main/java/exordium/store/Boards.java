// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.access.Ability;
import exordium.core.access.BoardWay;
import exordium.core.access.BoardWays;
import exordium.core.finding.UnknownName;
import exordium.core.firmware.Channel;
import exordium.core.quantity.ByteSize;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.jdbi.v3.core.Jdbi;

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
                .map((row, context) -> board(row))
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
                VALUES (:id, :name, :place, :profile, :channel, :lightly, :slot, :writes, :way, :note,
                        (SELECT coalesce(max(sort), 0) + 1 FROM board))
                """,
                board);
    }

    /** What is known of a board in place of what was; its id stays. */
    public void change(Board board) {
        run(
                """
                UPDATE board SET name = :name, place = :place, profile = :profile, channel = :channel,
                       lightly_used = :lightly, slot_reachable = :slot, daily_writes = :writes, way = :way, note = :note
                WHERE id = :id
                """,
                board);
    }

    private void run(String statement, Board board) {
        jdbi.useHandle(handle -> handle.createUpdate(statement)
                .bind("id", board.id())
                .bind("name", board.name())
                .bind("place", board.place())
                .bind("profile", board.profile())
                .bind("channel", board.channel().code())
                .bind("lightly", board.lightlyUsed())
                .bind("slot", board.slotReachable())
                .bind("writes", board.dailyWrites().bytes())
                .bind("way", board.way().code())
                .bind("note", board.note())
                .execute());
    }

    private static Board board(ResultSet row) throws SQLException {
        return new Board(
                row.getString("id"),
                row.getString("name"),
                row.getString("place"),
                row.getString("profile"),
                Channel.of(row.getString("channel")),
                row.getBoolean("lightly_used"),
                row.getBoolean("slot_reachable"),
                ByteSize.of(row.getLong("daily_writes")),
                BoardWays.of(row.getString("way")),
                row.getString("note"));
    }
}

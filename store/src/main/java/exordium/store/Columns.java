// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.access.BoardWay;
import exordium.core.access.BoardWays;
import exordium.core.firmware.Channel;
import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Coded;
import java.lang.reflect.Type;
import java.sql.Types;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.argument.AbstractArgumentFactory;
import org.jdbi.v3.core.argument.Argument;
import org.jdbi.v3.core.argument.ArgumentFactory;
import org.jdbi.v3.core.config.ConfigRegistry;
import org.jdbi.v3.core.mapper.reflect.ConstructorMapper;

/** How the registers' types stand in their columns: sizes as bytes, times and days as ISO 8601 has them, codes as words. */
final class Columns {
    private static final List<Class<?>> ROWS = List.of(
            Boards.Board.class,
            Copies.Copy.class,
            Images.Image.class,
            Logbook.Entry.class,
            Media.Details.class,
            Media.Listed.class,
            Media.Medium.class);

    private Columns() {}

    static void teach(Jdbi jdbi) {
        jdbi.registerColumnMapper(ByteSize.class, (row, column, context) -> {
            long bytes = row.getLong(column);
            return row.wasNull() ? null : ByteSize.of(bytes);
        });
        text(jdbi, Instant.class, Instant::parse, Instant::toString);
        text(jdbi, LocalDate.class, LocalDate::parse, LocalDate::toString);
        text(jdbi, Channel.class, Channel::of, Channel::code);
        text(jdbi, BoardWay.class, BoardWays::of, BoardWay::code);
        text(jdbi, Media.State.class, code -> Coded.of(Media.State.class, code), Media.State::code);
        jdbi.registerArgument(new AbstractArgumentFactory<ByteSize>(Types.BIGINT) {
            @Override
            protected Argument build(ByteSize value, ConfigRegistry config) {
                return (position, statement, context) -> statement.setLong(position, value.bytes());
            }
        });
        ROWS.forEach(row -> jdbi.registerRowMapper(ConstructorMapper.factory(row)));
    }

    private static <T> void text(Jdbi jdbi, Class<T> type, Function<String, T> read, Function<T, String> written) {
        jdbi.registerColumnMapper(type, (row, column, context) -> {
            String text = row.getString(column);
            return text == null ? null : read.apply(text);
        });
        jdbi.registerArgument(new Word<>(type, written));
    }

    /** A value that is bound as a word; asked before the library's own for times and days. */
    private record Word<T>(Class<T> type, Function<T, String> written) implements ArgumentFactory.Preparable {
        @Override
        public Optional<Function<Object, Argument>> prepare(Type asked, ConfigRegistry config) {
            return asked instanceof Class<?> kind && type.isAssignableFrom(kind)
                    ? Optional.of(value -> (position, statement, context) ->
                            statement.setString(position, value == null ? null : written.apply(type.cast(value))))
                    : Optional.empty();
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.BooleanSupplier;
import javax.sql.DataSource;
import org.jdbi.v3.core.ConnectionFactory;
import org.jdbi.v3.core.Jdbi;
import org.jdbi.v3.core.statement.SqlLogger;
import org.jdbi.v3.core.statement.StatementContext;

/**
 * The one connection to a workspace's database, lent to one thread at a time: opening a file, its log and its settings anew for
 * each statement cost ten times what most statements do. What a thread asks within a transaction belongs to it.
 */
final class Register implements ConnectionFactory, AutoCloseable {
    private final ReentrantLock lent = new ReentrantLock(true);
    private final AtomicLong statements = new AtomicLong();
    private final Connection connection;
    private final Jdbi jdbi;
    private volatile BooleanSupplier barred = () -> false;
    private boolean closed;

    Register(DataSource source) throws SQLException {
        this.connection = source.getConnection();
        this.jdbi = Jdbi.create(this).setSqlLogger(new SqlLogger() {
            @Override
            public void logBeforeExecution(StatementContext context) {
                statements.incrementAndGet();
            }
        });
        Columns.teach(jdbi);
    }

    Jdbi jdbi() {
        return jdbi;
    }

    void barFrom(BooleanSupplier thread) {
        barred = thread;
    }

    /** How many statements were asked for so far. */
    long statements() {
        return statements.get();
    }

    @Override
    public Connection openConnection() throws SQLException {
        if (barred.getAsBoolean()) {
            throw new IllegalStateException("The register was asked on a thread that must not wait for it.");
        }
        lent.lock();
        if (closed) {
            lent.unlock();
            throw new SQLException("the workspace is closed");
        }
        return connection;
    }

    /** Gives it back; it stays open. */
    @Override
    public void closeConnection(Connection back) {
        lent.unlock();
    }

    /** Waits for whoever has it; what is asked later is refused. */
    @Override
    public void close() throws SQLException {
        lent.lock();
        try {
            closed = true;
            connection.close();
        } finally {
            lent.unlock();
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.store;

import exordium.core.block.PrivateFiles;
import exordium.core.finding.NewerThanThis;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * The folder with everything of one user's: {@code exordium.db}, {@code images/}, {@code drives/}, {@code boards/},
 * {@code vault/}, {@code profiles/}. Opening brings the database up to date. It survives being killed at any moment:
 * write-ahead log, one transaction a deed. One connection is held from opening to closing; any thread may ask, one is answered
 * at a time.
 */
public final class Workspace implements AutoCloseable {
    private static final int BUSY_MILLIS = 10_000;
    private static final long LOCK_LOOK_MILLIS = 20;
    private static final String VAULT = "vault";

    private final Path folder;
    private final Clock clock;
    /** The version of the newest migration. */
    static final String LATEST = "10";

    private final Register register;
    private final Jdbi jdbi;

    private Workspace(Path folder, Clock clock, Register register) {
        this.folder = folder;
        this.clock = clock;
        this.register = register;
        this.jdbi = register.jdbi();
    }

    /** Opens the folder, making it where there is none. @throws UnreadableInput when its database cannot be used */
    public static Workspace open(Path folder, Clock clock) throws IOException {
        PrivateFiles.fromNowOn();
        close(folder);
        for (String part : new String[] {"images", "drives", "boards", "vault", "profiles"}) {
            Files.createDirectories(folder.resolve(part));
        }
        SQLiteConfig config = new SQLiteConfig();
        config.enforceForeignKeys(true);
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        config.setBusyTimeout(BUSY_MILLIS);
        // A transaction that reads first and writes then waits its turn at the beginning, where it can still wait.
        config.setTransactionMode(SQLiteConfig.TransactionMode.IMMEDIATE);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + folder.resolve("exordium.db"));
        requireKnown(folder, source);
        if (!isCurrent(source)) {
            bringUpToDate(folder, source);
        }
        return opened(folder, clock, source);
    }

    /**
     * What earlier versions made may be read by everybody; a folder that is its owner's alone says that this was mended. The files for a
     * server keep what a server needs of them.
     */
    private static void close(Path folder) throws IOException {
        if (Files.isDirectory(folder) && Files.isWritable(folder) && !PrivateFiles.isClosed(folder)) {
            PrivateFiles.all(folder, Set.of(folder.resolve("network")));
        }
        PrivateFiles.folder(folder);
    }

    /**
     * Makes a workspace's database in a folder of the rows of another one, whoever made that.
     *
     * @param name what the other one came in, for its user
     * @throws UnreadableInput when it is none that this program could have made
     */
    public static void adopt(Path registers, Path folder, String name) throws IOException {
        ForeignRegisters.copy(registers, folder.resolve("exordium.db"), name);
    }

    /** One process at a time: of several that open a new workspace at once, one makes it and the others find it made. */
    private static void bringUpToDate(Path folder, SQLiteDataSource source) throws IOException {
        try (FileChannel channel = FileChannel.open(
                        folder.resolve("exordium.lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                FileLock lock = locked(channel)) {
            if (lock.isValid() && isCurrent(source)) {
                return;
            }
            Flyway.configure(Workspace.class.getClassLoader())
                    .dataSource(source)
                    .locations("classpath:exordium/store/migrations")
                    .load()
                    .migrate();
        } catch (FlywayException e) {
            throw new UnreadableInput(
                    "The workspace's database " + folder.resolve("exordium.db")
                            + " cannot be used; it was left as it is.",
                    e);
        }
    }

    private static FileLock locked(FileChannel channel) throws IOException {
        while (true) {
            try {
                return channel.lock();
            } catch (OverlappingFileLockException e) {
                // Another thread of this very process has it for the moment.
                try {
                    Thread.sleep(LOCK_LOOK_MILLIS);
                } catch (InterruptedException stop) {
                    Thread.currentThread().interrupt();
                    throw new InterruptedIOException("interrupted while the workspace was being opened");
                }
            }
        }
    }

    /** @throws UnreadableInput when it was made by a version that knows more than this one */
    private static void requireKnown(Path folder, SQLiteDataSource source) throws UnreadableInput {
        Optional<Integer> version = version(source);
        if (version.isPresent() && version.get() > Integer.parseInt(LATEST)) {
            throw new NewerThanThis(
                    "The workspace " + folder + " was made by a newer version of this program (its register has"
                            + " version " + version.get() + ", this program knows " + LATEST
                            + "); it was left as it is. Open it with the newer one.",
                    version.get(),
                    Integer.parseInt(LATEST));
        }
    }

    private static Workspace opened(Path folder, Clock clock, SQLiteDataSource source) throws UnreadableInput {
        try {
            Workspace workspace = new Workspace(folder, clock, new Register(source));
            return workspace;
        } catch (SQLException e) {
            throw new UnreadableInput(
                    "The workspace's database " + folder.resolve("exordium.db") + " cannot be opened.", e);
        }
    }

    /** Something that reads and writes the registers. */
    public interface Work<T, X extends Exception> {
        T run() throws X;
    }

    /** All of it counts or none of it does; whatever this thread asks meanwhile belongs to it. */
    public <T, X extends Exception> T inTransaction(Work<T, X> work) throws X {
        return jdbi.inTransaction(handle -> work.run());
    }

    /**
     * Threads for which this holds are refused: an interface thread stands still as long as another process holds the database.
     */
    public void barFrom(BooleanSupplier thread) {
        register.barFrom(thread);
    }

    /** How many statements were asked of the database since it was opened, for tests of what a page costs. */
    public long statements() {
        return register.statements();
    }

    /** Writes the registers as they are at this moment into a database file of their own, which must not exist. */
    public void copyRegisters(Path to) {
        jdbi.useHandle(handle -> handle.createUpdate("VACUUM INTO :file")
                .bind("file", to.toString())
                .execute());
    }

    /** Waits for what is being asked at the moment; nothing can be asked afterwards. */
    @Override
    public void close() {
        try {
            register.close();
        } catch (SQLException e) {
            throw new IllegalStateException("the register did not close", e);
        }
    }

    /** Asked first, since bringing a database up to date that is so already costs half a second at every start. */
    private static boolean isCurrent(SQLiteDataSource source) {
        return version(source)
                .filter(version -> LATEST.equals(version.toString()))
                .isPresent();
    }

    /** Empty where there is no database yet, or none that can be read: then it is made, or said so. */
    private static Optional<Integer> version(SQLiteDataSource source) {
        try (Connection connection = source.getConnection();
                Statement statement = connection.createStatement();
                ResultSet latest = statement.executeQuery(
                        "SELECT max(CAST(version AS INTEGER)), min(success) FROM flyway_schema_history")) {
            boolean whole = latest.next() && latest.getString(1) != null && latest.getBoolean(2);
            return whole ? Optional.of(latest.getInt(1)) : Optional.empty();
        } catch (SQLException e) {
            return Optional.empty();
        }
    }

    /** Whether there is a workspace in a folder; looking makes none. */
    public static boolean isOne(Path folder) {
        return Files.isRegularFile(folder.resolve("exordium.db"));
    }

    /** Where a workspace is when nobody names a folder: in the user's data folder (XDG Base Directory specification). */
    public static Path usualFolder() {
        String data = System.getenv("XDG_DATA_HOME");
        Path base = data == null || data.isBlank()
                ? Path.of(System.getProperty("user.home"), ".local", "share")
                : Path.of(data);
        return base.resolve("exordium");
    }

    public Path folder() {
        return folder;
    }

    public Path images() {
        return folder.resolve("images");
    }

    public Path drives() {
        return folder.resolve("drives");
    }

    /** Where copies lie: in the workspace, or where its user put them. Asked for each time, since another process may move it. */
    public Path vault() {
        return settings()
                .get(VAULT)
                .filter(place -> !place.isEmpty())
                .map(Path::of)
                .orElseGet(this::ownVault);
    }

    /** The vault's folder in the workspace. */
    public Path ownVault() {
        return folder.resolve("vault");
    }

    /** From now on copies lie there; without a place in the workspace. */
    public void vaultIsAt(Optional<Path> place) {
        settings().put(VAULT, place.map(Path::toString).orElse(""));
    }

    public Path boardFile(String board) {
        return folder.resolve("boards").resolve(board + ".board.yaml");
    }

    public Clock clock() {
        return clock;
    }

    public Boards boards() {
        return new Boards(jdbi);
    }

    public Media media() {
        return new Media(jdbi);
    }

    public Roles roles() {
        return new Roles(jdbi);
    }

    public Images imageShelf() {
        return new Images(jdbi);
    }

    public Judged judged() {
        return new Judged(jdbi);
    }

    public Operations operations() {
        return new Operations(jdbi, clock);
    }

    /** The journal of a write, named by its row. */
    public Path writeJournal(long row) {
        return folder.resolve("writes").resolve(row + ".journal");
    }

    /** Journals of changes that are under way, one for each deed. */
    public Path deeds() {
        return folder.resolve("deeds");
    }

    public Signs signs() {
        return new Signs(jdbi);
    }

    public Care care() {
        return new Care(jdbi);
    }

    public Copies copies() {
        return new Copies(jdbi);
    }

    public Passages passages() {
        return new Passages(jdbi);
    }

    public Logbook log() {
        return new Logbook(jdbi, clock);
    }

    public Settings settings() {
        return new Settings(jdbi);
    }
}

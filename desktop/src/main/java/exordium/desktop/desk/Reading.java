// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.finding.Sentence;
import java.io.IOException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/**
 * Reads from disk and database, never on the interface thread, and hands over on it. What cannot be read is said in one
 * sentence.
 */
public final class Reading implements AutoCloseable {
    private static final int CLOSING_SECONDS = 5;

    private final Consumer<Runnable> post;
    private final ExecutorService readers = threads("reader");
    private final ExecutorService lookers = threads("looker");
    private final StringProperty problem = new SimpleStringProperty("");

    /** Something read for a page. */
    public interface Source<T> {
        T get() throws IOException;
    }

    /** Something done that may fail. */
    public interface Action {
        void run() throws IOException;
    }

    /** Where post: runs things on the interface thread. */
    Reading(Consumer<Runnable> post) {
        this.post = post;
    }

    private static ExecutorService threads(String name) {
        return Executors.newSingleThreadExecutor(work -> thread(work, name));
    }

    static Thread thread(Runnable work, String name) {
        Thread thread = new Thread(work, "exordium-" + name);
        thread.setDaemon(true);
        return thread;
    }

    /** The last thing that could not be done; empty when there is none. */
    public StringProperty problemProperty() {
        return problem;
    }

    /** Does something on the interface thread. */
    public void post(Runnable work) {
        post.accept(work);
    }

    public void say(Exception failure) {
        say(Sentence.of(failure));
    }

    public void say(String sentence) {
        post(() -> problem.set(sentence));
    }

    /** Reads something and hands it over; in the order it was asked for. */
    public <T> void read(Source<T> source, Consumer<T> sink) {
        read(source, sink, () -> {});
    }

    /** The same; where otherwise is called on the interface thread when it cannot be read, after that was said. */
    public <T> void read(Source<T> source, Consumer<T> sink, Runnable otherwise) {
        on(readers, () -> hand(source, sink, otherwise));
    }

    /** As {@link #read}, for what may take long, such as unpacking an image; pages do not wait for it. */
    public <T> void look(Source<T> source, Consumer<T> sink) {
        on(lookers, () -> hand(source, sink, () -> {}));
    }

    /** Does something short, in its turn among the readings. */
    public void perform(Action deed) {
        on(readers, () -> {
            try {
                deed.run();
            } catch (IOException | RuntimeException e) {
                say(e);
            }
        });
    }

    private <T> void hand(Source<T> source, Consumer<T> sink, Runnable otherwise) {
        try {
            T value = source.get();
            post(() -> sink.accept(value));
        } catch (IOException | RuntimeException e) {
            say(e);
            post(otherwise);
        }
    }

    private static void on(ExecutorService threads, Runnable work) {
        try {
            threads.execute(work);
        } catch (RejectedExecutionException e) {
            if (!threads.isShutdown()) {
                throw e;
            }
            // The house is closed; nobody is left to look at what would be read.
        }
    }

    /** What was decided just before is still kept. */
    @Override
    public void close() {
        lookers.shutdownNow();
        readers.shutdown();
        try {
            if (!readers.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS)) {
                readers.shutdownNow();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}

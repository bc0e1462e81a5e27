// SPDX-License-Identifier: Apache-2.0
package exordium.cli.common;

import exordium.core.quantity.ByteSize;
import exordium.core.quantity.Span;
import exordium.core.writing.TransferMeter;
import java.util.Timer;
import java.util.TimerTask;

/** A line on a terminal that shows how far a transfer is. Stays silent where nobody watches. */
public final class ConsoleProgress implements AutoCloseable {
    private static final long EVERY_MILLIS = 500;
    private static final long LONGEST_STOP_MILLIS = 8_000;

    private final TransferMeter meter;
    private final Timer timer = new Timer("progress", true);
    private final boolean shown;
    /** Nothing is under way any more, and what came of it was said. */
    private volatile boolean finished;

    @SuppressWarnings("SystemConsoleNull") // built for Java 17, where null means no terminal
    public ConsoleProgress(boolean wanted, boolean readsBack) {
        this.meter = new TransferMeter(System::nanoTime, readsBack);
        this.shown = wanted && System.console() != null;
        if (shown) {
            timer.schedule(
                    new TimerTask() {
                        @Override
                        public void run() {
                            System.err.print("\r" + line() + "   ");
                        }
                    },
                    EVERY_MILLIS,
                    EVERY_MILLIS);
        }
        Thread worker = Thread.currentThread();
        Runtime.getRuntime().addShutdownHook(new Thread(() -> stop(worker), "stop"));
    }

    /**
     * Ctrl C and the like stop the work, and wait until what came of it is put down and said. A drive that keeps the kernel
     * waiting is not waited for any longer; the next opening of the workspace then says what became of it.
     */
    private void stop(Thread worker) {
        if (finished) {
            return;
        }
        meter.cancel();
        try {
            worker.join(LONGEST_STOP_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        Runtime.getRuntime().halt(ExitCode.FAILED);
    }

    public TransferMeter meter() {
        return meter;
    }

    private String line() {
        TransferMeter.Moment moment = meter.moment();
        return moment.phase().text() + " " + moment.done().said()
                + moment.total()
                        .map(total -> " of " + ByteSize.of(total.bytes()).said())
                        .orElse("") + ", "
                + moment.rate().said()
                + moment.left().map(left -> ", " + Span.left(left) + " left").orElse("");
    }

    @Override
    public void close() {
        timer.cancel();
        finished = !meter.cancelled();
        if (shown) {
            System.err.print("\r");
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.block;

import java.util.concurrent.CancellationException;

/** Told of every chunk that moves, and asked before each whether to go on. Called from the thread that moves bytes. */
public interface TransferWatch {
    /** What is being done to the bytes. */
    enum Phase {
        UNPACKING("unpacking"),
        WRITING("writing"),
        READING_BACK("reading back"),
        COMPARING("comparing"),
        COPYING("copying");

        private final String text;

        Phase(String text) {
            this.text = text;
        }

        public String text() {
            return text;
        }
    }

    TransferWatch NONE = new TransferWatch() {
        @Override
        public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

        @Override
        public boolean cancelled() {
            return false;
        }
    };

    /**
     * One chunk is done.
     *
     * @param position of the chunk on the medium
     * @param nanos this chunk took
     * @param total bytes of the phase, or -1 while it is not known
     */
    void moved(Phase phase, long position, int bytes, long nanos, long total);

    boolean cancelled();

    /** Ends what is going on where somebody asked for it. Without words: a device that does not answer has some. */
    default void goOnOrStop() {
        if (cancelled()) {
            throw new CancellationException();
        }
    }

    /** One that tells nobody how far it is, but may be stopped like the other. */
    static TransferWatch stopOnly(TransferWatch other) {
        return new TransferWatch() {
            @Override
            public void moved(Phase phase, long position, int bytes, long nanos, long total) {}

            @Override
            public boolean cancelled() {
                return other.cancelled();
            }
        };
    }
}

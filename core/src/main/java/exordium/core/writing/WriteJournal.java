// SPDX-License-Identifier: Apache-2.0
package exordium.core.writing;

import java.io.IOException;
import java.util.Map;

/** Notes how far a write came, so that one that was killed or unplugged can go on. */
public interface WriteJournal {
    /** Notes nothing. */
    WriteJournal NONE = new WriteJournal() {
        @Override
        public Map<Integer, Integer> before() {
            return Map.of();
        }

        @Override
        public void wrote(int chunk, int crc) {}

        @Override
        public boolean due() {
            return false;
        }

        @Override
        public int told() {
            return 0;
        }

        @Override
        public void settle(int count) {}
    };

    /** Chunks that an earlier run brought on to the medium, with their checksums. */
    Map<Integer, Integer> before();

    /** A chunk was handed to the medium; it counts only once {@link #settle} was called after a flush. */
    void wrote(int chunk, int crc) throws IOException;

    /** Whether it is time to settle. */
    boolean due();

    /** How many chunks were told so far. */
    int told();

    /** The first so many of those told are on the medium; may be called from another thread. */
    void settle(int count) throws IOException;
}

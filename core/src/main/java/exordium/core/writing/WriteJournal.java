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
        public boolean full() {
            return false;
        }

        @Override
        public void settle() {}
    };

    /** Chunks that an earlier run brought on to the medium, with their checksums. */
    Map<Integer, Integer> before();

    /** A chunk was handed to the medium; it counts only once {@link #settle} was called after a flush. */
    void wrote(int chunk, int crc) throws IOException;

    /** Whether it is time for a flush. */
    boolean full();

    /** Everything told so far is on the medium. */
    void settle() throws IOException;
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import java.io.IOException;

/** Looks at one board; changes nothing. */
public interface BoardReading {
    /** For a way that does not look by itself. */
    BoardReading NONE = () -> {
        throw new IllegalStateException("asked to look by a way that cannot");
    };

    /** @throws IOException when it cannot be had */
    Sighting look() throws IOException;
}

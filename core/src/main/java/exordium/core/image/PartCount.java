// SPDX-License-Identifier: Apache-2.0
package exordium.core.image;

import exordium.core.finding.OverBound;
import java.nio.file.Path;

/** Counts the parts a container is put together from: millions of empty ones take for ever and hold nothing. */
final class PartCount {
    /** Blocks of 64 KiB, as some packers make them, come to 32 GiB with so many. */
    static final int MOST = 1 << 19;

    private final Path path;
    private final String what;
    private int count;

    PartCount(Path path, String what) {
        this.path = path;
        this.what = what;
    }

    /** One more begins. */
    void another() throws OverBound {
        count++;
        if (count > MOST) {
            throw new OverBound(
                    path.getFileName() + " is put together from more than " + MOST + " " + what
                            + ", more than any image.",
                    MOST);
        }
    }

    /** For a library that tells what it found. */
    void another(Object part) throws OverBound {
        another();
    }
}

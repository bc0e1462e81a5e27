// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Random;

/** What is written to a virtual board's chip for a release of which nobody has the bytes. No real board runs it. */
public final class StandInFirmware {
    private static final int BYTES = 96 << 10;

    private StandInFirmware() {}

    /** The same for the same release. */
    public static byte[] of(LocalDate release) {
        byte[] bytes = new byte[BYTES];
        new Random(release.toEpochDay()).nextBytes(bytes);
        byte[] words =
                ("stand-in firmware " + release + ", for virtual boards only\n").getBytes(StandardCharsets.US_ASCII);
        System.arraycopy(words, 0, bytes, 0, words.length);
        return bytes;
    }
}

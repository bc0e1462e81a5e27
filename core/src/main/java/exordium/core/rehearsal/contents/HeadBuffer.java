// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;

/** Takes the beginning of a file and lets the rest go by. */
public final class HeadBuffer extends OutputStream {
    private final ByteArrayOutputStream taken = new ByteArrayOutputStream();
    private final int most;

    public HeadBuffer(int most) {
        this.most = most;
    }

    @Override
    public void write(int single) {
        write(new byte[] {(byte) single}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) {
        taken.write(bytes, from, Math.min(length, most - taken.size()));
    }

    public byte[] bytes() {
        return taken.toByteArray();
    }
}

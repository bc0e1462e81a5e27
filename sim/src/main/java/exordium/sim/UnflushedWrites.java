// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.block.AlignedBuffers;
import exordium.core.block.FileDevice;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/** What a drive has said it took and has not put down yet; it may lose that. */
final class UnflushedWrites {
    private final FileDevice file;
    private final Optional<DriveFault.Lose> fault;
    private final Deque<Kept> kept = new ArrayDeque<>();
    private boolean lost;

    private record Kept(long position, byte[] before) {}

    UnflushedWrites(FileDevice file, Optional<DriveFault.Lose> fault) {
        this.file = file;
        this.fault = fault;
    }

    synchronized void keep(long position, int length) throws IOException {
        if (fault.isPresent() && !lost) {
            kept.push(new Kept(position, file.bytes(position, length)));
        }
    }

    synchronized void taken() {
        kept.clear();
    }

    /** Where written: bytes that were written to the drive in all. */
    synchronized void loseIfDue(long written) throws IOException {
        if (fault.isPresent() && !lost && written >= fault.get().afterBytes()) {
            lost = true;
            while (!kept.isEmpty()) {
                Kept each = kept.pop();
                ByteBuffer whole = AlignedBuffers.allocate((each.before().length + AlignedBuffers.ALIGNMENT - 1)
                        / AlignedBuffers.ALIGNMENT
                        * AlignedBuffers.ALIGNMENT);
                file.write(each.position(), whole.put(each.before()).flip());
            }
        }
    }
}

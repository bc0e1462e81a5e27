// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileSystemKind;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;

/**
 * What a plan is made from.
 *
 * @param rootPartUuid identifies the root partition on the same medium, and partUuids all of its partitions
 * @param diskId of an MBR, as 8 hex digits
 * @param last the partition behind all others
 */
public record Found(
        MediumFiles files,
        Optional<String> rootPartUuid,
        List<String> partUuids,
        Optional<String> diskId,
        Optional<Last> last) {
    /** Whether its system fills the medium. */
    public SelfGrowth growth() {
        return SelfGrowth.of(files, last.map(Last::kind));
    }

    /** The last partition: what it holds, where it ends, and how large the medium is. */
    public record Last(FileSystemKind kind, ByteSize end, ByteSize medium) {
        private static final long WHOLE = 1 << 20;

        /** Whether it could be longer, with so many percent of the medium left free. */
        boolean hasRoom(int freeTail) {
            // A second table may stand at the very end.
            long room = Math.min(medium.bytes() / 100 * (100 - freeTail), medium.bytes() - 2 * WHOLE);
            return room / WHOLE * WHOLE > end.bytes();
        }
    }
}

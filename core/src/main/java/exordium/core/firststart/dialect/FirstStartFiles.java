// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileSystemKind;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.NewIdentifier;
import exordium.core.quantity.ByteSize;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * What a plan is made from.
 *
 * @param rootPartUuid identifies the root partition on the same medium, and partUuids all of its partitions
 * @param diskId of an MBR, as 8 hex digits
 * @param last the partition behind all others
 */
public record FirstStartFiles(
        MediumFiles files,
        Optional<String> rootPartUuid,
        List<String> partUuids,
        Optional<String> diskId,
        Optional<Last> last) {
    private static final Pattern GUID = Pattern.compile("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}");

    /** Whether its table is a GPT, whose partitions each have an identifier of their own. */
    public boolean gpt() {
        return diskId.isEmpty() && !partUuids.isEmpty() && partUuids.stream().allMatch(GUID.asMatchPredicate());
    }

    /** What an identifier of a partition becomes once the disk has another one. */
    String renamed(String partUuid, DiskIdentifier fresh) {
        if (gpt()) {
            return partUuids.contains(partUuid) ? NewIdentifier.derived(fresh, partUuid) : partUuid;
        }
        return partUuid.replaceFirst("^" + diskId.orElse(partUuid) + "-", fresh.text() + "-");
    }

    /** Text in which identifiers of partitions of this disk are those they become; nothing else is touched. */
    String textRenamed(String text, DiskIdentifier fresh) {
        if (!gpt()) {
            return DiskIdentifier.renamed(text, diskId.orElseThrow(), fresh.text());
        }
        String now = text;
        for (String each : partUuids) {
            now = now.replaceAll("(?i)(PARTUUID=\"?)" + each, "$1" + NewIdentifier.derived(fresh, each));
        }
        return now;
    }

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

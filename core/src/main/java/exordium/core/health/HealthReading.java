// SPDX-License-Identifier: Apache-2.0
package exordium.core.health;

import exordium.core.quantity.ByteSize;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * What a medium told of itself at one time; what it does not tell is empty.
 *
 * @param source where it was read, such as "smartctl"
 * @param lifeUsed share of the life its maker gives it; more than 1 is possible
 * @param spareLeft share of its reserve of blocks
 * @param mediaErrors it counted in its life: data it could not give back
 * @param written by its hosts in its life
 * @param failing whether it says of itself that it fails
 * @param unclean whether a file system on it was not let go the last time
 * @param fileSystemErrors that its file systems noted of themselves since they were last checked
 * @param mounts of its file systems since they were last checked
 * @param signs what it says beside that, in sentences
 */
public record HealthReading(
        Instant at,
        String source,
        Optional<Double> lifeUsed,
        Optional<Double> spareLeft,
        Optional<Long> mediaErrors,
        Optional<ByteSize> written,
        boolean failing,
        boolean unclean,
        long fileSystemErrors,
        long mounts,
        List<String> signs) {

    public HealthReading {
        signs = List.copyOf(signs);
    }

    /** One that tells nothing of itself. */
    public static HealthReading silent(Instant at) {
        return new HealthReading(
                at,
                "",
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                false,
                false,
                0,
                0,
                List.of());
    }

    /** One of which somebody pasted how much of its life is used, as a part of one. */
    public static HealthReading lifeTold(Instant at, double used) {
        return new HealthReading(
                at,
                "told",
                Optional.of(used),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                false,
                false,
                0,
                0,
                List.of());
    }

    /** The same with what the file systems on it tell. */
    public HealthReading with(FileSystemSigns systems) {
        return new HealthReading(
                at,
                source,
                lifeUsed,
                spareLeft,
                mediaErrors,
                written,
                failing,
                systems.unclean(),
                systems.errors(),
                systems.mounts(),
                signs);
    }

    /** Whether the medium itself tells anything. */
    public boolean tells() {
        return lifeUsed.isPresent()
                || spareLeft.isPresent()
                || mediaErrors.isPresent()
                || written.isPresent()
                || failing
                || !signs.isEmpty();
    }
}

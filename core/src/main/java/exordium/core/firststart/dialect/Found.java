// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import java.util.List;
import java.util.Optional;

/**
 * What a plan is made from.
 *
 * @param rootPartUuid identifies the root partition on the same medium, and partUuids all of its partitions
 * @param diskId of an MBR, as 8 hex digits
 */
public record Found(
        MediumFiles files, Optional<String> rootPartUuid, List<String> partUuids, Optional<String> diskId) {}

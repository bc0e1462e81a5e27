// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.vault;

import java.nio.file.Path;

/**
 * A finished copy.
 *
 * @param sourceBytes how much of the drive it holds, to the end of the last partition
 * @param fileBytes what it adds to the vault
 * @param fileSha256 of the file itself, as a checksum list beside it says
 * @param usedBytes what of it is in use and was read
 * @param pastCache whether the drive was read past the page cache
 */
public record CopyReport(
        Path file,
        long sourceBytes,
        long fileBytes,
        String fileSha256,
        double seconds,
        boolean pastCache,
        long usedBytes) {}

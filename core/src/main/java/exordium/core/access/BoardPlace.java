// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.board.BoardProfile;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;

/**
 * Where a way finds one board.
 *
 * @param file what is known of it
 * @param chip where the bytes of its firmware chip are kept, for whoever plays it
 * @param family empty where its profile is not here
 * @param payloads what goes into its chip for a release
 */
public record BoardPlace(BoardFile file, Path chip, Optional<BoardProfile> family, Payloads payloads) {
    /** Where the bytes of a release come from. */
    public interface Payloads {
        byte[] of(LocalDate release) throws IOException;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart;

import java.nio.charset.StandardCharsets;
import java.util.Optional;

/** One file of the start partition, before and after; before is empty where the file is new. */
public record FileEdit(String file, Optional<String> before, String after) {

    public byte[] content() {
        return after.getBytes(StandardCharsets.UTF_8);
    }
}

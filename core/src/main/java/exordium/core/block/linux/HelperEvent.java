// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.Optional;

/**
 * What the helper tells of its work, one line of JSON each on its standard error.
 *
 * @param event opened, progress, refused, failed or ended
 * @param code of a refusal; else empty
 * @param text of a refusal or failure; else empty
 * @param readBytes read so far
 * @param writtenBytes written so far
 */
@JsonIgnoreProperties(ignoreUnknown = true)
record HelperEvent(String event, String code, String text, long readBytes, long writtenBytes) {
    private static final ObjectMapper JSON = new ObjectMapper();

    static final String REFUSED = "refused";
    static final String FAILED = "failed";

    /** Empty where the line is something else, such as words of pkexec. */
    static Optional<HelperEvent> read(String line) {
        try {
            return line.startsWith("{") ? Optional.of(JSON.readValue(line, HelperEvent.class)) : Optional.empty();
        } catch (JsonProcessingException e) {
            return Optional.empty();
        }
    }
}

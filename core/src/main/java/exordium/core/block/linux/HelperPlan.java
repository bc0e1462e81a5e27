// SPDX-License-Identifier: Apache-2.0
package exordium.core.block.linux;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.block.MachineDrive;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.JsonWords;

/**
 * What the helper is started for, one line of JSON: this very drive, to be read or to be written, and nothing else.
 *
 * @param plan the form of this line, 1
 * @param drive kernel name, which the user confirmed
 * @param bytes its size when the deed was planned
 * @param serial its own; empty where it tells none
 * @param sequence the kernel's count of media that came; empty where it keeps none
 * @param write whether it will be written
 */
record HelperPlan(int plan, String drive, long bytes, String serial, String sequence, boolean write) {
    static final int FORM = 1;
    static final int LONGEST = 4096;

    private static final ObjectMapper JSON = new ObjectMapper()
            .registerModule(new Jdk8Module())
            .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_NULL_CREATOR_PROPERTIES)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);

    static HelperPlan of(MachineDrive drive, boolean write) {
        return new HelperPlan(FORM, drive.id(), drive.size().bytes(), drive.serial(), drive.sequence(), write);
    }

    /**
     * Reads a line.
     *
     * @throws UnreadableInput when it is no such plan, or of another form
     */
    static HelperPlan read(String line) throws UnreadableInput {
        try {
            HelperPlan read = JSON.readValue(line, HelperPlan.class);
            if (read != null && read.plan == FORM && read.drive.matches("[A-Za-z0-9._!-]{1,64}")) {
                return read;
            }
        } catch (JsonProcessingException e) {
            throw new UnreadableInput("The helper was given no plan it can read: " + JsonWords.of(e) + ".");
        }
        throw new UnreadableInput("The helper was given a plan of another form, or none for a drive.");
    }

    String line() {
        return json(this);
    }

    /** One line of JSON. */
    static String json(Object value) {
        try {
            return JSON.writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("always writable", e);
        }
    }

    /** Whether the drive is the one that was planned for. */
    boolean isFor(MachineDrive found) {
        return found.size().bytes() == bytes
                && found.serial().equals(serial)
                && found.sequence().equals(sequence)
                && found.id().equals(drive);
    }
}

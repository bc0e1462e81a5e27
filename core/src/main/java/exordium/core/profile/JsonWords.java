// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import java.util.stream.Collectors;

/** What is wrong with JSON or YAML that cannot be read, for whoever wrote it: the library's own words name classes. */
public final class JsonWords {
    private JsonWords() {}

    /** The end of a sentence, without its full stop. */
    public static String of(JsonProcessingException failure) {
        if (failure instanceof UnrecognizedPropertyException unknown) {
            return "there is no field \"" + unknown.getPropertyName() + "\"";
        }
        if (failure instanceof JsonMappingException value && !value.getPath().isEmpty()) {
            return "\""
                    + value.getPath().stream()
                            .map(step ->
                                    step.getFieldName() == null ? String.valueOf(step.getIndex()) : step.getFieldName())
                            .collect(Collectors.joining("."))
                    + "\" has a value that has no place there";
        }
        JsonLocation at = failure.getLocation();
        boolean placed = at != null && at.getLineNr() > 0;
        return (placed ? "line " + at.getLineNr() + ": " : "")
                + "it breaks off there, or is written otherwise than such a text is";
    }
}

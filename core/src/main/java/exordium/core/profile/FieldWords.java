// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.networknt.schema.ValidationMessage;
import exordium.core.quantity.Slips;
import java.time.DateTimeException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;

/** Says what is wrong with a field as its writer sees it: the line, the field, what stands there, what is wanted. */
final class FieldWords {
    private final String name;
    private final YamlPlaces places;

    FieldWords(String name, YamlPlaces places) {
        this.name = name;
        this.places = places;
    }

    /** A breach of the schema. */
    String breach(ValidationMessage message, JsonNode schema) {
        List<String> path = path(message.getInstanceLocation().toString());
        String property = message.getProperty() == null ? argument(message) : message.getProperty();
        return switch (message.getType()) {
            case "additionalProperties", "unevaluatedProperties" -> {
                List<String> whole = with(path, property);
                yield at(whole) + "there is no field \"" + property + "\""
                        + nearest(property, known(message, schema))
                                .map(near -> "; did you mean \"" + near + "\"?")
                                .orElse(".");
            }
            case "required" -> at(path) + "\"" + said(with(path, property)) + "\" is missing.";
            case "type" -> field(path) + "is wanted as " + wanted(schemaOf(message, schema)) + ".";
            case "enum" -> {
                List<String> choices = texts(schemaOf(message, schema).path("enum"));
                yield field(path) + "is none of " + String.join(", ", choices)
                        + places.text(path)
                                .flatMap(found -> nearest(found, choices))
                                .map(near -> "; did you mean " + near + "?")
                                .orElse(".");
            }
            case "pattern" -> field(path) + "does not have the form that is wanted.";
            case "minimum", "exclusiveMinimum", "maximum", "exclusiveMaximum" ->
                field(path) + "is out of bounds: " + bounds(schemaOf(message, schema)) + ".";
            case "minItems", "maxItems", "minLength", "minProperties" ->
                field(path) + "has too few or too many entries.";
            default -> field(path) + "is not as it should be.";
        };
    }

    /** A value that has the right form and still is none. */
    String value(JsonMappingException failure) {
        List<String> path = new ArrayList<>();
        for (JsonMappingException.Reference step : failure.getPath()) {
            path.add(step.getFieldName() != null ? step.getFieldName() : String.valueOf(step.getIndex()));
        }
        Throwable cause = failure;
        while (cause.getCause() != null) {
            cause = cause.getCause();
        }
        if (cause instanceof DateTimeException) {
            return field(path) + "is no date there is, such as 2026-09-02.";
        }
        return cause instanceof IllegalArgumentException && cause.getMessage() != null
                ? at(path) + said(path) + " is " + cause.getMessage() + "."
                : field(path) + "cannot be read.";
    }

    private String at(List<String> path) {
        return name + ", line " + places.line(path) + ": ";
    }

    /** The field with what stands in it, up to a verb. */
    private String field(List<String> path) {
        return at(path)
                + said(path)
                + places.text(path).map(text -> " is \"" + text + "\", which ").orElse(" ");
    }

    private static String said(List<String> path) {
        return path.isEmpty() ? "the whole" : String.join(".", path);
    }

    private static List<String> with(List<String> path, String last) {
        List<String> whole = new ArrayList<>(path);
        whole.add(last);
        return whole;
    }

    private static String argument(ValidationMessage message) {
        Object[] arguments = message.getArguments();
        return arguments == null || arguments.length == 0 ? "" : String.valueOf(arguments[0]);
    }

    /** From the form {@code $.drawer[0].size}. */
    private static List<String> path(String location) {
        List<String> path = new ArrayList<>();
        for (String step : location.replaceFirst("^\\$", "")
                .replace("[", ".")
                .replace("]", "")
                .split("\\.")) {
            if (!step.isEmpty()) {
                path.add(step);
            }
        }
        return path;
    }

    /** The part of the schema that was broken: the place of the message without its last word. */
    private static JsonNode schemaOf(ValidationMessage message, JsonNode schema) {
        String location = message.getSchemaLocation() == null
                ? ""
                : message.getSchemaLocation().toString();
        int hash = location.indexOf('#');
        JsonNode at = schema;
        String[] steps = location.substring(hash + 1).split("/");
        for (int i = 0; i < steps.length - 1; i++) {
            if (!steps[i].isEmpty()) {
                at = at.isArray() && steps[i].matches("\\d+") ? at.path(Integer.parseInt(steps[i])) : at.path(steps[i]);
            }
        }
        return at;
    }

    private static List<String> known(ValidationMessage message, JsonNode schema) {
        List<String> names = new ArrayList<>();
        Iterator<String> all = schemaOf(message, schema).path("properties").fieldNames();
        all.forEachRemaining(names::add);
        return names;
    }

    private static List<String> texts(JsonNode array) {
        List<String> texts = new ArrayList<>();
        array.forEach(each -> texts.add(each.asText()));
        return texts;
    }

    private static String wanted(JsonNode schema) {
        JsonNode type = schema.path("type");
        List<String> kinds = type.isArray() ? texts(type) : List.of(type.asText("another kind of value"));
        return String.join(
                " or ",
                kinds.stream()
                        .map(kind -> switch (kind) {
                            case "integer" -> "a whole number";
                            case "number" -> "a number";
                            case "boolean" -> "true or false";
                            case "string" -> "text";
                            case "array" -> "a list";
                            case "object" -> "fields of its own";
                            default -> kind;
                        })
                        .toList());
    }

    private static String bounds(JsonNode schema) {
        List<String> words = new ArrayList<>();
        if (schema.has("minimum")) {
            words.add("at least " + schema.get("minimum").asText());
        }
        if (schema.has("exclusiveMinimum")) {
            words.add("more than " + schema.get("exclusiveMinimum").asText());
        }
        if (schema.has("maximum")) {
            words.add("at most " + schema.get("maximum").asText());
        }
        return String.join(", ", words);
    }

    private static Optional<String> nearest(String word, List<String> known) {
        return Slips.nearest(word, known);
    }
}

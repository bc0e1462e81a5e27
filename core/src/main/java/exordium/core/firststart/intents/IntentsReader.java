// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.intents;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.exc.InvalidFormatException;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.JsonWords;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * Intents from what a user wrote or chose. Pass phrases and passwords become what is derived from them on the way in and are
 * found in nothing that is kept.
 */
public final class IntentsReader {
    public static final String SCHEMA = "/exordium/profiles/intents.schema.json";

    private static final ObjectMapper MAPPER = new ObjectMapper()
            .registerModule(new Jdk8Module())
            .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);
    private static final List<String> AROUND = List.of("profile", "set");

    private IntentsReader() {}

    /** A file of intents: the profile it is for and the set it builds on, where it names them, and all else. */
    public record Wanted(String profile, String set, JsonNode fields) {
        /** @throws UnreadableInput when what a set and the file say together is none */
        public Intents over(JsonNode base) throws UnreadableInput {
            return read(merged(base, fields));
        }

        public Intents intents() throws UnreadableInput {
            return read(fields);
        }
    }

    /**
     * Reads a file, checked against the schema that ships.
     *
     * @throws UnreadableInput with the file's name and the place in it
     */
    public static Wanted file(Path file) throws IOException {
        ObjectNode all = (ObjectNode) new ProfileReader().user(file, SCHEMA, JsonNode.class);
        return wanted(all);
    }

    private static Wanted wanted(ObjectNode all) throws UnreadableInput {
        ObjectNode fields = all.deepCopy();
        AROUND.forEach(fields::remove);
        read(fields);
        return new Wanted(all.path("profile").asText(), all.path("set").asText(), safe(fields));
    }

    /** Intents from names and values, as a window gathers them. */
    public static Intents of(Map<String, ?> fields) {
        try {
            return read(MAPPER.valueToTree(fields));
        } catch (UnreadableInput e) {
            throw new IllegalArgumentException(e.getMessage(), e);
        }
    }

    public static Intents read(JsonNode fields) throws UnreadableInput {
        try {
            Intents intents = MAPPER.treeToValue(safe(fields), Intents.class);
            IntentsCheck.check(intents);
            return intents;
        } catch (InvalidFormatException e) {
            String place = e.getPath().stream()
                    .map(each -> String.valueOf(each.getFieldName()))
                    .collect(Collectors.joining("."));
            throw new UnreadableInput("\"" + e.getValue() + "\" is nothing that " + place + " could be.", e);
        } catch (JsonProcessingException e) {
            throw new UnreadableInput("The intents cannot be read: " + JsonWords.of(e) + ".", e);
        }
    }

    public static JsonNode fields(Intents intents) {
        return MAPPER.valueToTree(intents);
    }

    /** What the second says counts; folders of fields are put together, lists and values taken whole. */
    public static JsonNode merged(JsonNode base, JsonNode over) {
        if (!base.isObject() || !over.isObject()) {
            return over;
        }
        ObjectNode result = base.deepCopy();
        for (Iterator<Map.Entry<String, JsonNode>> each = over.fields(); each.hasNext(); ) {
            Map.Entry<String, JsonNode> field = each.next();
            boolean both = result.has(field.getKey()) && !field.getKey().equals("network");
            result.set(field.getKey(), both ? merged(result.get(field.getKey()), field.getValue()) : field.getValue());
        }
        return result;
    }

    /** Secrets exchanged for what is derived from them. */
    private static JsonNode safe(JsonNode fields) throws UnreadableInput {
        JsonNode copy = fields.deepCopy();
        if (copy.path("account") instanceof ObjectNode account && account.has("password")) {
            String password = account.remove("password").asText();
            if (!account.has("passwordHash")) {
                account.put(
                        "passwordHash",
                        PasswordHash.of(password, account.path("name").asText()));
            }
        }
        if (copy.path("network").path("wifi") instanceof ObjectNode wifi && wifi.has("passPhrase")) {
            wifi.put(
                    "key",
                    WifiKey.of(
                            wifi.path("name").asText(),
                            wifi.remove("passPhrase").asText()));
        }
        return copy;
    }
}

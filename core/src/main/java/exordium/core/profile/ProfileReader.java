// SPDX-License-Identifier: Apache-2.0
package exordium.core.profile;

import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import com.fasterxml.jackson.datatype.jsr310.JavaTimeModule;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.PathType;
import com.networknt.schema.SchemaValidatorsConfig;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import com.networknt.schema.regex.RegularExpression;
import exordium.core.finding.UnreadableInput;
import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.RecordComponent;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Reads and writes YAML profiles. Files of the user are checked against the schema that ships; shipped profiles were
 * checked by the build's tests, so that a start costs no schema.
 */
public final class ProfileReader {
    /** Files larger than this are not profiles. */
    private static final long LARGEST = 1L << 20;

    /** Made when the first profile is read, and once for all readers: making it takes longer than most reading. */
    private static final class Yaml {
        static final ObjectMapper MAPPER = new ObjectMapper(
                        new YAMLFactory().disable(YAMLGenerator.Feature.WRITE_DOC_START_MARKER))
                .registerModule(new Jdk8Module())
                .registerModule(new JavaTimeModule())
                .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
                .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS);
    }

    /** Reads a shipped resource, such as {@code /exordium/profiles/boards.yaml}. */
    public <T> T shipped(String resource, Class<T> type) {
        try (InputStream stream = ProfileReader.class.getResourceAsStream(resource)) {
            if (stream == null) {
                throw new IllegalStateException("not shipped: " + resource);
            }
            return Yaml.MAPPER.readValue(stream, type);
        } catch (IOException e) {
            throw new IllegalStateException("shipped profile " + resource + ": " + e.getMessage(), e);
        }
    }

    /**
     * Reads a file of the user, checked against a shipped schema.
     *
     * @throws UnreadableInput with the file's name and the place in it
     */
    public <T> T user(Path file, String schemaResource, Class<T> type) throws IOException {
        return user(String.valueOf(file.getFileName()), text(file), schemaResource, type);
    }

    private static String text(Path file) throws IOException {
        return InputFile.text(String.valueOf(file.getFileName()), InputFile.read(file, LARGEST));
    }

    /** The same for text that lies in another file; name: what it is called in sentences. */
    public <T> T user(String name, byte[] content, String schemaResource, Class<T> type) throws IOException {
        return user(name, InputFile.text(name, content), schemaResource, type);
    }

    private static <T> T user(String name, String text, String schemaResource, Class<T> type) throws IOException {
        FieldWords words = new FieldWords(name, YamlPlaces.of(name, text));
        try {
            JsonNode tree = Yaml.MAPPER.readTree(text);
            checkAgainst(schemaResource, tree, words);
            return Yaml.MAPPER.treeToValue(tree, type);
        } catch (JsonMappingException e) {
            throw new UnreadableInput(words.value(e), e);
        } catch (JsonProcessingException e) {
            JsonLocation at = e.getLocation();
            String place = at == null || at.getLineNr() < 0 ? "" : ", line " + at.getLineNr();
            throw new UnreadableInput(name + place + ": this is no YAML that can be read.", e);
        }
    }

    /** Reads a file this program wrote itself, such as a drive's description. */
    public <T> T own(Path file, Class<T> type) throws IOException {
        String name = String.valueOf(file.getFileName());
        String text = text(file);
        try {
            T read = Yaml.MAPPER.readValue(text, type);
            if (read == null) {
                throw new UnreadableInput(name + " is empty.");
            }
            requireWhole(name, read);
            return read;
        } catch (JsonMappingException e) {
            throw new UnreadableInput(new FieldWords(name, YamlPlaces.of(name, text)).value(e), e);
        } catch (JsonProcessingException e) {
            throw new UnreadableInput(name + " is no YAML that can be read.", e);
        }
    }

    /** What a record has no {@link Optional} for, it does not do without. */
    private static void requireWhole(String name, Object value) throws IOException {
        if (value instanceof List<?> list) {
            for (Object each : list) {
                requireWhole(name, each);
            }
        }
        if (!(value instanceof Record)) {
            return;
        }
        for (RecordComponent part : value.getClass().getRecordComponents()) {
            try {
                part.getAccessor().setAccessible(true);
                Object held = part.getAccessor().invoke(value);
                if (held == null) {
                    throw new UnreadableInput(name + ": \"" + part.getName() + "\" is missing.");
                }
                requireWhole(name, held);
            } catch (ReflectiveOperationException e) {
                throw new IllegalStateException(e);
            }
        }
    }

    public String write(Object value) {
        try {
            return Yaml.MAPPER.writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** As JSON, what is not there left out. */
    public String json(Object value) {
        try {
            return new ObjectMapper()
                    .registerModule(new Jdk8Module())
                    .registerModule(new JavaTimeModule())
                    .disable(SerializationFeature.WRITE_DATES_AS_TIMESTAMPS)
                    .setSerializationInclusion(JsonInclude.Include.NON_ABSENT)
                    .writerWithDefaultPrettyPrinter()
                    .writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** For people and for {@link #user}: what is not there is not written. */
    public String writeForPeople(Object value) {
        try {
            return Yaml.MAPPER
                    .copy()
                    .setSerializationInclusion(JsonInclude.Include.NON_ABSENT)
                    .writeValueAsString(value);
        } catch (JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    /** The first breach, in the order of the document, as one sentence. */
    private static void checkAgainst(String schemaResource, JsonNode tree, FieldWords words) throws IOException {
        try (InputStream stream = ProfileReader.class.getResourceAsStream(schemaResource)) {
            JsonNode source = new ObjectMapper().readTree(stream);
            JsonSchema schema = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(
                            source,
                            SchemaValidatorsConfig.builder()
                                    .pathType(PathType.LEGACY)
                                    .regularExpressionFactory(ProfileReader::toTheEnd)
                                    .build());
            Set<ValidationMessage> breaches = schema.validate(tree);
            if (!breaches.isEmpty()) {
                ValidationMessage first = breaches.stream()
                        .min(Comparator.comparing(ValidationMessage::getMessage))
                        .orElseThrow();
                throw new UnreadableInput(words.breach(first, source));
            }
        }
    }

    /** A pattern of a schema is ECMAScript's, where its last sign is the very end; Java's own is also what stands before a last line break. */
    private static RegularExpression toTheEnd(String pattern) {
        Pattern compiled =
                Pattern.compile(pattern.endsWith("$") ? pattern.substring(0, pattern.length() - 1) + "\\z" : pattern);
        return text -> compiled.matcher(text).find();
    }

    public JsonNode tree(String text) throws IOException {
        return Yaml.MAPPER.readTree(text);
    }
}

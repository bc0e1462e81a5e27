// SPDX-License-Identifier: Apache-2.0
package exordium.core.board;

import exordium.core.finding.Sentence;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** The shipped board profiles, and the user's own, which win where they have the same id. */
public final class BoardProfiles {
    public static final String RESOURCE = "/exordium/profiles/boards.yaml";
    public static final String SCHEMA = "/exordium/profiles/boards.schema.json";

    private final Map<String, BoardProfile> byId;
    private final List<String> unreadable;

    /** The form of the file. */
    public record Listing(List<BoardProfile> boards) {}

    private BoardProfiles(Map<String, BoardProfile> byId, List<String> unreadable) {
        this.byId = Collections.unmodifiableMap(byId);
        this.unreadable = List.copyOf(unreadable);
    }

    /** Read once for all. */
    private static final class Shipped {
        static final BoardProfiles ALL = new BoardProfiles(
                byId(new ProfileReader().shipped(RESOURCE, Listing.class).boards()), List.of());
    }

    public static BoardProfiles shipped() {
        return Shipped.ALL;
    }

    private static Map<String, BoardProfile> byId(Collection<BoardProfile> profiles) {
        Map<String, BoardProfile> byId = new LinkedHashMap<>();
        profiles.forEach(profile -> byId.put(profile.id(), profile));
        return byId;
    }

    /** These and every .yaml of a folder that exists; one that breaks the schema is put by and named, the rest counts. */
    public BoardProfiles withFolder(ProfileReader reader, Path folder) throws IOException {
        Map<String, BoardProfile> both = byId(byId.values());
        List<String> wrong = new ArrayList<>(unreadable);
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*.yaml")) {
                for (Path file : files) {
                    try {
                        reader.user(file, SCHEMA, Listing.class).boards().forEach(each -> both.put(each.id(), each));
                    } catch (UnreadableInput e) {
                        wrong.add(Sentence.of(e));
                    }
                }
            }
        }
        return new BoardProfiles(both, wrong);
    }

    /** The same families, each with what is known of it from elsewhere. */
    public BoardProfiles mapped(UnaryOperator<BoardProfile> more) {
        Map<String, BoardProfile> all = new LinkedHashMap<>();
        byId.forEach((id, family) -> all.put(id, more.apply(family)));
        return new BoardProfiles(all, unreadable);
    }

    /** What is wrong with those of the user's files that could not be read; the others count. */
    public List<String> unreadable() {
        return unreadable;
    }

    public Optional<BoardProfile> find(String id) {
        return Optional.ofNullable(byId.get(id));
    }

    /** @throws UnreadableInput naming the profiles there are, and what could not be read */
    public BoardProfile require(String id) throws UnreadableInput {
        BoardProfile profile = byId.get(id);
        if (profile == null) {
            throw new UnknownName(
                    "There is no board profile \"" + id + "\"; there are " + String.join(", ", byId.keySet()) + "."
                            + unreadable.stream().map(each -> " " + each).collect(Collectors.joining()),
                    id,
                    List.copyOf(byId.keySet()));
        }
        return profile;
    }

    public List<BoardProfile> all() {
        return List.copyOf(byId.values());
    }
}

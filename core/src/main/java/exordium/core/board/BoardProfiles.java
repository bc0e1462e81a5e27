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
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** The shipped board profiles, and the user's own, which win where they have the same id. */
public final class BoardProfiles {
    public static final String RESOURCE = "/exordium/profiles/boards.yaml";
    public static final String SCHEMA = "/exordium/profiles/boards.schema.json";

    private final Map<String, BoardProfile> byId = new LinkedHashMap<>();
    private final List<String> unreadable = new ArrayList<>();

    /** The form of the file. */
    public record Listing(List<BoardProfile> boards) {}

    private BoardProfiles(List<BoardProfile> profiles) {
        profiles.forEach(profile -> byId.put(profile.id(), profile));
    }

    public static BoardProfiles shipped(ProfileReader reader) {
        return new BoardProfiles(reader.shipped(RESOURCE, Listing.class).boards());
    }

    /** Adds every .yaml of a folder that exists; one that breaks the schema is put by and named, the rest counts. */
    public BoardProfiles withFolder(ProfileReader reader, Path folder) throws IOException {
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*.yaml")) {
                for (Path file : files) {
                    try {
                        reader.user(file, SCHEMA, Listing.class).boards().forEach(each -> byId.put(each.id(), each));
                    } catch (UnreadableInput e) {
                        unreadable.add(Sentence.of(e));
                    }
                }
            }
        }
        return this;
    }

    /** What is wrong with those of the user's files that could not be read; the others count. */
    public List<String> unreadable() {
        return List.copyOf(unreadable);
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

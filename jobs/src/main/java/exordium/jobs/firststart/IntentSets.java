// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.firststart;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.intents.Intents;
import exordium.core.firststart.intents.IntentsReader;
import exordium.core.profile.ProfileReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;

/** Sets of intents that are used again, such as "exhibit, wired": files {@code sets/NAME.yaml} of the workspace. */
public final class IntentSets {
    private static final String ENDING = ".yaml";

    private final Path folder;

    public IntentSets(Path workspace) {
        this.folder = workspace.resolve("sets");
    }

    public List<String> names() throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> name.endsWith(ENDING))
                    .map(name -> name.substring(0, name.length() - ENDING.length()))
                    .sorted()
                    .toList();
        }
    }

    /** @throws UnreadableInput when there is none of that name, or its file is none */
    public IntentsReader.Wanted read(String name) throws IOException {
        if (!names().contains(name)) {
            throw new UnknownName("There is no set of intents \"" + name + "\".", name);
        }
        return IntentsReader.file(folder.resolve(name + ENDING));
    }

    /** What a file wants, over the set it names and that one over its own. */
    public Intents over(IntentsReader.Wanted wanted) throws IOException {
        return wanted.over(base(wanted.set(), 0));
    }

    private JsonNode base(String set, int depth) throws IOException {
        if (set.isEmpty()) {
            return JsonNodeFactory.instance.objectNode();
        }
        if (depth > 8) {
            throw new UnreadableInput("The set \"" + set + "\" builds on itself.");
        }
        IntentsReader.Wanted wanted = read(set);
        return IntentsReader.merged(base(wanted.set(), depth + 1), wanted.fields());
    }

    /** Keeps intents under a name, in place of what had it; what is one board's own (name, address) is left out. */
    public Path keep(String name, Intents intents) throws IOException {
        if (!name.matches("[A-Za-z0-9][A-Za-z0-9 _.-]{0,59}")) {
            throw new UnreadableInput("\"" + name + "\" is no name for a set: letters, digits, blanks, - _ and .");
        }
        ObjectNode fields = IntentsReader.fields(intents).deepCopy();
        fields.remove(List.of("hostName", "fixedAddress"));
        if (fields.path("network") instanceof ObjectNode network) {
            network.remove(List.of("hardwareAddress", "address"));
        }
        Files.createDirectories(folder);
        Path file = folder.resolve(name + ENDING);
        FolderLock.holding(folder, () -> {
            Durable.replace(file, new ProfileReader().writeForPeople(fields));
            return file;
        });
        return file;
    }
}

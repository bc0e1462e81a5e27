// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import exordium.core.block.Durable;
import exordium.core.finding.NameTaken;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** The workspaces this user has: made new, and those opened lately, newest first. */
public final class Workspaces {
    private static final int MOST = 12;
    private static final int LONGEST_NAME = 80;

    private final Path file;

    /** Where file: that remembers them, a line each. */
    public Workspaces(Path file) {
        this.file = file;
    }

    /** In the user's state folder (XDG Base Directory specification). */
    public static Workspaces ofUser() {
        // A test's own, so that it leaves nothing in anybody's home.
        String state = System.getProperty("exordium.state", System.getenv("XDG_STATE_HOME"));
        Path base = state == null || state.isBlank()
                ? Path.of(System.getProperty("user.home"), ".local", "state")
                : Path.of(state);
        return new Workspaces(base.resolve("exordium").resolve("workspaces"));
    }

    /** One that was opened lately; there: whether it still is. */
    public record Known(Path folder, String name, boolean there) {}

    /** Newest first; a line that is no path is passed over. */
    public List<Known> recent() {
        List<Known> known = new ArrayList<>();
        remembered().forEach((folder, name) -> known.add(new Known(folder, name, Workbench.isWorkspace(folder))));
        return known;
    }

    private Map<Path, String> remembered() {
        Map<Path, String> lines = new LinkedHashMap<>();
        try {
            if (Files.isRegularFile(file)) {
                for (String line : Files.readString(file).lines().limit(MOST).toList()) {
                    String[] parts = line.split("\t", 2);
                    if (parts.length == 2 && !parts[0].isBlank()) {
                        lines.put(Path.of(parts[0]), parts[1]);
                    }
                }
            }
        } catch (IOException | InvalidPathException e) {
            // It only helps to find them again.
            return lines;
        }
        return lines;
    }

    /** Remembers one that was opened; that this cannot be written down keeps nobody from working. */
    public void opened(Path folder, String name) {
        Path whole = folder.toAbsolutePath().normalize();
        Map<Path, String> lines = new LinkedHashMap<>();
        lines.put(whole, name.replaceAll("\\s+", " "));
        remembered().forEach(lines::putIfAbsent);
        StringBuilder text = new StringBuilder();
        lines.entrySet().stream().limit(MOST).forEach(each -> text.append(each.getKey())
                .append('\t')
                .append(each.getValue())
                .append('\n'));
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            Durable.replace(file, text.toString());
        } catch (IOException e) {
            assert file != null;
        }
    }

    /** Makes one and opens it. @throws NameTaken when there is one in that folder, or something else */
    public Workbench create(Path folder, String name, Clock clock, ZoneId zone) throws IOException {
        String said = checkedName(name);
        requireFree(folder);
        Workbench bench = Opening.at(folder, clock, zone);
        bench.rules().workspaceName(said);
        opened(folder, said);
        return bench;
    }

    /** @throws UnreadableInput when it is none */
    public static String checkedName(String name) throws UnreadableInput {
        String said = name.strip();
        if (said.isEmpty() || said.length() > LONGEST_NAME || said.chars().anyMatch(Character::isISOControl)) {
            throw new UnreadableInput("Give the workspace a name of 1 to " + LONGEST_NAME + " characters.");
        }
        return said;
    }

    /** @throws NameTaken when something is there that is not to be written into */
    static void requireFree(Path folder) throws IOException {
        if (Workbench.isWorkspace(folder)) {
            throw new NameTaken("There is a workspace in " + folder + " already.", folder.toString());
        }
        if (Files.exists(folder)) {
            if (!Files.isDirectory(folder)) {
                throw new NameTaken(folder + " is a file; a workspace is a folder.", folder.toString());
            }
            try (Stream<Path> all = Files.list(folder)) {
                if (all.findAny().isPresent()) {
                    throw new NameTaken(
                            "The folder " + folder + " holds something else; a workspace wants an empty or a new one.",
                            folder.toString());
                }
            }
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.firststart.dialect;

import exordium.core.filesystem.FileBody;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Small files of a medium and names of the others: of the start partition without, of the root with a slash in front. Names in
 * the start partition are told apart without regard to case, as FAT does.
 *
 * @param kernelLine the path of the file the kernel line is in
 * @param rootFault why the root cannot be changed here; empty where it can
 */
public record MediumFiles(
        Map<String, FileBody> bodies, Set<String> names, String kernelLine, Optional<String> rootFault) {
    public MediumFiles {
        bodies = Map.copyOf(bodies);
        names = Set.copyOf(names);
    }

    /** Of a start partition alone. */
    public static MediumFiles ofStart(Map<String, FileBody> bodies, List<String> names, String kernelLine) {
        TreeSet<String> all = new TreeSet<>(names);
        all.addAll(bodies.keySet());
        return new MediumFiles(bodies, all, kernelLine, Optional.of("there is no root on it that is written here"));
    }

    /** As the name is written there; the same where there is none. */
    public String written(String path) {
        if (path.startsWith("/") || names.contains(path)) {
            return path;
        }
        return names.stream()
                .filter(name -> name.equalsIgnoreCase(path))
                .findFirst()
                .orElse(path);
    }

    public Optional<FileBody> body(String path) {
        return Optional.ofNullable(bodies.get(written(path)));
    }

    public boolean has(String path) {
        return names.contains(written(path));
    }

    /** Paths of all that stands right in a folder, with a slash behind its name. */
    public Stream<String> in(String folder) {
        String lower = folder.toLowerCase(Locale.ROOT);
        return names.stream()
                .filter(name -> folder.startsWith("/")
                        ? name.startsWith(folder)
                        : name.toLowerCase(Locale.ROOT).startsWith(lower))
                .filter(name -> name.length() > folder.length() && name.indexOf('/', folder.length()) < 0)
                .sorted();
    }

    /** As it is once the edits are made. */
    public MediumFiles after(List<FileEdit> edits) {
        Map<String, FileBody> changed = new TreeMap<>(bodies);
        Set<String> all = new TreeSet<>(names);
        for (FileEdit edit : edits) {
            changed.remove(edit.file());
            all.remove(edit.file());
            edit.after().ifPresent(body -> {
                changed.put(edit.file(), body);
                all.add(edit.file());
            });
        }
        return new MediumFiles(changed, all, kernelLine, rootFault);
    }
}

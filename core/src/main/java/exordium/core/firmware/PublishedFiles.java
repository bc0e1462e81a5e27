// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.block.BlockDevice;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.PackageFiles;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/** Looks into the systems on an image for the folder in which an updating tool keeps its releases. */
public final class PublishedFiles {
    private static final List<String> PLACES =
            List.of("/lib/firmware", "/usr/lib/firmware", "/usr/share", "/usr/lib", "/usr/local", "/opt");
    private static final int DEEPEST = 6;
    private static final int MOST_NAMES = 60_000;
    private static final long MOST_BYTES = 96L << 20;

    private final FileSystemReader root;
    private final Map<String, String> links = new TreeMap<>();
    private final Map<String, Long> sizes = new TreeMap<>();
    private final Set<String> groups = new HashSet<>();

    private PublishedFiles(FileSystemReader root) {
        this.root = root;
    }

    /**
     * The files beside and below the first folder that holds releases.
     *
     * @throws UnreadableInput when no system on it keeps any
     */
    public static PackageFiles in(BlockDevice device) throws IOException {
        for (PartitionContent content : Inspector.inspect(device).partitions()) {
            if (content.partition().endByte() > device.size().bytes()) {
                continue;
            }
            Optional<FileSystemReader> reader =
                    FileSystems.open(content.partition().on(device));
            if (reader.isPresent()) {
                PublishedFiles found = new PublishedFiles(reader.get());
                for (String place : content.fileSystem().kind().isFat() ? List.of("") : PLACES) {
                    found.walk(place, 1);
                }
                if (!found.groups.isEmpty()) {
                    return found.read();
                }
            }
        }
        throw new UnreadableInput(
                "No system on it keeps releases of firmware: no folder with a file whose name bears a date.");
    }

    private void walk(String folder, int depth) throws IOException {
        for (FileEntry entry : root.entries(folder.isEmpty() ? "/" : folder)) {
            if (sizes.size() + links.size() > MOST_NAMES) {
                return;
            }
            String path = folder + "/" + entry.name();
            switch (entry.kind()) {
                case FOLDER -> {
                    if (depth < DEEPEST) {
                        walk(path, depth + 1);
                    }
                }
                case LINK ->
                    root.body(path).filter(FileBody::link).ifPresent(body -> links.put(path.substring(1), body.text()));
                case FILE -> {
                    sizes.put(path.substring(1), entry.size());
                    if (PublishedReleases.isRelease(path, entry.size())) {
                        // The channels lie side by side.
                        groups.add(parent(parent(path.substring(1))));
                    }
                }
                default -> {
                    // Nothing that holds bytes.
                }
            }
        }
    }

    private static String parent(String path) {
        int slash = path.lastIndexOf('/');
        return slash < 0 ? "" : path.substring(0, slash);
    }

    private boolean inGroup(String path) {
        return groups.stream().anyMatch(group -> group.isEmpty() || path.startsWith(group + "/"));
    }

    private PackageFiles read() throws IOException {
        Map<String, byte[]> files = new TreeMap<>();
        long total = 0;
        for (Map.Entry<String, Long> each : sizes.entrySet()) {
            if (!inGroup(each.getKey())) {
                continue;
            }
            total += each.getValue();
            if (total > MOST_BYTES || each.getValue() > FileSystemReader.LARGEST_FILE) {
                throw new OverBound("The releases on it are larger than any firmware.", MOST_BYTES);
            }
            root.read("/" + each.getKey()).ifPresent(content -> files.put(each.getKey(), content));
        }
        Map<String, String> within = new HashMap<>();
        List<String> names = new ArrayList<>(links.keySet());
        names.stream().filter(this::inGroup).forEach(name -> within.put(name, links.get(name)));
        return new PackageFiles(files, within, Map.of());
    }
}

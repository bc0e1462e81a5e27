// SPDX-License-Identifier: Apache-2.0
package exordium.core.copies.care;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.MarkedFile;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.ImageComparison;
import exordium.core.inspection.ImageComparison.FileChange;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PackageList;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * What changed on a drive since it was something else: since its image, since its last copy, between two copies.
 *
 * @param files changed, gone and new ones
 * @param settings those among them that set something up, each with its lines before and now
 * @param packages that came, went, or have another version; empty where the system keeps no list of them
 * @param cutShort whether there was more than is told
 */
public record Changes(
        List<FileChange> files, List<MarkedFile> settings, List<PackageChange> packages, boolean cutShort) {
    private static final int LARGEST_SETTING = 64 << 10;
    private static final int MOST_SETTINGS = 200;
    private static final int AROUND = 2;

    /** Hashes of passwords and private keys: that they changed is said, not what they are. */
    private static final Pattern SECRET =
            Pattern.compile(".*/(g?shadow-?|ssh_host_[^/]*_key|[^/]*\\.(key|psk|nmconnection)|wpa_supplicant[^/]*)");

    /** A package that is not what it was; empty where it is not there. */
    public record PackageChange(String name, Optional<String> before, Optional<String> now) {}

    public boolean none() {
        return files.isEmpty() && packages.isEmpty();
    }

    /** How much of each there is, in one sentence. */
    public String sentence() {
        if (none()) {
            return "Nothing changed: every file is what it was.";
        }
        List<String> words = new ArrayList<>();
        say(words, count(FileChange.ChangeKind.CHANGED), "changed");
        say(words, count(FileChange.ChangeKind.NEW), "new");
        say(words, count(FileChange.ChangeKind.GONE), "gone");
        String files = words.isEmpty() ? "no file" : String.join(", ", words) + (cutShort ? ", and more" : "");
        return "Files: " + files + (settings.isEmpty() ? "" : "; " + settings.size() + " of them set something up")
                + (packages.isEmpty() ? "." : ". Packages: " + packages.size() + ".");
    }

    private static void say(List<String> words, long count, String what) {
        if (count > 0) {
            words.add(count + " " + what);
        }
    }

    private long count(FileChange.ChangeKind kind) {
        return files.stream().filter(each -> each.kind() == kind).count();
    }

    /** Reads every file of both. @throws java.util.concurrent.CancellationException when the watch says stop */
    public static Changes of(BlockDevice before, BlockDevice now, TransferWatch watch) throws IOException {
        ImageComparison.Files compared = ImageComparison.files(before, now, watch);
        Readers first = new Readers(before);
        Readers second = new Readers(now);
        List<MarkedFile> settings = new ArrayList<>();
        for (FileChange each : compared.changes()) {
            if (settings.size() < MOST_SETTINGS && first.sets(each)) {
                Optional<FileBody> was = first.setting(each);
                Optional<FileBody> is = second.setting(each);
                if (was.isPresent() || is.isPresent()) {
                    String name = first.isRoot(each.partition())
                            ? each.path()
                            : each.path().substring(1);
                    settings.add(MarkedFile.changed(new FileEdit(name, was, is), AROUND));
                }
            }
        }
        return new Changes(
                compared.changes(),
                List.copyOf(settings),
                packages(first.packages(), second.packages()),
                compared.cutShort());
    }

    private static List<PackageChange> packages(Map<String, String> before, Map<String, String> now) {
        List<PackageChange> changes = new ArrayList<>();
        TreeMap<String, String> all = new TreeMap<>(before);
        all.putAll(now);
        for (String name : all.keySet()) {
            Optional<String> was = Optional.ofNullable(before.get(name));
            Optional<String> is = Optional.ofNullable(now.get(name));
            if (!was.equals(is)) {
                changes.add(new PackageChange(name, was, is));
            }
        }
        return changes;
    }

    /** The file systems of one side; what is broken there holds nothing. */
    private static final class Readers {
        private final Map<Integer, FileSystemReader> readers = new HashMap<>();
        private final Map<Integer, Boolean> roots = new HashMap<>();

        Readers(BlockDevice device) throws IOException {
            DriveInspection inspection = Inspector.inspect(device);
            for (PartitionContent each : inspection.partitions()) {
                if (each.partition().endByte() <= device.size().bytes()
                        && !each.partition().holdsOthers()) {
                    int number = each.partition().number();
                    roots.put(number, each.fileSystem().kind().isExt());
                    try {
                        FileSystems.open(each.partition().on(device)).ifPresent(reader -> readers.put(number, reader));
                    } catch (UnreadableInput e) {
                        // Said by whoever checks it; here it holds nothing.
                        readers.remove(number);
                    }
                }
            }
        }

        boolean isRoot(int partition) {
            return roots.getOrDefault(partition, true);
        }

        /** In a root what stands in /etc; in a start partition every file. */
        boolean sets(FileChange change) {
            return !SECRET.matcher(change.path()).matches()
                    && (!isRoot(change.partition()) || change.path().startsWith("/etc/"));
        }

        /** Text alone, and no long one. */
        Optional<FileBody> setting(FileChange change) throws IOException {
            FileSystemReader reader = readers.get(change.partition());
            if (reader == null) {
                return Optional.empty();
            }
            try {
                return reader.body(change.path()).filter(body -> !body.link() && text(body.bytes()));
            } catch (UnreadableInput e) {
                return Optional.empty();
            }
        }

        private static boolean text(byte[] bytes) {
            if (bytes.length > LARGEST_SETTING) {
                return false;
            }
            for (byte each : bytes) {
                if (each == 0) {
                    return false;
                }
            }
            return true;
        }

        Map<String, String> packages() throws IOException {
            Map<String, String> packages = new TreeMap<>();
            for (Map.Entry<Integer, FileSystemReader> each : readers.entrySet()) {
                if (isRoot(each.getKey())) {
                    try {
                        packages.putAll(PackageList.of(each.getValue()));
                    } catch (UnreadableInput e) {
                        // A list that cannot be read is none.
                        packages.clear();
                    }
                }
            }
            return packages;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileBody;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.ext.ExtWriter;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.NotPossible;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FileEdit;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.firststart.dialect.MediumFiles;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Reads all files a first start may change: the small ones of the start partition, and of the root those that say who it is, who
 * gets in and how it comes by its network. At most some hundreds, of 64 KiB each.
 */
public final class FilesOnMedium {
    private static final int LARGEST = 64 << 10;
    private static final int MOST = 200;
    /** What people write in start partitions has one of these endings or none. */
    private static final Set<String> WRITTEN = Set.of("txt", "conf", "cfg", "yaml", "yml", "nmconnection", "ini", "");

    private static final List<String> ROOT_FILES = List.of(
            "/etc/hostname",
            "/etc/hosts",
            "/etc/fstab",
            "/etc/machine-id",
            "/var/lib/dbus/machine-id",
            "/var/lib/systemd/random-seed",
            "/etc/localtime",
            "/etc/timezone",
            "/etc/default/keyboard",
            "/etc/vconsole.conf",
            "/etc/passwd",
            "/etc/cloud/cloud.cfg",
            "/usr/sbin/sshd",
            "/usr/bin/apt-get",
            "/usr/lib/systemd/systemd-growfs",
            "/lib/systemd/systemd-growfs");
    /** Folders whose files are read, and those of which names are enough. */
    private static final List<String> READ = List.of(
            "/etc/ssh/",
            "/etc/ssh/sshd_config.d/",
            "/etc/ssh/authorized_keys/",
            "/etc/NetworkManager/",
            "/etc/NetworkManager/system-connections/",
            "/etc/wpa_supplicant/",
            "/etc/systemd/journald.conf.d/",
            "/etc/systemd/system/",
            "/etc/systemd/system/multi-user.target.wants/",
            "/etc/systemd/system/ssh.service.d/",
            "/etc/systemd/system/sshd.service.d/");

    private static final List<String> NAMED = List.of(
            "/usr/lib/systemd/system/",
            "/lib/systemd/system/",
            "/usr/share/initramfs-tools/scripts/init-bottom/",
            "/etc/initramfs-tools/scripts/init-bottom/",
            "/etc/init.d/");

    private final Map<String, FileBody> bodies = new TreeMap<>();
    private final Set<String> names = new TreeSet<>();

    private FilesOnMedium() {}

    /** Where contents: what was read of the same device before. */
    public static FirstStartFiles read(BlockDevice device, MediumContents contents, BoardProfile.StartFiles files)
            throws IOException {
        FilesOnMedium read = new FilesOnMedium();
        Optional<MediumContents.StartPartition> start = contents.start();
        if (start.isPresent()) {
            Optional<FileSystemReader> reader =
                    FileSystems.open(slice(device, contents, start.get().number()));
            if (reader.isPresent()) {
                read.names.addAll(start.get().names());
                read.startFiles(reader.get(), start.get(), files);
            }
        }
        Optional<String> fault = read.root(device, contents);
        String line = start.map(MediumContents.StartPartition::kernelLineFile).orElse(files.kernelLine());
        return contents.found(new MediumFiles(read.bodies, read.names, line, fault));
    }

    /** A partition by its number; the whole device where there is no table. */
    public static BlockDevice slice(BlockDevice device, MediumContents contents, int number) throws UnreadableInput {
        return contents.inspection().partitions().stream()
                .map(PartitionContent::partition)
                .filter(each -> each.number() == number)
                .findFirst()
                .map(partition -> partition.on(device))
                .orElseThrow(() -> new UnreadableInput(device.name() + " has no partition " + number + "."));
    }

    private void startFiles(FileSystemReader reader, MediumContents.StartPartition start, BoardProfile.StartFiles files)
            throws IOException {
        Set<String> known = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
        known.add(start.kernelLineFile());
        files.settings().ifPresent(known::add);
        files.userFile().ifPresent(known::add);
        files.cloudFile().ifPresent(known::add);
        for (String name : start.names()) {
            String ending = name.contains(".")
                    ? name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT)
                    : "";
            boolean wanted = known.contains(name) || WRITTEN.contains(ending);
            if (wanted && bodies.size() < MOST) {
                try {
                    body(reader, name, "/" + name);
                } catch (MediumException e) {
                    // Worn there, or not in what was read of a medium that is away: a name without a content.
                    bodies.remove(name);
                }
            }
        }
    }

    private void body(FileSystemReader reader, String name, String path) throws IOException {
        int slash = path.lastIndexOf('/');
        boolean small = reader.entries(path.substring(0, slash)).stream()
                .filter(entry -> entry.name().equals(path.substring(slash + 1)))
                .anyMatch(entry -> entry.kind() == FileEntry.EntryKind.LINK
                        || (entry.kind() == FileEntry.EntryKind.FILE && entry.size() <= LARGEST));
        if (small) {
            reader.body(path).ifPresent(body -> bodies.put(name, body));
        }
    }

    /** What can be read of the root is taken, whether or not it can be changed. */
    private Optional<String> root(BlockDevice device, MediumContents contents) throws IOException {
        Optional<PartitionContent> root = contents.rootPartition();
        if (root.isEmpty()) {
            return Optional.of("there is no ext root on it");
        }
        BlockDevice slice = root.get().partition().on(device);
        try {
            FileSystemReader reader = FileSystems.open(slice).orElseThrow();
            for (String path : ROOT_FILES) {
                int slash = path.lastIndexOf('/');
                if (reader.list(path.substring(0, slash)).contains(path.substring(slash + 1))) {
                    names.add(path);
                    body(reader, path, path);
                }
            }
            for (String folder : NAMED) {
                reader.list(folder).forEach(name -> names.add(folder + name));
            }
            for (String folder : READ) {
                for (FileEntry entry : reader.entries(folder)) {
                    names.add(folder + entry.name());
                    boolean small = entry.kind() == FileEntry.EntryKind.LINK
                            || (entry.kind() == FileEntry.EntryKind.FILE && entry.size() <= LARGEST);
                    if (small && bodies.size() < 2 * MOST) {
                        reader.body(folder + entry.name()).ifPresent(body -> bodies.put(folder + entry.name(), body));
                    }
                }
            }
            ExtWriter.of(slice);
            return Optional.empty();
        } catch (UnreadableInput | MediumException e) {
            String words = e.getMessage();
            return Optional.of(words.endsWith(".") ? words.substring(0, words.length() - 1) : words);
        }
    }

    /**
     * Makes the edits on a device, which should be a staged one, and reads each back.
     *
     * @throws NotPossible when a file does not stand there as the edit says, or does not read back as it was written
     */
    public static void put(BlockDevice device, MediumContents contents, List<FileEdit> edits) throws IOException {
        for (FileEdit edit : edits) {
            int number = edit.inRoot()
                    ? contents.rootPartition()
                            .map(content -> content.partition().number())
                            .orElseThrow(() -> new UnreadableInput(device.name() + " has no root to change."))
                    : contents.start()
                            .map(MediumContents.StartPartition::number)
                            .orElseThrow(() -> new UnreadableInput(device.name() + " has no start partition."));
            BlockDevice slice = slice(device, contents, number);
            String path = edit.inRoot() ? edit.file() : "/" + edit.file();
            if (!stands(slice, path, edit.before())) {
                throw new NotPossible(edit.file() + " on " + device.name()
                        + " is not what it was when this was planned; nothing was changed.");
            }
            put(slice, edit);
            if (!stands(slice, path, edit.after())) {
                throw new NotPossible(edit.file() + " does not read back as it was written; check the medium.");
            }
        }
    }

    private static void put(BlockDevice slice, FileEdit edit) throws IOException {
        if (edit.inRoot()) {
            ExtWriter writer = ExtWriter.of(slice);
            if (edit.after().isPresent()) {
                writer.write(edit.file(), edit.after().get());
            } else {
                writer.remove(edit.file());
            }
        } else if (edit.after().isPresent()) {
            FatWriter.write(slice, edit.file(), edit.after().get().bytes());
        } else {
            FatWriter.remove(slice, edit.file());
        }
    }

    /** Whether this is what stands there; where nothing was read before, nothing is asked but that it is no folder. */
    private static boolean stands(BlockDevice slice, String path, Optional<FileBody> body) throws IOException {
        Optional<FileBody> there = FileSystems.open(slice).orElseThrow().body(path);
        return body.isPresent() ? there.filter(body.get()::same).isPresent() : there.isEmpty();
    }
}

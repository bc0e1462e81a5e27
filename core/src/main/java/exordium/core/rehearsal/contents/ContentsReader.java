// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal.contents;

import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.board.BoardProfile;
import exordium.core.board.NamePattern;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.ElTorito;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.kernelline.FirstProgram;
import exordium.core.firststart.kernelline.KernelLine;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.Partition;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.TreeMap;

/** Reads what decides about a start from a drive's real bytes. A drive that is worn in places is read as far as it goes. */
public final class ContentsReader {
    private static final int MOST_NAMES = 5000;
    private static final int DEEPEST = 5;
    private static final String NETWORK_FILE = "network-config";
    private static final String BOOT = "boot";

    private ContentsReader() {}

    public static MediumContents read(BlockDevice device, BoardProfile.StartFiles files) throws IOException {
        return read(device, files, OptionalInt.empty());
    }

    /** The same as a start entry sees it that names one of several start partitions. */
    public static MediumContents readFrom(BlockDevice device, BoardProfile.StartFiles files, int partition)
            throws IOException {
        return read(device, files, OptionalInt.of(partition));
    }

    private static MediumContents read(BlockDevice device, BoardProfile.StartFiles files, OptionalInt named)
            throws IOException {
        DriveInspection inspection;
        try {
            inspection = Inspector.inspect(device);
        } catch (MediumException e) {
            return unknown(device, e);
        }
        Optional<MediumContents.StartPartition> start = Optional.empty();
        boolean firstFat = true;
        Map<Integer, MediumContents.RootFiles> roots = new TreeMap<>();
        Map<Integer, FileSystemReader> readers = new TreeMap<>();
        for (PartitionContent content : inspection.partitions()) {
            if (content.partition().endByte() > device.size().bytes()) {
                continue;
            }
            boolean fat = files.onExt()
                    ? content.fileSystem().kind().isExt()
                    : content.fileSystem().kind().isFat();
            boolean startsHere = fat
                    && (named.isPresent()
                            ? content.partition().number() == named.getAsInt()
                            : firstFat
                                    && (content.partition().startType()
                                            || files.onExt()
                                            || content.partition().number() == 0));
            firstFat &= !fat;
            try {
                Optional<FileSystemReader> reader =
                        FileSystems.open(content.partition().on(device));
                if (reader.isPresent() && startsHere) {
                    start = Optional.of(startPartition(content.partition().number(), reader.get(), files));
                }
                if (reader.isPresent() && content.fileSystem().kind().isExt()) {
                    roots.put(content.partition().number(), RootFacts.of(reader.get()));
                    readers.put(content.partition().number(), reader.get());
                }
            } catch (UnreadableInput | MediumException e) {
                // Broken structures: the partition then has no start files or no root, and the rehearsal says which.
                roots.remove(content.partition().number());
            }
        }
        boolean fromDiscs = files.loaders().stream()
                .anyMatch(name -> name.toUpperCase(Locale.ROOT).endsWith(".EFI"));
        if (start.isEmpty() && fromDiscs) {
            start = disc(device, files);
        }
        begins(start, files, roots, readers);
        return new MediumContents(inspection, start, roots, Optional.empty());
    }

    /** A disc has no partition for the firmware, but an image within that is one. */
    private static Optional<MediumContents.StartPartition> disc(BlockDevice device, BoardProfile.StartFiles files)
            throws IOException {
        try {
            Optional<Long> at = ElTorito.efiImage(device);
            if (at.isEmpty()) {
                return Optional.empty();
            }
            long length = device.size().bytes() - at.get();
            Optional<FileSystemReader> reader =
                    FileSystems.open(new Partition(0, at.get(), ByteSize.of(length), "El Torito", true, "").on(device));
            return reader.isEmpty() ? Optional.empty() : Optional.of(startPartition(0, reader.get(), files));
        } catch (UnreadableInput | MediumException e) {
            // Not whole: there is nothing to start from on it.
            return Optional.empty();
        }
    }

    /** What the kernel line has started in the place of the system, looked at in each root. */
    private static void begins(
            Optional<MediumContents.StartPartition> start,
            BoardProfile.StartFiles files,
            Map<Integer, MediumContents.RootFiles> roots,
            Map<Integer, FileSystemReader> readers)
            throws IOException {
        Optional<FirstProgram> first = start.flatMap(MediumContents.StartPartition::kernelLine)
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .flatMap(text -> KernelLine.in(text, files.kernelLineForm()))
                .flatMap(FirstProgram::in);
        if (first.isEmpty()) {
            return;
        }
        for (Map.Entry<Integer, MediumContents.RootFiles> root : roots.entrySet()) {
            Optional<FirstLook> look = look(first.get(), readers.get(root.getKey()));
            look.ifPresent(each -> root.setValue(root.getValue().beginning(each)));
        }
    }

    /** Nothing is said of a program that cannot be read. */
    private static Optional<FirstLook> look(FirstProgram program, FileSystemReader root) throws IOException {
        try {
            return Optional.of(FirstLook.at(program, root));
        } catch (UnreadableInput | MediumException e) {
            return Optional.empty();
        }
    }

    private static MediumContents unknown(BlockDevice device, MediumException why) {
        return MediumContents.unknown(device.size(), device.sectorSize(), why.getMessage());
    }

    /** What {@link #read} would give as the inspection, without the files. */
    public static DriveInspection inspection(BlockDevice device) throws IOException {
        try {
            return Inspector.inspect(device);
        } catch (MediumException e) {
            return unknown(device, e).inspection();
        }
    }

    private static MediumContents.StartPartition startPartition(
            int number, FileSystemReader reader, BoardProfile.StartFiles files) throws IOException {
        List<String> names = new ArrayList<>();
        names(reader, "", 1, files.onExt(), names);
        return startPartition(number, List.copyOf(names), files, path -> reader.read("/" + path));
    }

    /** Of a whole system only the folder that is started from is looked into. */
    private static void names(FileSystemReader reader, String folder, int depth, boolean onExt, List<String> names)
            throws IOException {
        for (FileEntry entry : reader.entries("/" + folder)) {
            if (names.size() >= MOST_NAMES) {
                return;
            }
            String path = folder.isEmpty() ? entry.name() : folder + "/" + entry.name();
            names.add(path);
            boolean inside = !onExt || path.equals(BOOT) || path.startsWith(BOOT + "/");
            if (entry.kind() == FileEntry.EntryKind.FOLDER && depth < DEEPEST && inside) {
                names(reader, path, depth + 1, onExt, names);
            }
        }
    }

    /** Reads a file of the start partition by its path. */
    interface Reading {
        Optional<byte[]> read(String path) throws IOException;
    }

    static MediumContents.StartPartition startPartition(
            int number, List<String> names, BoardProfile.StartFiles files, Reading reading) throws IOException {
        String kernelLine = kernelLine(names, files, reading);
        return new MediumContents.StartPartition(
                number,
                names,
                optional(files.settings(), reading),
                kernelLine,
                reading.read(kernelLine),
                optional(files.userFile(), reading),
                optional(files.cloudFile(), reading),
                files.cloudFile().isPresent() ? reading.read(NETWORK_FILE) : Optional.empty());
    }

    private static Optional<byte[]> optional(Optional<String> path, Reading reading) throws IOException {
        return path.isPresent() ? reading.read(path.get()) : Optional.empty();
    }

    /** Where entries are files of their own, the loader's default names one, else the first is taken. */
    private static String kernelLine(List<String> names, BoardProfile.StartFiles files, Reading reading)
            throws IOException {
        String usual = files.kernelLine();
        if (files.kernelLineForm() != BoardProfile.KernelLineForm.OPTIONS) {
            return usual;
        }
        String folder = usual.substring(0, usual.lastIndexOf('/') + 1);
        List<String> entries = names.stream()
                .filter(name -> name.startsWith(folder) && name.endsWith(".conf"))
                .sorted()
                .toList();
        Optional<String> wanted = reading.read("loader/loader.conf")
                .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                .flatMap(text -> text.lines()
                        .map(String::strip)
                        .filter(line -> line.startsWith("default "))
                        .map(line -> line.substring(8).strip())
                        .findFirst());
        Optional<String> chosen = wanted.flatMap(name -> entries.stream()
                .filter(entry -> NamePattern.isLike(entry, folder + name) || entry.equals(folder + name + ".conf"))
                .findFirst());
        boolean usualThere = entries.isEmpty() || names.stream().anyMatch(usual::equalsIgnoreCase);
        return chosen.orElse(usualThere ? usual : entries.get(0));
    }

    /** The folder that a server hands out in the place of a start partition. */
    public static MediumContents.StartPartition folder(
            Path folder, BoardProfile.StartFiles files, Optional<byte[]> menu) throws IOException {
        List<String> names = new ArrayList<>();
        try (var all = Files.walk(folder, DEEPEST)) {
            for (Path each : all.limit(MOST_NAMES).toList()) {
                if (!each.equals(folder)) {
                    names.add(folder.relativize(each).toString());
                }
            }
        }
        MediumContents.StartPartition plain = startPartition(0, List.copyOf(names), files, path -> {
            Path file = folder.resolve(path);
            return Files.isRegularFile(file) && Files.size(file) <= FileSystemReader.LARGEST_FILE
                    ? Optional.of(Files.readAllBytes(file))
                    : Optional.empty();
        });
        return menu.isEmpty()
                ? plain
                : new MediumContents.StartPartition(
                        0,
                        plain.names(),
                        plain.settings(),
                        plain.kernelLineFile(),
                        menu,
                        plain.userFile(),
                        plain.cloudFile(),
                        plain.networkFile());
    }
}

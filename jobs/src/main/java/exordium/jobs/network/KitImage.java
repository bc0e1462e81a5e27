// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.network;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.image.ImageFile;
import exordium.core.inspection.PartitionContent;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** An image that boards start from over the network: its start files and its root. */
final class KitImage implements Closeable {
    private static final int MOST_FILES = 20_000;
    private static final int DEEPEST = 12;

    private final String name;
    private final UnpackedImage image;
    private final Map<BoardProfile.StartFiles, MediumContents> contents = new HashMap<>();

    private KitImage(String name, UnpackedImage image) {
        this.name = name;
        this.image = image;
    }

    static KitImage open(Path file, TransferWatch watch) throws IOException {
        return new KitImage(String.valueOf(file.getFileName()), UnpackedImage.open(ImageFile.open(file), false, watch));
    }

    /** A start file; path from the top of its partition. */
    record StartFile(String path, long size) {}

    BlockDevice device() {
        return image.device();
    }

    MediumContents contents(BoardProfile profile) throws IOException {
        MediumContents read = contents.get(profile.startFiles());
        if (read == null) {
            read = ContentsReader.read(device(), profile.startFiles());
            contents.put(profile.startFiles(), read);
        }
        return read;
    }

    FirstStartFiles found(BoardProfile profile) throws IOException {
        return FilesOnMedium.read(device(), contents(profile), profile.startFiles());
    }

    /** @throws UnreadableInput when it has none */
    FileSystemReader start(BoardProfile profile) throws IOException {
        MediumContents contents = contents(profile);
        int number = contents.start()
                .map(MediumContents.StartPartition::number)
                .orElseThrow(() -> new UnreadableInput(name + " has no start partition: nothing could be handed out."));
        PartitionContent start = contents.inspection().partitions().stream()
                .filter(each -> each.partition().number() == number)
                .findFirst()
                .orElseThrow();
        return FileSystems.open(start.partition().on(device())).orElseThrow();
    }

    private PartitionContent rootPartition(BoardProfile profile) throws IOException {
        return contents(profile)
                .rootPartition()
                .orElseThrow(() -> new UnreadableInput(name + " has no ext root: nothing could be exported."));
    }

    FileSystemReader root(BoardProfile profile) throws IOException {
        return FileSystems.open(rootPartition(profile).partition().on(device())).orElseThrow();
    }

    ByteSize rootUsed(BoardProfile profile) throws IOException {
        return rootPartition(profile).fileSystem().used().orElse(ByteSize.ZERO);
    }

    List<StartFile> startFiles(BoardProfile profile) throws IOException {
        List<StartFile> files = new ArrayList<>();
        collect(start(profile), "", 0, files);
        return files;
    }

    private void collect(FileSystemReader reader, String folder, int depth, List<StartFile> files) throws IOException {
        for (FileEntry entry : reader.entries("/" + folder)) {
            String path = folder.isEmpty() ? entry.name() : folder + "/" + entry.name();
            if (path.contains("..") || files.size() >= MOST_FILES) {
                throw new OverBound(
                        name + " has more start files, or stranger ones, than a start partition holds.", files.size());
            }
            if (entry.kind() == FileEntry.EntryKind.FOLDER && depth < DEEPEST) {
                collect(reader, path, depth + 1, files);
            } else if (entry.kind() == FileEntry.EntryKind.FILE) {
                files.add(new StartFile(path, entry.size()));
            }
        }
    }

    @Override
    public void close() throws IOException {
        image.close();
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.multiboot;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.dialect.SelfGrowth;
import exordium.core.inspection.PartitionContent;
import exordium.core.multiboot.LayoutImage;
import exordium.core.multiboot.LayoutPlan;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** A system in its image, as a layout takes it. */
final class SystemImage implements LayoutImage.Source {
    private static final int MOST_FILES = 20_000;
    private static final long MOST_BYTES = 512L << 20;

    private final BlockDevice device;
    private final BoardProfile board;
    private final MediumContents contents;

    SystemImage(BlockDevice device, BoardProfile board) throws IOException {
        this.device = device;
        this.board = board;
        this.contents = ContentsReader.read(device, board.startFiles());
    }

    private static PartitionContent startOf(MediumContents contents) throws UnreadableInput {
        int number = contents.start()
                .map(MediumContents.StartPartition::number)
                .orElseThrow(() -> new UnreadableInput("There is no start partition in the image."));
        return contents.inspection().partitions().stream()
                .filter(each -> each.partition().number() == number)
                .findFirst()
                .orElseThrow();
    }

    /** A file of a drive's start partition. */
    static Optional<byte[]> startFile(BlockDevice device, MediumContents contents, String path) throws IOException {
        return FileSystems.open(startOf(contents).partition().on(device))
                .orElseThrow()
                .read("/" + path);
    }

    LayoutPlan.ImageFacts facts() throws IOException {
        PartitionContent root = LayoutJob.root(contents);
        long files = 0;
        for (byte[] each : startFiles().values()) {
            files += each.length;
        }
        SelfGrowth growth =
                FilesOnMedium.read(device, contents, board.startFiles()).growth();
        ByteSize size = root.partition().size();
        // Without its tools a root keeps the size it has.
        ByteSize least = FittedRoot.here() ? root.fileSystem().used().orElse(size) : size;
        return new LayoutPlan.ImageFacts(size, least, ByteSize.of(files), contents.hasKernelFor(board), growth);
    }

    @Override
    public Map<String, byte[]> startFiles() throws IOException {
        Map<String, byte[]> files = new TreeMap<>();
        FileSystemReader reader =
                FileSystems.open(startOf(contents).partition().on(device)).orElseThrow();
        long[] left = {MOST_BYTES};
        collect(reader, "", files, left);
        return files;
    }

    private static void collect(FileSystemReader reader, String folder, Map<String, byte[]> files, long[] left)
            throws IOException {
        for (FileEntry entry : reader.entries("/" + folder)) {
            String path = folder.isEmpty() ? entry.name() : folder + "/" + entry.name();
            if (entry.kind() == FileEntry.EntryKind.FOLDER && path.split("/").length < 12) {
                collect(reader, path, files, left);
            } else if (entry.kind() == FileEntry.EntryKind.FILE) {
                left[0] -= entry.size();
                if (left[0] < 0 || files.size() > MOST_FILES) {
                    throw new UnreadableInput("The start partition holds more than one of a system does.");
                }
                ByteArrayOutputStream out = new ByteArrayOutputStream((int) entry.size());
                reader.copy("/" + path, out);
                files.put(path, out.toByteArray());
            }
        }
    }

    @Override
    public void root(Path file, ByteSize size) throws IOException {
        PartitionContent root = LayoutJob.root(contents);
        FittedRoot.put(root.partition().on(device), file, size);
    }

    @Override
    public List<String> partUuids() throws IOException {
        return List.of(
                startOf(contents).partition().partUuid(),
                LayoutJob.root(contents).partition().partUuid());
    }
}

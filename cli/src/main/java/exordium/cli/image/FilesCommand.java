// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.block.BlockDevice;
import exordium.core.block.MediumException;
import exordium.core.block.TransferWatch;
import exordium.core.filesystem.FileEntry;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileOut;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.Inspector;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Inspections;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code files}: what is in a partition of an image or a drive, and files out of it. */
@Command(name = "files", description = "List the files in an image or a drive, or copy one out.")
public final class FilesCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "IMAGE")
    private Path image;

    @Parameters(index = "1", paramLabel = "PATH", defaultValue = "/", description = "a folder, or with --to a file")
    private String path;

    @Option(names = "--partition", paramLabel = "N", defaultValue = "1", description = "0 where there is no table")
    private int partition;

    @Option(names = "--to", paramLabel = "FILE", description = "copy the file there")
    private Path to;

    private record EntryOut(String name, String kind, long bytes) {}

    private record CopiedOut(String file, long bytes) {}

    @Override
    public Integer call() throws IOException {
        try {
            return Inspections.inside(image, common.readable(), TransferWatch.NONE, this::from);
        } catch (MediumException e) {
            if (Files.isRegularFile(image)) {
                throw new UnreadableInput(
                        image.getFileName() + " names bytes that are not in it: " + e.getMessage() + ".", e);
            }
            throw e;
        }
    }

    private Integer from(BlockDevice device) throws IOException {
        FileSystemReader reader = Inspector.filesOf(device, partition);
        if (to != null) {
            copy(reader);
            return ExitCode.DONE;
        }
        List<FileEntry> entries = reader.entries(path).stream()
                .sorted(Comparator.comparing(FileEntry::kind).thenComparing(FileEntry::name))
                .toList();
        if (entries.isEmpty() && !path.equals("/") && reader.read(path).isPresent()) {
            throw new UnreadableInput(path + " is a file; copy it out with --to FILE.");
        }
        common.print(
                entries.stream()
                        .map(each -> new EntryOut(each.name(), word(each), each.size()))
                        .toList(),
                entries.stream()
                        .map(each -> String.format(
                                Locale.ROOT,
                                "%-7s %10s  %s",
                                word(each),
                                each.kind() == FileEntry.EntryKind.FILE
                                        ? ByteSize.of(each.size()).said()
                                        : "",
                                each.name()))
                        .toList());
        return ExitCode.DONE;
    }

    private static String word(FileEntry entry) {
        return entry.kind().name().toLowerCase(Locale.ROOT);
    }

    private void copy(FileSystemReader reader) throws IOException {
        long bytes = FileOut.copy(reader, path, to)
                .orElseThrow(
                        () -> new UnreadableInput("There is no file " + path + " in partition " + partition + "."));
        common.print(
                new CopiedOut(to.toString(), bytes),
                List.of(to + ": " + ByteSize.of(bytes).exact() + "."));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli.copies;

import exordium.cli.common.Common;
import exordium.cli.common.ExitCode;
import exordium.core.filesystem.FileEntry;
import exordium.jobs.copies.vault.CopyFiles;
import exordium.jobs.copies.vault.CopyJob;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code copy files}: looks into a copy and takes files out of it. */
@Command(name = "files", description = "Look into a copy, or take a file out of it.")
public final class CopyFilesCommand implements Callable<Integer> {
    private record FilesOut(
            String copy,
            int partition,
            String path,
            List<EntryOut> entries,
            Optional<Long> bytes,
            Optional<String> to) {}

    private record EntryOut(String name, String kind, long size) {}

    private record VersionOut(long id, Instant proven, String file, boolean there, Optional<Long> bytes, int content) {}

    @Mixin
    private Common common;

    @Parameters(index = "0", paramLabel = "ID", description = "a copy's number or name, or a board for its newest")
    private String id;

    @Parameters(index = "1", paramLabel = "PATH", arity = "0..1", defaultValue = "/")
    private String path;

    @Option(names = "--to", paramLabel = "FILE", description = "where the file goes; must not exist")
    private Path to;

    @Option(names = "--history", description = "in which copies of the board this file changed")
    private boolean history;

    @Override
    public Integer call() throws IOException {
        Common.House house = common.house();
        CopyJob copies = new CopyJob(house.bench(), house.sheets());
        CopyFiles files = new CopyFiles(house.bench(), copies);
        if (history) {
            List<CopyFiles.Version> versions = files.history(copies.find(id).board(), path).stream()
                    .filter(CopyFiles.Version::changed)
                    .toList();
            common.print(
                    versions.stream()
                            .map(each -> new VersionOut(
                                    each.copy().id(),
                                    each.copy().proven(),
                                    each.copy().file(),
                                    each.bytes().isPresent(),
                                    each.bytes(),
                                    each.which()))
                            .toList(),
                    versions.stream()
                            .map(each ->
                                    each.copy().proven() + "  " + each.copy().file() + "  "
                                            + each.bytes()
                                                    .map(bytes -> bytes + " bytes")
                                                    .orElse("not there"))
                            .toList());
            return ExitCode.DONE;
        }
        CopyFiles.Found found = files.look(id, path);
        Optional<Long> bytes = found.file().map(FileEntry::size);
        if (to != null) {
            bytes = Optional.of(files.takeOut(id, path, to));
        }
        List<String> lines = to != null
                ? List.of(found.path() + " was taken out to " + to + ", " + bytes.get() + " bytes.")
                : found.entries().stream()
                        .map(each ->
                                each.kind().name().toLowerCase(Locale.ROOT) + "  " + each.size() + "  " + each.name())
                        .toList();
        common.print(
                new FilesOut(
                        found.copy().file(),
                        found.partition(),
                        found.path(),
                        found.entries().stream()
                                .map(each -> new EntryOut(
                                        each.name(), each.kind().name().toLowerCase(Locale.ROOT), each.size()))
                                .toList(),
                        bytes,
                        Optional.ofNullable(to).map(Path::toString)),
                lines);
        return ExitCode.DONE;
    }
}

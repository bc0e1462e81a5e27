// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import com.fasterxml.jackson.core.JsonProcessingException;
import exordium.core.block.Durable;
import exordium.core.block.FileExtents;
import exordium.core.block.FolderLock;
import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import java.io.IOException;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Puts a whole workspace into one zip, as {@link WorkspaceArchive} takes it in. */
public final class WorkspaceExport {
    private static final JobRunner.DeedKind EXPORT = JobRunner.DeedKind.keyed(
            "workspace-export", Step.COPIES, "taking along", "There is no file; the workspace is as it was.");

    private WorkspaceExport() {}

    /**
     * Writes all of a workspace into one file; it is there when it is whole, and not before.
     *
     * @throws NameTaken when there is a file of that name
     * @throws exordium.core.finding.Refused while something is being done in the workspace
     */
    public static void write(Workbench bench, Path to, TransferWatch watch) throws IOException {
        if (Files.exists(to)) {
            throw new NameTaken("There is a file " + to + " already; nothing was written.", to.toString());
        }
        Path whole = to.toAbsolutePath();
        if (!Files.isDirectory(whole.getParent())) {
            throw new UnreadableInput("There is no folder " + whole.getParent() + " to put the file in.");
        }
        if (whole.normalize().startsWith(bench.folder().toAbsolutePath().normalize())) {
            throw new UnreadableInput("Put the file somewhere outside the workspace it is made of.");
        }
        new JobRunner(bench).keyed(EXPORT, Key.workspace(), Optional.empty(), () -> {
            put(bench, whole, watch);
            return new JobRunner.Outcome<>(
                    null, "workspace-taken-along", "All of the workspace was put into " + to + ".");
        });
    }

    private static void put(Workbench bench, Path whole, TransferWatch watch) throws IOException {
        Path working = Files.createTempFile(whole.getParent(), ".exordium", ".part");
        Path registers = working.resolveSibling(working.getFileName() + ".db");
        try {
            bench.workspace().copyRegisters(registers);
            Map<String, Path> files = files(bench);
            long total = 0;
            for (Path file : files.values()) {
                for (FileExtents.Extent stretch : FileExtents.of(file)) {
                    total += stretch.bytes();
                }
            }
            ArchiveListing listing = new ArchiveListing();
            try (ZipOutputStream zip = listing.listed(Files.newOutputStream(working))) {
                zip.setLevel(Deflater.BEST_SPEED);
                copy(zip, WorkspaceArchive.REGISTERS, registers, watch, total);
                for (Map.Entry<String, Path> file : files.entrySet()) {
                    if (file.getKey().startsWith("drives/")) {
                        drive(zip, file.getKey(), file.getValue(), watch, total);
                    } else {
                        copy(zip, file.getKey(), file.getValue(), watch, total);
                    }
                }
                entry(zip, WorkspaceArchive.HEAD, head(bench, listing.digest()));
            }
            Files.move(working, whole, StandardCopyOption.ATOMIC_MOVE);
        } finally {
            Files.deleteIfExists(working);
            Files.deleteIfExists(registers);
        }
    }

    /** By the name each has in the archive. The vault goes along wherever it lies, and comes back into the workspace. */
    private static Map<String, Path> files(Workbench bench) throws IOException {
        Map<String, Path> files = new LinkedHashMap<>();
        for (String part : WorkspaceArchive.FOLDERS.stream().sorted().toList()) {
            if (part.equals(WorkspaceArchive.VAULT)) {
                Path vault = bench.standing().here();
                for (Path file : VaultFiles.whole(vault).stream().sorted().toList()) {
                    files.put(name(part, vault, file), file);
                }
                continue;
            }
            Path folder = bench.folder().resolve(part);
            if (Files.isDirectory(folder)) {
                try (Stream<Path> all = Files.walk(folder)) {
                    all.filter(each -> Files.isRegularFile(each) && !Files.isSymbolicLink(each))
                            .filter(each -> !each.toString().endsWith(".part")
                                    && !each.toString().endsWith(Durable.HALF)
                                    && !each.endsWith(FolderLock.FILE))
                            .sorted()
                            .forEach(file -> files.put(name(part, folder, file), file));
                }
            }
        }
        return files;
    }

    private static String name(String part, Path folder, Path file) {
        return part + "/" + folder.relativize(file).toString().replace('\\', '/');
    }

    private static byte[] head(Workbench bench, String listing) throws JsonProcessingException {
        return WorkspaceArchive.JSON
                .writerWithDefaultPrettyPrinter()
                .writeValueAsBytes(Map.of(
                        "format",
                        "exordium-workspace",
                        "version",
                        WorkspaceArchive.VERSION,
                        "name",
                        bench.rules().workspaceName(),
                        "exported",
                        bench.clock().instant().toString(),
                        "listing",
                        listing));
    }

    private static void entry(ZipOutputStream zip, String name, byte[] content) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(content);
        zip.closeEntry();
    }

    private static void copy(ZipOutputStream zip, String name, Path file, TransferWatch watch, long total)
            throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
            stretch(zip, in, new FileExtents.Extent(0, in.length()), watch, total);
        }
        zip.closeEntry();
    }

    private static void drive(ZipOutputStream zip, String name, Path file, TransferWatch watch, long total)
            throws IOException {
        List<FileExtents.Extent> stretches = FileExtents.of(file);
        long size = Files.size(file);
        long held = stretches.stream().mapToLong(FileExtents.Extent::bytes).sum();
        if (held == size) {
            copy(zip, name, file, watch, total);
            return;
        }
        entry(
                zip,
                name + WorkspaceArchive.MAP,
                WorkspaceArchive.JSON.writeValueAsBytes(Map.of("bytes", size, "stretches", stretches)));
        zip.putNextEntry(new ZipEntry(name + WorkspaceArchive.DATA));
        try (RandomAccessFile in = new RandomAccessFile(file.toFile(), "r")) {
            for (FileExtents.Extent stretch : stretches) {
                stretch(zip, in, stretch, watch, total);
            }
        }
        zip.closeEntry();
    }

    private static void stretch(
            OutputStream out, RandomAccessFile in, FileExtents.Extent stretch, TransferWatch watch, long total)
            throws IOException {
        byte[] chunk = new byte[WorkspaceArchive.CHUNK];
        in.seek(stretch.at());
        for (long left = stretch.bytes(); left > 0; ) {
            watch.goOnOrStop();
            long begin = System.nanoTime();
            int got = in.read(chunk, 0, (int) Math.min(chunk.length, left));
            if (got < 0) {
                return;
            }
            out.write(chunk, 0, got);
            left -= got;
            watch.moved(TransferWatch.Phase.COPYING, stretch.at(), got, System.nanoTime() - begin, total);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.rehearsal;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Reads what decides about a start from a drive's real bytes. */
public final class ContentsReader {
    /** Programs a kernel starts first, in the order it looks (Linux kernel, init/main.c). */
    private static final List<String> FIRST_PROGRAMS = List.of("/sbin/init", "/etc/init", "/bin/init", "/bin/sh");

    private static final String LOGIN_SERVICE = "ssh.service";
    private static final int ELF_CLASS = 4;

    private ContentsReader() {}

    public static MediumContents read(BlockDevice device, BoardProfile.StartFiles files) throws IOException {
        DriveInspection inspection = Inspector.inspect(device);
        Optional<MediumContents.StartPartition> start = Optional.empty();
        Map<Integer, MediumContents.RootFiles> roots = new TreeMap<>();
        for (PartitionContent content : inspection.partitions()) {
            if (content.partition().endByte() > device.size().bytes()) {
                continue;
            }
            try {
                Optional<FileSystemReader> reader =
                        FileSystems.open(content.partition().on(device));
                if (reader.isEmpty()) {
                    continue;
                }
                boolean fat = content.fileSystem().kind().isFat();
                if (fat
                        && start.isEmpty()
                        && (content.partition().startType()
                                || content.partition().number() == 0)) {
                    start = Optional.of(startPartition(content, reader.get(), files));
                } else if (content.fileSystem().kind().isExt()) {
                    roots.put(content.partition().number(), rootFiles(reader.get()));
                }
            } catch (UnreadableInput e) {
                // Broken structures: the partition then has no start files or no root, and the rehearsal says which.
                roots.remove(content.partition().number());
            }
        }
        return new MediumContents(inspection, start, roots);
    }

    private static MediumContents.StartPartition startPartition(
            PartitionContent content, FileSystemReader reader, BoardProfile.StartFiles files) throws IOException {
        List<String> names = new ArrayList<>(reader.list("/"));
        Optional<byte[]> settings = Optional.empty();
        if (files.settings().isPresent()) {
            settings = reader.read("/" + files.settings().get());
        }
        return new MediumContents.StartPartition(
                content.partition().number(), List.copyOf(names), settings, reader.read("/" + files.kernelLine()));
    }

    private static MediumContents.RootFiles rootFiles(FileSystemReader reader) throws IOException {
        Optional<Integer> width = Optional.empty();
        for (String program : FIRST_PROGRAMS) {
            Optional<byte[]> content = reader.read(program);
            if (content.isPresent() && content.get().length > ELF_CLASS && content.get()[0] == 0x7F) {
                width = Optional.of(content.get()[ELF_CLASS] == 2 ? 64 : 32);
                break;
            }
        }
        return new MediumContents.RootFiles(
                reader.read("/etc/fstab").map(bytes -> new String(bytes, StandardCharsets.UTF_8)),
                width,
                reader.has("/etc/systemd/system/multi-user.target.wants", LOGIN_SERVICE));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FatWriter;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.NewIdentifier;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;

/**
 * Gives a clone another disk identifier, and changes every kernel line and fstab on it that names the old one. The fstab in
 * an ext root is changed with debugfs of e2fsprogs; where that is not installed nothing is begun.
 */
public final class NewIdentity {
    private static final String TOOL = "debugfs";

    private final Workbench workbench;
    private final LongSupplier random;

    /** Where random: gives the new identifier. */
    public NewIdentity(Workbench workbench, LongSupplier random) {
        this.workbench = workbench;
        this.random = random;
    }

    /** What was changed. */
    public record Given(String before, String after, List<String> files) {}

    /** @throws UnreadableInput when it has no MBR, or the tool for its root is not there; nothing is changed then */
    public Given give(Media.Medium medium) throws IOException {
        Path file = workbench.driveFile(medium.file());
        String before;
        String after;
        List<String> changed = new ArrayList<>();
        List<RootFile> roots = new ArrayList<>();
        try (BlockDevice device = VirtualDrive.open(workbench.reader(), file, true)) {
            DriveInspection inspection = Inspector.inspect(device);
            before = inspection.table().diskId().map(DiskIdentifier::text).orElse("");
            if (!before.matches("[0-9a-f]{8}")) {
                throw new UnreadableInput(medium.name() + " has no MBR whose identifier could be changed.");
            }
            after = fresh(before);
            roots = roots(device, inspection, before, after);
            if (!roots.isEmpty() && tool().isEmpty()) {
                throw new UnreadableInput("The root's fstab names the old identifier, and changing it takes " + TOOL
                        + " (Debian package e2fsprogs), which is not installed; nothing was changed.");
            }
            for (PartitionContent content : inspection.partitions()) {
                if (content.fileSystem().kind().isFat()) {
                    changed.addAll(startFiles(content.partition().on(device), before, after));
                }
            }
            NewIdentifier.write(device, new DiskIdentifier(after));
        }
        for (RootFile root : roots) {
            replace(file, root);
            changed.add("/etc/fstab");
        }
        new MediaRegister(workbench).look(medium);
        new MediaRegister(workbench)
                .log(
                        medium,
                        "identifier-changed",
                        "has the disk identifier " + after + " instead of " + before
                                + (changed.isEmpty() ? "." : "; changed with it: " + String.join(", ", changed) + "."));
        return new Given(before, after, List.copyOf(changed));
    }

    private String fresh(String before) {
        String after = before;
        while (after.equals(before) || after.equals("00000000")) {
            after = String.format(Locale.ROOT, "%08x", random.getAsLong() & 0xFFFFFFFFL);
        }
        return after;
    }

    /** Kernel lines of every family that reads this partition. */
    private List<String> startFiles(BlockDevice slice, String before, String after) throws IOException {
        List<String> changed = new ArrayList<>();
        Set<String> names = new HashSet<>();
        for (BoardProfile profile : workbench.profiles().all()) {
            names.add(profile.startFiles().kernelLine());
        }
        for (String name : names) {
            Optional<byte[]> content = FileSystems.open(slice).orElseThrow().read("/" + name);
            String text = content.map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                    .orElse("");
            String other = renamed(text, before, after);
            if (!other.equals(text)) {
                FatWriter.write(slice, name, other.getBytes(StandardCharsets.UTF_8));
                changed.add(name);
            }
        }
        return changed;
    }

    private record RootFile(long offset, String content) {}

    private static List<RootFile> roots(BlockDevice device, DriveInspection inspection, String before, String after)
            throws IOException {
        List<RootFile> roots = new ArrayList<>();
        for (PartitionContent content : inspection.partitions()) {
            if (content.fileSystem().kind().isExt()) {
                Optional<FileSystemReader> reader =
                        FileSystems.open(content.partition().on(device));
                Optional<byte[]> fstab = reader.isPresent() ? reader.get().read("/etc/fstab") : Optional.empty();
                String text = fstab.map(bytes -> new String(bytes, StandardCharsets.UTF_8))
                        .orElse("");
                String other = renamed(text, before, after);
                if (!other.equals(text)) {
                    roots.add(new RootFile(content.partition().startByte(), other));
                }
            }
        }
        return roots;
    }

    /** Partition identifiers begin with the disk's; nothing else is touched. */
    private static String renamed(String text, String before, String after) {
        return text.replaceAll("(?i)(PARTUUID=\"?)" + before + "(-[0-9a-f]{2})", "$1" + after + "$2");
    }

    private static Optional<String> tool() {
        return List.of("/usr/sbin/", "/sbin/", "/usr/bin/").stream()
                .map(folder -> folder + TOOL)
                .filter(path -> Files.isExecutable(Path.of(path)))
                .findFirst();
    }

    private static void replace(Path image, RootFile root) throws IOException {
        Path content = Files.createTempFile("fstab", ".txt");
        Path commands = Files.createTempFile("fstab", ".debugfs");
        try {
            Files.writeString(content, root.content());
            Files.writeString(
                    commands, "rm /etc/fstab\ncd /etc\nwrite " + content + " fstab\nsif fstab mode 0100644\nquit\n");
            Process process = new ProcessBuilder(
                            tool().orElseThrow(), "-w", "-f", commands.toString(), image + "?offset=" + root.offset())
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (!process.waitFor(60, TimeUnit.SECONDS) || process.exitValue() != 0) {
                process.destroyForcibly();
                throw new UnreadableInput("The root's fstab could not be changed; change it by hand: "
                        + root.content().strip());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new java.io.InterruptedIOException("interrupted while changing fstab");
        } finally {
            Files.delete(content);
            Files.delete(commands);
        }
    }
}

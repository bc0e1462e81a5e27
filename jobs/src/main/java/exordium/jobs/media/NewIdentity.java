// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.BlockDevice;
import exordium.core.block.StagedDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.ext.ExtReader;
import exordium.core.filesystem.fat.FatWriter;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.DiskIdentifier;
import exordium.core.layout.NewIdentifier;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.store.Media;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongSupplier;

/**
 * Gives a clone another disk identifier, and changes every kernel line and fstab on it that names the old one. Everything is
 * worked out first and carried out in one step that a journal ends if it is cut off. An identifier is as long as the one it
 * stands in for, so an fstab in an ext root is changed within its own blocks.
 */
public final class NewIdentity {
    private static final JobRunner.DeedKind KIND = new JobRunner.DeedKind(
            "new-identifier",
            Step.STORAGE,
            "giving another identifier to",
            "may have its new identifier in part only; its journal brings it in order at the next look.");

    private final Workbench workbench;
    private final LongSupplier random;

    /** Where random: gives the new identifier. */
    public NewIdentity(Workbench workbench, LongSupplier random) {
        this.workbench = workbench;
        this.random = random;
    }

    /** What was changed. */
    public record Changed(String before, String after, List<String> files) {}

    /** @throws UnreadableInput when it has no MBR, or a file that names the old one cannot be changed; nothing is then */
    public Changed give(Media.Medium medium) throws IOException {
        return give(medium, workbench.targets().of(medium));
    }

    public Changed give(Media.Medium medium, Targets.Target target) throws IOException {
        Changed given = new JobRunner(workbench)
                .run(KIND, target, Optional.empty(), TransferWatch.NONE, (device, keeping) -> {
                    StagedDevice staged = new StagedDevice(device);
                    Changed planned = stage(medium, staged);
                    keeping.carryOut(device, staged);
                    return new JobRunner.Outcome<>(planned, "", words(planned));
                });
        if (workbench.isHere(medium)) {
            new MediaRegister(workbench).look(medium);
        }
        new MediaRegister(workbench).log(medium, "identifier-changed", words(given));
        return given;
    }

    private static String words(Changed given) {
        return "has the disk identifier " + given.after() + " instead of " + given.before()
                + (given.files().isEmpty() ? "." : "; changed with it: " + String.join(", ", given.files()) + ".");
    }

    private Changed stage(Media.Medium medium, BlockDevice device) throws IOException {
        DriveInspection inspection = Inspector.inspect(device);
        String before = inspection.table().diskId().map(DiskIdentifier::text).orElse("");
        if (!before.matches("[0-9a-f]{8}")) {
            throw new UnreadableInput(medium.name() + " has no MBR whose identifier could be changed.");
        }
        String after = fresh(before);
        List<String> changed = new ArrayList<>();
        for (PartitionContent content : inspection.partitions()) {
            BlockDevice slice = content.partition().on(device);
            if (content.fileSystem().kind().isFat()) {
                changed.addAll(startFiles(slice, before, after));
            } else if (content.fileSystem().kind().isExt()) {
                changed.addAll(root(slice, before, after));
            }
        }
        NewIdentifier.write(device, new DiskIdentifier(after));
        return new Changed(before, after, List.copyOf(changed));
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
            String text = content.map(bytes -> new String(bytes, StandardCharsets.ISO_8859_1))
                    .orElse("");
            String other = DiskIdentifier.renamed(text, before, after);
            if (!other.equals(text)) {
                FatWriter.write(slice, name, other.getBytes(StandardCharsets.ISO_8859_1));
                changed.add(name);
            }
        }
        return changed;
    }

    private static List<String> root(BlockDevice slice, String before, String after) throws IOException {
        if (!(FileSystems.open(slice).orElseThrow() instanceof ExtReader reader)) {
            return List.of();
        }
        Optional<byte[]> fstab = reader.read("/etc/fstab");
        // Every byte stands for itself, so that the length stays whatever is written there.
        String text = fstab.map(bytes -> new String(bytes, StandardCharsets.ISO_8859_1))
                .orElse("");
        String other = DiskIdentifier.renamed(text, before, after);
        if (other.equals(text)) {
            return List.of();
        }
        reader.overwrite("/etc/fstab", other.getBytes(StandardCharsets.ISO_8859_1));
        return List.of("/etc/fstab");
    }
}

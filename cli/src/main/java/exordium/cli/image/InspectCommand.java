// SPDX-License-Identifier: Apache-2.0
package exordium.cli.image;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.core.block.BlockDevice;
import exordium.core.finding.OverBound;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.lint.TriedPasswords;
import exordium.core.image.ContainerKind;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.inspection.UnpackedImage;
import exordium.core.layout.DiskIdentifier;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.contents.StartKit;
import exordium.jobs.bench.Targets;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.CancellationException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code inspect}: what is in an image or on a drive. */
@Command(name = "inspect", description = "Show what is in an image or on a drive.")
public final class InspectCommand implements Callable<Integer> {
    @Mixin
    private Common common;

    @Parameters(paramLabel = "FILE")
    private Path file;

    @Option(names = "--digest", description = "work out the SHA-256 of the uncompressed image")
    private boolean digest;

    @Option(names = "--sum", paramLabel = "HEX", description = "a published checksum to hold the file against")
    private String sum;

    private record PartitionOut(
            int number,
            long startByte,
            long bytes,
            String type,
            boolean active,
            String partUuid,
            String filesystem,
            String label,
            String uuid,
            Optional<Long> usedBytes) {}

    private record InspectOut(
            String container,
            long compressedBytes,
            long bytes,
            Optional<String> sha256,
            String publishedChecksum,
            String table,
            int sectorSize,
            Optional<String> diskId,
            List<PartitionOut> partitions,
            Optional<String> system,
            StartKit start,
            long usedBytes,
            long unallocatedBytes,
            long leastMediumBytes,
            List<Common.FindingOut> findings) {}

    @Override
    public Integer call() throws IOException {
        if (Files.exists(file) && !Files.isRegularFile(file)) {
            return drive();
        }
        ImageFile image = ImageFile.open(file);
        try (ConsoleProgress progress = common.progress(false)) {
            LongLook look = new LongLook(progress.meter(), image.name(), common::message);
            try (UnpackedImage unpacked = UnpackedImage.open(image, digest, look)) {
                show(image, unpacked);
            } catch (CancellationException e) {
                if (look.tooLong()) {
                    throw new OverBound(
                            image.name()
                                    + " was not unpacked within an hour; unpack it first and give the image itself.",
                            1);
                }
                throw e;
            }
        }
        return ExitCode.DONE;
    }

    private void show(ImageFile image, UnpackedImage unpacked) throws IOException {
        PublishedChecksum.State published =
                sum == null ? PublishedChecksum.check(image.path()) : PublishedChecksum.check(image.path(), sum);
        show(
                image.kind(),
                image.compressedSize(),
                unpacked.sha256(),
                published,
                Inspector.inspect(unpacked.device()),
                kit(unpacked.device()));
    }

    private int drive() throws IOException {
        Targets.Target target = common.readable().at(file, ByteSize.ZERO);
        if (digest) {
            throw new UnreadableInput("--digest is for image files; " + file + " is a drive.");
        }
        try (BlockDevice device = target.opener().open(false)) {
            show(
                    ContainerKind.RAW,
                    device.size(),
                    Optional.empty(),
                    PublishedChecksum.State.NONE_KNOWN,
                    Inspector.inspect(device),
                    kit(device));
        }
        return ExitCode.DONE;
    }

    private StartKit kit(BlockDevice device) throws IOException {
        return StartKit.of(
                device,
                common.profiles().all(),
                TriedPasswords.with(common.folder().resolve("profiles")));
    }

    private void show(
            ContainerKind kind,
            ByteSize compressed,
            Optional<String> sha256,
            PublishedChecksum.State published,
            DriveInspection inspection,
            StartKit kit) {
        InspectOut out = new InspectOut(
                kind.code(),
                compressed.bytes(),
                inspection.size().bytes(),
                sha256,
                word(published),
                inspection.table().kind().code(),
                inspection.table().sectorSize(),
                inspection.table().diskId().map(DiskIdentifier::text),
                inspection.partitions().stream().map(InspectCommand::partition).toList(),
                inspection.system().map(system -> system.title()),
                kit,
                inspection.used().bytes(),
                inspection.unallocated().bytes(),
                inspection.leastMedium().bytes(),
                Common.out(inspection.findings()));
        List<String> lines = new ArrayList<>();
        lines.add(file.getFileName() + ": " + kind.code() + ", "
                + inspection.size().exact() + " = "
                + inspection.size().binary() + ", table " + out.table()
                + out.diskId().map(id -> ", disk identifier " + id).orElse(""));
        inspection.system().ifPresent(system -> lines.add("  holds " + system.title()));
        for (PartitionOut part : out.partitions()) {
            lines.add("  " + part.number() + "  " + part.filesystem()
                    + (part.label().isEmpty() ? "" : " " + part.label())
                    + ", " + ByteSize.of(part.bytes()).said() + " from byte " + part.startByte()
                    + part.usedBytes()
                            .map(used -> ", " + ByteSize.of(used).said() + " used")
                            .orElse(""));
        }
        if (!kit.boards().isEmpty()) {
            lines.add("  " + kit.said());
            kit.kernelLine().ifPresent(text -> lines.add("  kernel line: " + text));
        }
        lines.add("  fits media of " + inspection.leastMedium().exact() + " and more");
        sha256.ifPresent(sum -> lines.add("  SHA-256 " + sum));
        lines.addAll(Common.lines(inspection.findings()));
        common.print(out, lines);
    }

    public static String word(PublishedChecksum.State state) {
        return switch (state) {
            case AGREES -> "agrees";
            case DIFFERS -> "differs";
            case NONE_KNOWN -> "none-known";
        };
    }

    private static PartitionOut partition(PartitionContent content) {
        return new PartitionOut(
                content.partition().number(),
                content.partition().startByte(),
                content.partition().size().bytes(),
                content.partition().type(),
                content.partition().active(),
                content.partition().partUuid(),
                content.fileSystem().kind().code(),
                content.fileSystem().label(),
                content.fileSystem().uuid(),
                content.fileSystem().used().map(ByteSize::bytes));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.cli.media;

import exordium.cli.common.Common;
import exordium.cli.common.ConsoleProgress;
import exordium.cli.common.ExitCode;
import exordium.cli.image.InspectCommand;
import exordium.core.quantity.ByteSize;
import exordium.jobs.shelf.Intake;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code shelf}: takes images onto the shelf and virtual drives into the drawer. */
@Command(
        name = "shelf",
        description = "Take images onto the shelf and virtual drives into the drawer.",
        mixinStandardHelpOptions = true)
public final class ShelfCommand {
    private record ImageOut(String id, String title, String file, long bytes, String publishedChecksum) {}

    private record MediumOut(String id, String name, String kind, long bytes, String place) {}

    @Command(name = "image", description = "Copy an image file to the shelf and look into it.")
    int image(@Mixin Common common, @Parameters(paramLabel = "FILE") Path file) throws IOException {
        Images.Image image;
        try (ConsoleProgress progress = common.progress(false)) {
            image = new Intake(common.workbench()).image(file, progress.meter());
        }
        common.print(
                new ImageOut(
                        image.id(),
                        image.title(),
                        image.file(),
                        image.size().bytes(),
                        InspectCommand.word(image.checksum())),
                List.of(image.title() + " is on the shelf: " + image.file() + ", checksum "
                        + InspectCommand.word(image.checksum()) + "."));
        return ExitCode.DONE;
    }

    @Command(name = "drive", description = "Make a virtual drive with the usual pace of its kind.")
    int drive(
            @Mixin Common common,
            @Parameters(paramLabel = "NAME") String name,
            @Option(names = "--kind", required = true, paramLabel = "KIND") String kind,
            @Option(names = "--size", required = true, paramLabel = "SIZE", description = "such as \"31.9 GB\"")
                    String size)
            throws IOException {
        Media.Medium medium = new Intake(common.workbench()).drive(name, kind, ByteSize.parse(size));
        common.print(
                new MediumOut(
                        medium.id(), medium.name(), medium.kind(), medium.size().bytes(), medium.place()),
                List.of(medium.name() + " lies in the drawer: " + medium.file() + ", "
                        + medium.size().exact() + "."));
        return ExitCode.DONE;
    }
}

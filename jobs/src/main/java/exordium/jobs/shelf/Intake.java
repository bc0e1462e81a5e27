// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.shelf;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.firststart.settings.StockForms;
import exordium.core.image.ImageFile;
import exordium.core.image.PublishedChecksum;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.InstalledSystem;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import exordium.jobs.bench.StockShelf;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import exordium.jobs.run.Recovery;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Images;
import exordium.store.Media;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Takes new things into the workspace: an image file, a virtual drive. Each is checked before it is kept. */
public final class Intake {
    private static final int CHUNK = 1 << 20;

    private static final JobRunner.DeedKind SHELVE =
            JobRunner.DeedKind.keyed(Recovery.SHELVE, Step.IMAGE, "shelving", "Nothing of it is kept.");
    private static final JobRunner.DeedKind MAKE =
            JobRunner.DeedKind.keyed("drive-make", Step.STORAGE, "making a virtual drive in", "Nothing of it is kept.");

    private final Workbench workbench;

    public Intake(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Copies an image file, with the checksum published beside it, to the shelf and looks into it.
     *
     * @throws UnreadableInput when it is no image that can be read, or one of that name is on the shelf already
     */
    public Images.Image image(Path file, TransferWatch watch) throws IOException {
        return image(file, Optional.empty(), watch);
    }

    /** The same with a published checksum that was pasted; it counts before one that lies beside the file. */
    public Images.Image image(Path file, Optional<String> pasted, TransferWatch watch) throws IOException {
        ImageFile image = ImageFile.open(file);
        // One of several in an archive goes on the shelf alone; what was published is the archive's sum all the same.
        boolean oneOfSeveral = !image.path().equals(file);
        String name = oneOfSeveral
                ? String.valueOf(Path.of(image.entry().orElseThrow()).getFileName())
                : image.name();
        Path kept = workbench.workspace().images().resolve(name);
        if (Files.exists(kept)) {
            throw new NameTaken("There is an image " + name + " on the shelf already.", name);
        }
        Optional<String> published = pasted.isPresent()
                ? Optional.of(PublishedChecksum.hex(pasted.get()))
                : PublishedChecksum.besides(image.path());
        String id = freeImageId(name);
        return new JobRunner(workbench).keyed(SHELVE, Key.shelf(name), Optional.empty(), () -> {
            Images.Image shelved = put(file, image, name, published, id, watch);
            return new JobRunner.Outcome<>(
                    shelved, "image-shelved", shelved.title() + ": " + name + " put on the shelf.");
        });
    }

    private Images.Image put(
            Path file, ImageFile image, String name, Optional<String> published, String id, TransferWatch watch)
            throws IOException {
        boolean oneOfSeveral = !image.path().equals(file);
        Path kept = workbench.workspace().images().resolve(name);
        Path working = kept.resolveSibling(name + ".part");
        boolean shelvedWell = false;
        try {
            if (oneOfSeveral) {
                copy(image.stream(), working, image.uncompressedSize().orElse(image.compressedSize()), watch);
            } else {
                copy(Files.newInputStream(file), working, image.compressedSize(), watch);
            }
            PublishedChecksum.State state = published.isEmpty()
                    ? PublishedChecksum.State.NONE_KNOWN
                    : PublishedChecksum.check(oneOfSeveral ? image.path() : working, published.get());
            Images.Image shelved = shelved(id, name, working, state, watch, this::stock);
            if (published.isPresent() && !oneOfSeveral) {
                Files.writeString(
                        kept.resolveSibling(name + PublishedChecksum.suffix(published.get())),
                        published.get() + "  " + name + "\n");
            }
            Files.move(working, kept, StandardCopyOption.ATOMIC_MOVE);
            workbench.workspace().imageShelf().add(shelved);
            shelvedWell = true;
            return shelved;
        } finally {
            Files.deleteIfExists(working);
            if (!shelvedWell) {
                // What the register does not know is not kept either, so that it can be tried again.
                Files.deleteIfExists(kept);
                if (published.isPresent()) {
                    Files.deleteIfExists(kept.resolveSibling(name + PublishedChecksum.suffix(published.get())));
                }
            }
        }
    }

    /** The settings file as this system brings it is one of which nothing is to be said. */
    private void stock(BlockDevice device, DriveInspection inspection) throws IOException {
        Set<String> names = workbench.profiles().all().stream()
                .flatMap(each -> each.startFiles().settings().stream())
                .collect(Collectors.toSet());
        new StockShelf(workbench.folder(), workbench.reader()).add(StockForms.on(device, inspection, names));
        workbench.familiesChanged();
    }

    /** The name without what says that it is an image; where another container of that name is there already, all of it. */
    private String freeImageId(String name) {
        String plain = name.replaceAll("\\.(img|iso)(\\.\\w+)?$", "");
        boolean taken = workbench.workspace().imageShelf().all().stream()
                .anyMatch(image -> image.id().equals(plain));
        return taken ? name : plain;
    }

    /** What the shelf says of an image file, from looking into it. */
    public static Images.Image shelved(
            String id, String name, Path file, PublishedChecksum.State checksum, TransferWatch watch)
            throws IOException {
        return shelved(id, name, file, checksum, watch, (device, inspection) -> {});
    }

    /** Looks at an image besides, while it is open. */
    private interface Beside {
        void look(BlockDevice device, DriveInspection inspection) throws IOException;
    }

    private static Images.Image shelved(
            String id, String name, Path file, PublishedChecksum.State checksum, TransferWatch watch, Beside beside)
            throws IOException {
        ImageFile image = ImageFile.open(file);
        try (UnpackedImage unpacked = UnpackedImage.open(image, false, watch)) {
            DriveInspection inspection = Inspector.inspect(unpacked.device());
            beside.look(unpacked.device(), inspection);
            return new Images.Image(
                    id,
                    inspection.system().map(InstalledSystem::title).orElse(id),
                    name,
                    image.kind().code(),
                    image.compressedSize(),
                    unpacked.device().size(),
                    inspection.leastMedium(),
                    checksum,
                    inspection.system().map(InstalledSystem::version).orElse(""));
        }
    }

    private static void copy(InputStream from, Path to, ByteSize size, TransferWatch watch) throws IOException {
        byte[] chunk = new byte[CHUNK];
        long position = 0;
        try (InputStream in = from;
                OutputStream out = Files.newOutputStream(to)) {
            for (int got = in.read(chunk); got >= 0; got = in.read(chunk)) {
                watch.goOnOrStop();
                long begin = System.nanoTime();
                out.write(chunk, 0, got);
                watch.moved(TransferWatch.Phase.COPYING, position, got, System.nanoTime() - begin, size.bytes());
                position += got;
            }
        }
    }

    /** A sound one. */
    public Media.Medium drive(String name, String kind, ByteSize size) throws IOException {
        return drive(name, kind, size, List.of());
    }

    /**
     * Makes a virtual drive, with the usual pace of its kind, and puts it in the drawer.
     *
     * @param faults what it does wrong, to practise with, in the form virtual drives are described in
     */
    public Media.Medium drive(String name, String kind, ByteSize size, List<String> faults) throws IOException {
        MediumKind made = workbench.kind(kind);
        String id = identifier(name, "medium");
        if (size.bytes() < 512) {
            throw new UnreadableInput("A drive has at least one sector of 512 bytes.");
        }
        Path file = workbench.driveFile(id + ".img");
        DriveDescription description = new DriveDescription(
                name.strip(),
                made.bus(),
                "",
                ByteSize.of(size.bytes() / 512 * 512),
                Optional.of(made.writeRate()),
                Optional.of(made.readRate()),
                faults);
        Media.Medium medium = new Media.Medium(
                id,
                name.strip(),
                made.id(),
                "",
                description.bytes(),
                id + ".img",
                Optional.empty(),
                ByteSize.ZERO,
                "drawer");
        return new JobRunner(workbench).keyed(MAKE, Key.drawer(), Optional.empty(), () -> {
            VirtualDrive.create(workbench.reader(), file, description);
            workbench.workspace().media().add(medium);
            return new JobRunner.Outcome<>(
                    medium,
                    "drive-made",
                    medium.name() + ": virtual drive, " + made.title() + ", "
                            + medium.size().exact() + ".");
        });
    }

    /** "Tide clock" becomes "tide-clock"; letters with marks lose them. */
    public static String identifier(String name, String what) throws UnreadableInput {
        String plain = Normalizer.normalize(name.strip(), Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
        if (plain.isEmpty()) {
            throw new UnreadableInput("Give the " + what + " a name with letters or digits in it.");
        }
        return plain;
    }
}

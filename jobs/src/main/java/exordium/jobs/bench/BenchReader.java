// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.access.BoardState;
import exordium.core.block.BlockDevice;
import exordium.core.block.FileStamp;
import exordium.core.board.BoardProfile;
import exordium.core.firststart.dialect.FirstStartFiles;
import exordium.core.image.ImageFile;
import exordium.core.inspection.AsRead;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.UnpackedImage;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/**
 * Puts boards on the bench for rehearsing: what is attached is read from the real bytes. Reading is remembered until
 * the drive's file changes.
 */
public final class BenchReader {
    private final Workbench workbench;
    private final Map<String, Remembered> read = new ConcurrentHashMap<>();

    private record Remembered(FileTime changed, MediumContents contents) {}

    private final KitNetwork kit;

    public BenchReader(Workbench workbench) {
        this.workbench = workbench;
        this.kit = new KitNetwork(workbench.workspace().folder().resolve("network"));
    }

    public Bench of(Workbench.BoardAtHand at) throws IOException {
        return of(at, workbench.workspace().media().listed());
    }

    public Bench of(Workbench.BoardAtHand at, List<Media.Listed> media) throws IOException {
        BoardState board = at.board();
        List<Bench.Attached> attached = new ArrayList<>();
        for (BoardState.Plug plug : board.attached()) {
            Optional<Media.Medium> medium = RegisterSnapshot.byFile(media, plug.drive());
            attached.add(new Bench.Attached(
                    plug.port(),
                    medium.map(Media.Medium::name).orElse(plug.drive()),
                    workbench.kind(plug.kind()),
                    plug.silent(),
                    plug.seated(),
                    contents(plug.drive(), () -> medium, at.profile()),
                    plug.enclosure().flatMap(workbench.media()::enclosure)));
        }
        return new Bench(
                at.profile(),
                board.serial(),
                board.mac(),
                board.firmware(),
                board.chip().config(),
                at.order(),
                board.supply(),
                attached,
                kit.of(board.mac(), at.profile()).orElse(Bench.Network.USUAL));
    }

    /** What is on the medium a board starts from; empty where it has none. */
    public Optional<MediumContents> mainContents(Workbench.BoardAtHand at) throws IOException {
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        return medium.isPresent() ? Optional.of(contents(medium.get().file(), at.profile())) : Optional.empty();
    }

    /** Since when what is known of a drive is known; empty where it is a drive of the workspace, read as it is now. */
    public Optional<Instant> asOf(Media.Medium medium) throws IOException {
        return Files.isRegularFile(workbench.driveFile(medium.file()))
                ? Optional.empty()
                : workbench.readings().last(medium).map(AsRead::at);
    }

    /** Whether nothing is known of what is on it: it is away, and was never read. */
    public boolean unread(Media.Medium medium) throws IOException {
        return !Files.isRegularFile(workbench.driveFile(medium.file()))
                && workbench.readings().last(medium).isEmpty();
    }

    /** A medium that is away is as it was last read. */
    private MediumContents away(String drive, Optional<Media.Medium> medium, BoardProfile profile) throws IOException {
        Optional<AsRead> last = medium.isPresent() ? workbench.readings().last(medium.get()) : Optional.empty();
        if (last.isEmpty()) {
            return MediumContents.unknown(
                    medium.map(Media.Medium::size).orElse(ByteSize.ZERO),
                    512,
                    medium.map(Media.Medium::name).orElse(drive)
                            + " was never read here: plug it into this machine and read it");
        }
        String key = key(drive, profile);
        FileTime at = FileTime.from(last.get().at());
        Remembered known = read.get(key);
        if (known == null || !known.changed().equals(at)) {
            known = new Remembered(at, ContentsReader.read(last.get().device(), profile.startFiles()));
            read.put(key, known);
        }
        return known.contents();
    }

    /** All files a first start may change, of the medium a board starts from; empty where it has none or nothing is known of it. */
    public Optional<FirstStartFiles> mainFiles(Workbench.BoardAtHand at) throws IOException {
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        if (medium.isEmpty() || unread(medium.get())) {
            return Optional.empty();
        }
        MediumContents contents = contents(medium.get().file(), at.profile());
        Path file = workbench.driveFile(medium.get().file());
        if (Files.isRegularFile(file)) {
            try (BlockDevice device = reading(file)) {
                return Optional.of(
                        FilesOnMedium.read(device, contents, at.profile().startFiles()));
            }
        }
        BlockDevice away = workbench.readings().last(medium.get()).orElseThrow().device();
        return Optional.of(FilesOnMedium.read(away, contents, at.profile().startFiles()));
    }

    /** The bytes of the medium a board starts from, here or as last read; empty where it has none or nothing is known of it. */
    public Optional<BlockDevice> mainDevice(Workbench.BoardAtHand at) throws IOException {
        Optional<Media.Medium> medium = workbench.mainMedium(at);
        if (medium.isEmpty()) {
            return Optional.empty();
        }
        Path file = workbench.driveFile(medium.get().file());
        return Files.isRegularFile(file)
                ? Optional.of(reading(file))
                : workbench.readings().last(medium.get()).map(AsRead::device);
    }

    /** What of an image of the shelf decides whether it starts a board; only its head is unpacked, once. */
    public MediumContents inImage(Path file, ByteSize size, BoardProfile profile) throws IOException {
        FileTime changed = Files.getLastModifiedTime(file);
        String key = key(file.toString(), profile);
        Remembered known = read.get(key);
        if (known == null || !known.changed().equals(changed)) {
            try (UnpackedImage head = UnpackedImage.asNeeded(ImageFile.open(file), size)) {
                known = new Remembered(changed, ContentsReader.read(head.device(), profile.startFiles()));
            }
            read.put(key, known);
        }
        return known.contents();
    }

    public MediumContents contents(String drive, BoardProfile profile) throws IOException {
        return contents(drive, () -> workbench.workspace().media().byFile(drive), profile);
    }

    /** The same of a medium that is known already. */
    public MediumContents contents(Media.Medium medium, BoardProfile profile) throws IOException {
        return contents(medium.file(), () -> Optional.of(medium), profile);
    }

    /** What a medium is judged from, by its file's number, size and times; empty where nothing is known of it. */
    public String stamp(Media.Medium medium) throws IOException {
        Path file = workbench.driveFile(medium.file());
        return Files.isRegularFile(file)
                ? FileStamp.of(file)
                : workbench.readings().stamp(medium);
    }

    /** How a medium is divided and what systems are on it: quicker than all of its contents, where nobody asked for those yet. */
    public DriveInspection inspection(Media.Medium medium, BoardProfile profile) throws IOException {
        Path file = workbench.driveFile(medium.file());
        if (!Files.isRegularFile(file)) {
            return contents(medium, profile).inspection();
        }
        FileTime changed = Files.getLastModifiedTime(file);
        Remembered known = read.get(key(medium.file(), profile));
        if (known != null && known.changed().equals(changed)) {
            return known.contents().inspection();
        }
        try (BlockDevice device = reading(file)) {
            return ContentsReader.inspection(device);
        }
    }

    private static String key(String drive, BoardProfile profile) {
        return drive + " " + profile.id();
    }

    private MediumContents contents(String drive, Supplier<Optional<Media.Medium>> medium, BoardProfile profile)
            throws IOException {
        Path file = workbench.driveFile(drive);
        if (!Files.isRegularFile(file)) {
            return away(drive, medium.get(), profile);
        }
        FileTime changed = Files.getLastModifiedTime(file);
        String key = key(drive, profile);
        Remembered known = read.get(key);
        if (known == null || !known.changed().equals(changed)) {
            try (BlockDevice device = reading(file)) {
                known = new Remembered(changed, ContentsReader.read(device, profile.startFiles()));
            }
            read.put(key, known);
        }
        return known.contents();
    }

    /** Inspections of small structures do not keep a simulated drive's pace. */
    private BlockDevice reading(Path file) throws IOException {
        return exordium.core.block.FileDevice.sparse(
                file, VirtualDrive.describe(workbench.reader(), file).bytes());
    }
}

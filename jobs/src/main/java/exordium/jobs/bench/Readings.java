// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileStamp;
import exordium.core.board.BoardProfile;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.AsRead;
import exordium.core.inspection.DriveInspection;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.InstalledSystem;
import exordium.core.layout.DiskIdentifier;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.FilesOnMedium;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Media as they were last read: what a medium that is away is judged by. Kept in the workspace, a file a medium, readable by its
 * owner alone, since a root's accounts are in it.
 */
public final class Readings {
    private final Workbench workbench;
    private final Map<String, Loaded> loaded = new ConcurrentHashMap<>();

    private record Loaded(FileTime changed, AsRead reading) {}

    Readings(Workbench workbench) {
        this.workbench = workbench;
    }

    private Path file(Media.Medium medium) {
        return workbench.folder().resolve("read").resolve(medium.id() + ".zip");
    }

    /** Reads everything of a medium that any family of boards goes by, and keeps it. */
    public AsRead read(Media.Medium medium, BlockDevice device) throws IOException {
        return read(medium, device, workbench.clock().instant());
    }

    /** Where at: when that was. */
    public AsRead read(Media.Medium medium, BlockDevice device, Instant at) throws IOException {
        AsRead reading = AsRead.of(device, at, asked -> {
            Inspector.inspect(asked);
            MediumContents contents = null;
            BoardProfile.StartFiles files = null;
            for (BoardProfile profile : workbench.profiles().all()) {
                contents = ContentsReader.read(asked, profile.startFiles());
                files = profile.startFiles();
            }
            if (contents != null) {
                // Text files of any family, and the root's own, are the same whoever asks.
                FilesOnMedium.read(asked, contents, files);
            }
        });
        Path file = file(medium);
        Files.createDirectories(file.getParent());
        reading.save(file);
        if (Files.getFileStore(file).supportsFileAttributeView("posix")) {
            Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-------"));
        }
        putDown(medium, Inspector.inspect(reading.device()), at);
        return reading;
    }

    /** Puts down in the register what was found on a medium, and when. */
    public Media.Details putDown(Media.Medium medium, DriveInspection inspection, Instant at) {
        Media media = workbench.workspace().media();
        Media.Details was = media.details(medium.id());
        Media.Details now = new Media.Details(
                was.label(),
                was.state(),
                was.note(),
                was.since(),
                inspection.table().diskId().map(DiskIdentifier::text),
                inspection
                        .system()
                        .map(InstalledSystem::title)
                        .orElse(inspection.partitions().isEmpty() ? "nothing" : "no system known"),
                Optional.of(at));
        media.put(medium.id(), now);
        return now;
    }

    /**
     * What was read last; empty where it never was.
     *
     * @throws UnreadableInput when what was kept is damaged
     */
    public Optional<AsRead> last(Media.Medium medium) throws IOException {
        Path file = file(medium);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        FileTime changed = Files.getLastModifiedTime(file);
        Loaded known = loaded.get(medium.id());
        if (known == null || !known.changed().equals(changed)) {
            known = new Loaded(changed, AsRead.load(file));
            loaded.put(medium.id(), known);
        }
        return Optional.of(known.reading());
    }

    /** Another one whenever it was read again; empty where it never was. */
    String stamp(Media.Medium medium) throws IOException {
        Path file = file(medium);
        return Files.isRegularFile(file) ? FileStamp.of(file) : "";
    }

    /** Something was done to it and nobody has read it since. */
    public void forget(Media.Medium medium) throws IOException {
        Files.deleteIfExists(file(medium));
        loaded.remove(medium.id());
    }

    /** After a deed on a drive of the machine: what is on it now, or nothing where that cannot be read. */
    public void afterDeed(Media.Medium medium, BlockDevice device, boolean whole) throws IOException {
        forget(medium);
        if (whole) {
            try {
                read(medium, device);
            } catch (IOException e) {
                // The deed itself is told by its own report; of the medium nothing is known until it is read again.
                forget(medium);
            }
        }
    }
}

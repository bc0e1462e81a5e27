// SPDX-License-Identifier: Apache-2.0
package exordium.core.firmware;

import exordium.core.block.BlockDevice;
import exordium.core.board.BoardProfile;
import exordium.core.filesystem.FileSystemReader;
import exordium.core.filesystem.volume.FileSystems;
import exordium.core.finding.UnreadableInput;
import exordium.core.inspection.Inspector;
import exordium.core.inspection.PartitionContent;
import exordium.core.layout.DiskIdentifier;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A card that has a board's firmware chip written anew (docs/formats/firmware.md): one FAT32 partition with the payload under the name the
 * board looks for, the manifest of its release, and the settings the board has afterwards.
 *
 * @param settings empty for the factory's
 */
public record RecoveryCard(FirmwareBundle bundle, Optional<FirmwareConfig> settings) {
    /** Any card has room for it. */
    public static final ByteSize SIZE = ByteSize.of(64L << 20);

    private static final long STEP = 16L << 20;
    private static final String MANIFEST = "recovery.json";
    /** Boards that are played need none; it stands for the one that a maker's set brings. */
    private static final String PROGRAM = "In the place of a maker's program that writes the chip.\n";

    private static final String SETTINGS = "recovery-settings.txt";

    /** What a card says the board is to have. */
    public record Content(Optional<FirmwareRelease> release, byte[] payload, Optional<FirmwareConfig> settings) {}

    /** The files on it. @throws UnreadableInput when this family has no chip that a card could write */
    public Map<String, byte[]> files(BoardProfile profile) throws UnreadableInput {
        String name = fileName(profile);
        if (!bundle.manifest().boards().contains(profile.id())) {
            throw new UnreadableInput("This release is for "
                    + String.join(", ", bundle.manifest().boards()) + ", and not for a " + profile.id() + ".");
        }
        List<String> names = RecoverySet.names(profile);
        Map<String, byte[]> files = new LinkedHashMap<>();
        files.put(name, PROGRAM.getBytes(StandardCharsets.UTF_8));
        files.put(names.get(1), bundle.payload());
        if (names.size() > 2) {
            files.put(names.get(2), (FirmwareBundle.sha256(bundle.payload()) + "\n").getBytes(StandardCharsets.UTF_8));
        }
        files.put(MANIFEST, bundle.manifestBytes());
        settings.ifPresent(config -> files.put(SETTINGS, (config.text() + "\n").getBytes(StandardCharsets.UTF_8)));
        return files;
    }

    private static String fileName(BoardProfile profile) throws UnreadableInput {
        List<String> names = profile.firmware().recovery().orElse(List.of());
        if (!profile.firmware().inChip() || names.isEmpty()) {
            throw new UnreadableInput("A " + profile.id()
                    + " has no firmware chip that a card could write anew; its firmware comes with its system.");
        }
        return RecoverySet.names(profile).get(0);
    }

    /** Makes its image, with a table of one partition. */
    public static void image(Map<String, byte[]> files, Path file) throws IOException {
        int mark = 0;
        long bytes = 0;
        for (Map.Entry<String, byte[]> each : files.entrySet()) {
            mark = mark * 31 + Arrays.hashCode(each.getValue());
            bytes += each.getValue().length;
        }
        ByteSize size = bytes < SIZE.bytes() / 2 ? SIZE : ByteSize.of((bytes * 2 / STEP + 1) * STEP);
        CardImage.make(file, size, DiskIdentifier.ofMbr(mark & 0xFFFF_FFFFL), "RECOVERY", files);
    }

    /**
     * What is on a card that a board takes for one; empty where it is none. One that was not made here tells no release.
     *
     * @throws UnreadableInput when it is damaged
     */
    public static Optional<Content> read(
            BlockDevice device, BoardProfile profile, FirmwareCatalogue catalogue, ProfileReader reader)
            throws IOException {
        for (PartitionContent each : Inspector.inspect(device).partitions()) {
            if (!each.fileSystem().kind().isFat()) {
                continue;
            }
            FileSystemReader files =
                    FileSystems.open(each.partition().on(device)).orElseThrow();
            List<String> there = files.list("/");
            Optional<String> file = there.stream()
                    .filter(name -> RecoverySet.isImage(profile, name))
                    .findFirst();
            if (file.isEmpty() || !RecoverySet.writes(profile, there)) {
                return Optional.empty();
            }
            byte[] payload = files.read("/" + file.get()).orElse(new byte[0]);
            Optional<byte[]> manifest = files.read("/" + MANIFEST);
            Optional<FirmwareRelease> release = Optional.empty();
            if (manifest.isPresent()) {
                FirmwareBundle.Manifest told = reader.user(
                        MANIFEST + " on the card",
                        manifest.get(),
                        FirmwareBundle.SCHEMA,
                        FirmwareBundle.Manifest.class);
                if (!FirmwareBundle.sha256(payload).equals(told.payload().sha256())) {
                    throw new UnreadableInput(file.get() + " on the card is not whole: its SHA-256 is another one than "
                            + MANIFEST + " says. Nothing was written to the chip.");
                }
                release = Optional.of(told.release(catalogue.channel(told.channel())));
            }
            Optional<FirmwareConfig> settings = files.read("/" + SETTINGS)
                    .map(text -> new FirmwareConfig(new String(text, StandardCharsets.UTF_8).strip()));
            return Optional.of(new Content(release, payload, settings));
        }
        return Optional.empty();
    }
}

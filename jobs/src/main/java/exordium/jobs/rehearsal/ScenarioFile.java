// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.rehearsal;

import exordium.core.access.CarrierKind;
import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.image.ContainerKind;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.rehearsal.contents.MediumContents;
import exordium.core.storage.media.Enclosure;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import exordium.jobs.rehearsal.real.RealBench;
import exordium.sim.VirtualDrive;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** A board on the bench described in a file (docs/formats/scenario.md). Paths are relative to the file. */
public record ScenarioFile(
        Board board,
        Optional<Supply> supply,
        FirmwareState firmware,
        List<Attachment> attached,
        Optional<NetworkState> network) {
    private static final String SCHEMA = "/exordium/profiles/scenario.schema.json";

    /** The board itself. Fuses are numbers of bits that are set. */
    public record Board(
            String profile,
            Optional<ByteSize> ramBytes,
            Optional<String> serial,
            Optional<String> mac,
            Optional<List<Integer>> fuses,
            boolean buttonHeld) {}

    /** What its firmware is and holds. */
    public record FirmwareState(LocalDate version, String config) {}

    /** A medium on a port. */
    public record Attachment(
            String port, String medium, Optional<String> carrier, String image, Optional<Boolean> seated) {}

    /** What the network offers. */
    public record NetworkState(
            boolean link,
            boolean dhcp,
            Optional<Boolean> internet,
            Optional<String> tftpRoot,
            Optional<List<Export>> exports) {}

    /** A root the server hands out. */
    public record Export(String path, Optional<String> root) {}

    /** Reads a scenario with everything it names. @throws UnreadableInput with the name of what is wrong */
    public static Bench bench(ProfileReader reader, Path file, Path userProfiles) throws IOException {
        ScenarioFile scenario = reader.user(file, SCHEMA, ScenarioFile.class);
        BoardProfile profile = BoardProfiles.shipped()
                .withFolder(reader, userProfiles)
                .require(scenario.board().profile());
        MediaCatalogue media = MediaCatalogue.shipped();
        List<Bench.Attached> attached = new ArrayList<>();
        for (Attachment each : scenario.attached()) {
            if (profile.port(each.port()).isEmpty()) {
                throw new UnreadableInput("A " + profile.id() + " has no port \"" + each.port() + "\"; there are "
                        + String.join(
                                ", ",
                                profile.ports().stream()
                                        .map(BoardProfile.Port::id)
                                        .toList()) + ".");
            }
            MediumKind kind = media.kind(each.medium())
                    .orElseThrow(() -> new UnreadableInput("There is no kind of medium \"" + each.medium()
                            + "\"; there are "
                            + String.join(
                                    ", ",
                                    media.kinds().stream().map(MediumKind::id).toList()) + "."));
            requireFree(each, profile, attached);
            Optional<Enclosure> enclosure = enclosure(each, media, profile);
            Path image = file.toAbsolutePath().resolveSibling(each.image());
            if (Files.isDirectory(image)) {
                throw new UnreadableInput(each.image() + " is a folder, not an image.");
            }
            attached.add(new Bench.Attached(
                    each.port(),
                    String.valueOf(image.getFileName()),
                    kind,
                    each.carrier()
                            .flatMap(CarrierKind::named)
                            .filter(CarrierKind.SILENT::equals)
                            .isPresent(),
                    each.seated().orElse(true),
                    contents(reader, image, profile),
                    enclosure));
        }
        scenario.requireFits(profile);
        FirmwareConfig config = new FirmwareConfig(scenario.firmware().config());
        Bench bench = new Bench(
                profile,
                scenario.board().serial().orElse(""),
                scenario.board().mac().orElse(""),
                scenario.firmware().version(),
                config,
                scenario.order(profile, config),
                scenario.supply()
                        .orElse(new Supply(
                                profile.power().volts(), profile.power().amps(), "adapter")),
                attached,
                scenario.network().map(each -> network(each, file)).orElse(Bench.Network.NONE));
        return scenario.board().buttonHeld() ? bench.withButtonHeld() : bench;
    }

    /** The bytes behind a scenario's media, by port. */
    public static Map<String, RealBench.Drive> drives(ProfileReader reader, Path file) throws IOException {
        Map<String, RealBench.Drive> drives = new LinkedHashMap<>();
        for (Attachment each : reader.user(file, SCHEMA, ScenarioFile.class).attached()) {
            drives.put(each.port(), drive(reader, file.toAbsolutePath().resolveSibling(each.image())));
        }
        return drives;
    }

    /** A virtual drive, or an image however it is packed. */
    public static RealBench.Drive drive(ProfileReader reader, Path image) {
        return new RealBench.Drive() {
            @Override
            public BlockDevice open() throws IOException {
                return VirtualDrive.isOne(image)
                        ? VirtualDrive.forReading(reader, image)
                        : UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)
                                .device();
            }

            @Override
            public Optional<Path> raw() throws IOException {
                boolean asItIs =
                        VirtualDrive.isOne(image) || ImageFile.open(image).kind() == ContainerKind.RAW;
                return asItIs ? Optional.of(image) : Optional.empty();
            }
        };
    }

    private static void requireFree(Attachment each, BoardProfile profile, List<Bench.Attached> attached)
            throws UnreadableInput {
        BoardProfile.Port port = profile.port(each.port()).orElseThrow();
        if (!port.source().holdsMedium()) {
            throw new UnreadableInput("Nothing is plugged into \"" + each.port() + "\" of a " + profile.id()
                    + ": that is its " + port.title().toLowerCase(Locale.ROOT) + ".");
        }
        if (attached.stream().anyMatch(other -> other.port().equals(each.port()))) {
            throw new UnreadableInput("Two media are on port \"" + each.port() + "\"; it takes one.");
        }
    }

    /** A carrier of a board's own port announces itself or not; what goes on USB may stand in an enclosure. */
    private static Optional<Enclosure> enclosure(Attachment each, MediaCatalogue media, BoardProfile profile)
            throws UnreadableInput {
        if (each.carrier().isEmpty()
                || each.carrier().flatMap(CarrierKind::named).isPresent()) {
            return Optional.empty();
        }
        String named = each.carrier().get();
        Optional<Enclosure> enclosure = media.enclosures().stream()
                .filter(one -> one.id().equals(named))
                .findFirst();
        if (enclosure.isEmpty()) {
            List<String> known = new ArrayList<>();
            Arrays.stream(CarrierKind.values()).map(CarrierKind::code).forEach(known::add);
            media.enclosures().forEach(one -> known.add(one.id()));
            throw new UnreadableInput(
                    "There is no carrier \"" + named + "\"; there are " + String.join(", ", known) + ".");
        }
        BoardProfile.Port port = profile.port(each.port()).orElseThrow();
        if (!port.buses().contains(enclosure.get().plugs())) {
            throw new UnreadableInput("The enclosure \"" + named + "\" is plugged into "
                    + enclosure.get().plugs() + ", not into port \"" + each.port() + "\".");
        }
        return enclosure;
    }

    private void requireFits(BoardProfile profile) throws UnreadableInput {
        if (supply().isPresent()) {
            supply().get().requireFor(profile.id(), profile.power().supply());
        }
        if (board().ramBytes().isPresent()) {
            long wanted = board().ramBytes().get().bytes();
            boolean sold = false;
            for (String size : profile.memory()) {
                long decimal = ByteSize.parse(size).bytes();
                long binary = Math.round(decimal / 1e9 * (1L << 30));
                sold |= wanted == decimal || wanted == binary;
            }
            if (!sold) {
                throw new UnreadableInput("A " + profile.id() + " comes with " + String.join(", ", profile.memory())
                        + "; " + wanted + " bytes (ramBytes) are none of them.");
            }
        }
        if (board().serial().filter(text -> !text.matches("[0-9a-zA-Z]{0,32}")).isPresent()) {
            throw new UnreadableInput("A serial holds letters and digits only; \""
                    + board().serial().get() + "\" does not.");
        }
        if (board().mac()
                .filter(text -> !text.matches("([0-9a-fA-F]{2}[:-]){5}[0-9a-fA-F]{2}|"))
                .isPresent()) {
            throw new UnreadableInput(
                    "\"" + board().mac().get() + "\" is no hardware address such as 02:00:5e:10:00:01.");
        }
        if (board().fuses().isPresent()
                && !board().fuses().get().isEmpty()
                && profile.order().fuse().isEmpty()) {
            throw new UnreadableInput("A " + profile.id() + " has no fuses that decide about its start.");
        }
    }

    private String order(BoardProfile profile, FirmwareConfig config) {
        if (profile.order().fuse().isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().get();
            return board.fuses().filter(bits -> bits.contains(fuse.bit())).isPresent() ? fuse.after() : fuse.before();
        }
        return config.value(profile.order().key()).orElse("");
    }

    private static Bench.Network network(NetworkState state, Path file) {
        List<Bench.Export> exports = state.exports().orElse(List.of()).stream()
                .map(export -> new Bench.Export(export.path(), export.root().map(root -> file.toAbsolutePath()
                        .resolveSibling(root))))
                .toList();
        return new Bench.Network(
                state.link(),
                state.dhcp(),
                state.internet().orElse(false),
                state.tftpRoot().map(root -> file.toAbsolutePath().resolveSibling(root)),
                exports);
    }

    private static MediumContents contents(ProfileReader reader, Path image, BoardProfile profile) throws IOException {
        if (VirtualDrive.isOne(image)) {
            try (BlockDevice drive = VirtualDrive.forReading(reader, image)) {
                return ContentsReader.read(drive, profile.startFiles());
            }
        }
        try (UnpackedImage unpacked = UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)) {
            return ContentsReader.read(unpacked.device(), profile.startFiles());
        }
    }
}

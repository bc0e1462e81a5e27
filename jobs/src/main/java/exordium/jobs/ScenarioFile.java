// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.BlockDevice;
import exordium.core.block.TransferWatch;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.image.ImageFile;
import exordium.core.inspection.UnpackedImage;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteSize;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.ContentsReader;
import exordium.core.rehearsal.MediumContents;
import exordium.core.storage.MediaCatalogue;
import exordium.core.storage.MediumKind;
import exordium.core.storage.Supply;
import exordium.sim.VirtualDrive;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
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
    public record NetworkState(boolean link, boolean dhcp, Optional<String> tftpRoot, Optional<List<Export>> exports) {}

    /** A root the server hands out. */
    public record Export(String path, Optional<String> root) {}

    /** Reads a scenario with everything it names. @throws UnreadableInput with the name of what is wrong */
    public static Bench bench(ProfileReader reader, Path file, Path userProfiles) throws IOException {
        ScenarioFile scenario = reader.user(file, SCHEMA, ScenarioFile.class);
        BoardProfile profile = BoardProfiles.shipped(reader)
                .withFolder(reader, userProfiles)
                .require(scenario.board().profile());
        MediaCatalogue media = MediaCatalogue.shipped(reader);
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
            Path image = file.toAbsolutePath().resolveSibling(each.image());
            attached.add(new Bench.Attached(
                    each.port(),
                    String.valueOf(image.getFileName()),
                    kind,
                    each.carrier().filter("silent"::equals).isPresent(),
                    each.seated().orElse(true),
                    contents(reader, image, profile)));
        }
        FirmwareConfig config = new FirmwareConfig(scenario.firmware().config());
        Bench bench = new Bench(
                profile,
                scenario.board().serial().orElse(""),
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

    private String order(BoardProfile profile, FirmwareConfig config) {
        if (profile.order().fuse().isPresent()) {
            BoardProfile.Fuse fuse = profile.order().fuse().get();
            return board.fuses().filter(bits -> bits.contains(fuse.bit())).isPresent() ? fuse.after() : fuse.before();
        }
        return config.value(profile.order().key()).orElse("");
    }

    private static Bench.Network network(NetworkState state, Path file) {
        HashSet<String> exports = new HashSet<>();
        state.exports().orElse(List.of()).forEach(export -> exports.add(export.path()));
        return new Bench.Network(
                state.link(),
                state.dhcp(),
                state.tftpRoot().map(root -> file.toAbsolutePath().resolveSibling(root)),
                exports);
    }

    private static MediumContents contents(ProfileReader reader, Path image, BoardProfile profile) throws IOException {
        if (VirtualDrive.isOne(image)) {
            try (BlockDevice drive = VirtualDrive.open(reader, image, false)) {
                return ContentsReader.read(drive, profile.startFiles());
            }
        }
        try (UnpackedImage unpacked = UnpackedImage.open(ImageFile.open(image), false, TransferWatch.NONE)) {
            return ContentsReader.read(unpacked.device(), profile.startFiles());
        }
    }
}

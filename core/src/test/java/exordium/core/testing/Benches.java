// SPDX-License-Identifier: Apache-2.0
package exordium.core.testing;

import exordium.core.block.FileDevice;
import exordium.core.board.BoardProfile;
import exordium.core.board.BoardProfiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.rehearsal.Bench;
import exordium.core.rehearsal.contents.ContentsReader;
import exordium.core.storage.media.MediaCatalogue;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Supply;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;

/** Boards on the bench for tests, with real disks on their ports. */
public final class Benches {

    private Benches() {}

    public static BoardProfile profile(String id) {
        try {
            return BoardProfiles.shipped().require(id);
        } catch (UnreadableInput e) {
            throw new AssertionError(e);
        }
    }

    public static MediumKind kind(String id) {
        return MediaCatalogue.shipped().kind(id).orElseThrow();
    }

    public static Bench.Attached attached(String profile, String port, String kind, Path disk) throws IOException {
        try (FileDevice device = FileDevice.forReading(disk)) {
            return new Bench.Attached(
                    port,
                    disk.getFileName().toString(),
                    kind(kind),
                    false,
                    true,
                    ContentsReader.read(device, profile(profile).startFiles()));
        }
    }

    public static Bench bench(String profile, String order, Bench.Attached... attached) {
        BoardProfile board = profile(profile);
        List<Bench.Attached> list = Arrays.asList(attached);
        return new Bench(
                board,
                "00000000c4a81d07",
                "02:00:5e:10:00:07",
                LocalDate.parse("2026-09-02"),
                new FirmwareConfig(board.order().key() + "=" + order),
                order,
                new Supply(board.power().volts(), board.power().amps(), "adapter"),
                list,
                Bench.Network.NONE);
    }

    public static Bench.Attached unseated(Bench.Attached medium) {
        return new Bench.Attached(
                medium.port(), medium.name(), medium.kind(), medium.silentCarrier(), false, medium.contents());
    }

    public static Bench.Attached silent(Bench.Attached medium) {
        return new Bench.Attached(
                medium.port(), medium.name(), medium.kind(), true, medium.seated(), medium.contents());
    }

    public static Bench with(Bench bench, Bench.Network network) {
        return new Bench(
                bench.profile(),
                bench.serial(),
                bench.mac(),
                bench.firmware(),
                bench.config(),
                bench.order(),
                bench.supply(),
                bench.attached(),
                network);
    }

    public static Bench with(Bench bench, LocalDate firmware) {
        return new Bench(
                bench.profile(),
                bench.serial(),
                bench.mac(),
                firmware,
                bench.config(),
                bench.order(),
                bench.supply(),
                bench.attached(),
                bench.network());
    }
}

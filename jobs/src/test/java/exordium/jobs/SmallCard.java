// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.access.BoardState;
import exordium.core.access.CarrierKind;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.DiskBuilder;
import exordium.jobs.bench.VirtualDrives;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Optional;

/** The demo's spare card with a whole small system on it, in the spare board; it keeps no pace, so that a test does not wait. */
final class SmallCard {
    static final String BOARD = "store-room-spare";
    static final String DRIVE = "spare-card-32.img";

    private SmallCard() {}

    static void plug(House house) throws IOException {
        house.boards.plug(
                house.bench.board(BOARD),
                new BoardState.Plug("card", DRIVE, "card-quick", CarrierKind.ANNOUNCING, true));
    }

    /** Puts what a small disk holds onto it. */
    static void lay(House house, Path disk) throws IOException {
        Path drive = house.bench.driveFile(DRIVE);
        Path description = house.bench.driveFile(DRIVE + ".drive.yaml");
        Files.writeString(
                description, Files.readString(description).replaceAll("(?m)^(write|read)Rate: .*$", "$1Rate: null"));
        long size = Files.size(drive);
        Files.copy(disk, drive, StandardCopyOption.REPLACE_EXISTING);
        DiskBuilder.blank(drive, size);
    }

    /** Another virtual drive of the workspace. */
    static Path drive(House house, String name, long bytes) throws IOException {
        return drive(house, name, bytes, "sd");
    }

    static Path drive(House house, String name, long bytes, String bus) throws IOException {
        Path file = house.workspace.drives().resolve(name);
        new VirtualDrives(house.bench.reader())
                .make(
                        file,
                        new VirtualDrives.Wanted(
                                bus, ByteSize.of(bytes), Optional.empty(), Optional.empty(), List.of()));
        return file;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.block.Durable;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A board's file (docs/formats/board.md): what is known of it, simulated or by hand. Each change puts the whole file down in one
 * move: killed at any moment, the board is as it was or as the change makes it.
 */
public final class BoardFile {
    /** Of one that is being put down; what a kill left is swept at the next opening. */
    public static final String SUFFIX = ".new";

    private final ProfileReader profiles;
    private final Path file;

    public BoardFile(ProfileReader profiles, Path file) {
        this.profiles = profiles;
        this.file = file;
    }

    /** How it stands in the file. What a file of an earlier version does not say is not there. */
    private record Written(
            String profile,
            String memory,
            String serial,
            String mac,
            Supply supply,
            LocalDate firmware,
            String config,
            Optional<LocalDate> stagedFirmware,
            Optional<String> stagedConfig,
            boolean overlay,
            List<BoardState.Plug> attached,
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<BoardState.Carrier> carrier,
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Told> told) {

        static Written of(BoardState board) {
            FirmwareChip chip = board.chip();
            return new Written(
                    board.profile(),
                    board.memory(),
                    board.serial(),
                    board.mac(),
                    board.supply(),
                    chip.running(),
                    chip.config().text(),
                    chip.staged(),
                    chip.stagedConfig().map(FirmwareConfig::text),
                    board.overlay(),
                    board.attached(),
                    board.carrier(),
                    board.told().equals(Told.NOTHING) ? Optional.empty() : Optional.of(board.told()));
        }

        BoardState board() {
            FirmwareChip chip = new FirmwareChip(
                    firmware, new FirmwareConfig(config), stagedFirmware, stagedConfig.map(FirmwareConfig::new));
            return new BoardState(
                    profile, memory, serial, mac, supply, chip, overlay, attached, carrier, told.orElse(Told.NOTHING));
        }
    }

    /** @throws UnreadableInput when there is no such board, or its file holds something else */
    public BoardState read() throws IOException {
        if (!Files.exists(file)) {
            throw new UnreadableInput("There is no board file " + file.getFileName() + ".");
        }
        return profiles.own(file, Written.class).board();
    }

    /** Puts a board down, new or changed. */
    public void put(BoardState board) throws IOException {
        Files.createDirectories(file.toAbsolutePath().getParent());
        // A name of its own: two that put one down at once do not write into each other's.
        Path working = Files.createTempFile(file.toAbsolutePath().getParent(), file.getFileName() + ".", SUFFIX);
        try {
            Durable.write(working, profiles.write(Written.of(board)));
            Files.move(working, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            Durable.folder(file.toAbsolutePath().getParent());
        } finally {
            Files.deleteIfExists(working);
        }
    }

    /** Reads, changes and puts down. */
    public BoardState change(UnaryOperator<BoardState> change) throws IOException {
        BoardState changed = change.apply(read());
        put(changed);
        return changed;
    }
}

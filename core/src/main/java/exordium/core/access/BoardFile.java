// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import com.fasterxml.jackson.annotation.JsonInclude;
import exordium.core.block.Durable;
import exordium.core.block.FolderLock;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.profile.ProfileReader;
import exordium.core.storage.media.Supply;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * A board's file (docs/formats/board.md): what is known of it, by whatever way one gets at it. Each change puts the whole file down in one
 * move: killed at any moment, the board is as it was or as the change makes it.
 */
public final class BoardFile {
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
            @JsonInclude(JsonInclude.Include.NON_ABSENT) Optional<Knowledge> told) {

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
                    board.known().equals(Knowledge.NOTHING) ? Optional.empty() : Optional.of(board.known()));
        }

        BoardState board() {
            FirmwareChip chip = new FirmwareChip(
                    firmware, new FirmwareConfig(config), stagedFirmware, stagedConfig.map(FirmwareConfig::new));
            return new BoardState(
                    profile,
                    memory,
                    serial,
                    mac,
                    supply,
                    chip,
                    overlay,
                    attached,
                    carrier,
                    told.orElse(Knowledge.NOTHING));
        }
    }

    /** @throws UnreadableInput when there is no such board, or its file holds something else */
    public BoardState read() throws IOException {
        if (!Files.exists(file)) {
            throw new UnreadableInput("There is no board file " + file.getFileName() + ".");
        }
        return profiles.own(file, Written.class).board();
    }

    /** A change of a board, worked out from the board as it is by then. */
    public interface Change {
        BoardState of(BoardState board) throws IOException;
    }

    /** Puts a new board down. */
    public void create(BoardState board) throws IOException {
        Files.createDirectories(folder());
        FolderLock.holding(folder(), () -> {
            put(board);
            return board;
        });
    }

    /** Reads, changes and puts down, with nobody else at it meanwhile, in this process or another. */
    public BoardState change(Change change) throws IOException {
        return FolderLock.holding(folder(), () -> {
            BoardState changed = change.of(read());
            put(changed);
            return changed;
        });
    }

    private void put(BoardState board) throws IOException {
        Durable.replace(file, profiles.write(Written.of(board)));
    }

    private Path folder() {
        return file.toAbsolutePath().getParent();
    }
}

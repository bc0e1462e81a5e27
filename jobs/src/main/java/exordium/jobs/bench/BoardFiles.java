// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.access.BoardDeeds;
import exordium.core.access.BoardFile;
import exordium.core.access.BoardPlace;
import exordium.core.access.BoardReading;
import exordium.core.access.BoardState;
import exordium.core.block.FileStamp;
import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareBundle;
import exordium.sim.StandInFirmware;
import exordium.store.Boards;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** The files of boards, read once and again when they change, and what their ways do to boards. */
public final class BoardFiles {
    private final Workbench workbench;
    private final Map<String, Loaded> read = new ConcurrentHashMap<>();

    BoardFiles(Workbench workbench) {
        this.workbench = workbench;
    }

    private BoardFile file(String id) {
        return new BoardFile(workbench.reader(), workbench.workspace().boardFile(id));
    }

    /** Puts a new board down. */
    public void create(String id, BoardState board) throws IOException {
        file(id).create(board);
    }

    /** Changes what is known of a board by a function of what is there. */
    public BoardState change(String id, BoardFile.Change change) throws IOException {
        return file(id).change(change);
    }

    /** A board as its file was last read, until that has changed. */
    BoardState loaded(String id) throws IOException {
        Path file = workbench.workspace().boardFile(id);
        if (!Files.isRegularFile(file)) {
            return file(id).read();
        }
        String stamp = FileStamp.of(file);
        Loaded known = read.get(id);
        if (known == null || !known.stamp().equals(stamp)) {
            known = new Loaded(stamp, file(id).read());
            read.put(id, known);
        }
        return known.board();
    }

    private record Loaded(String stamp, BoardState board) {}

    /** What goes into a virtual board's chip for a release. */
    private byte[] payload(String profile, LocalDate release) throws IOException {
        Optional<FirmwareBundle> bundle = workbench.firmwareShelf().bundle(profile, release);
        return bundle.isPresent() ? bundle.get().payload() : StandInFirmware.of(release);
    }

    /** What is done at a board of the register, by its way. */
    public BoardDeeds deeds(Boards.Board board) {
        return board.way().deeds(place(board));
    }

    /** Looks at a board of the register, by its way. */
    public BoardReading reading(Boards.Board board) {
        return board.way().reading(place(board));
    }

    private BoardPlace place(Boards.Board board) {
        Optional<BoardProfile> family = workbench.profiles().find(board.profile());
        return new BoardPlace(
                file(board.id()),
                workbench.folder().resolve("boards").resolve(board.id() + ".chip"),
                family,
                release -> payload(board.profile(), release));
    }
}

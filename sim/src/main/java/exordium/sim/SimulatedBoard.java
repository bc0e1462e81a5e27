// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.access.BoardPlace;
import exordium.core.access.BoardState;
import exordium.core.access.PutDown;
import exordium.core.block.Durable;
import exordium.core.board.BoardProfile;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** A board that the program plays: deeds take effect by themselves, and what its chip then holds is read back from its bytes. */
public final class SimulatedBoard extends PutDown {
    private final Optional<Chip> chip;

    /**
     * Its firmware chip.
     *
     * @param file its bytes; made from what the board is known to run when it is first written
     * @param payloads what is written for a release
     */
    private record Chip(Path file, int slots, BoardPlace.Payloads payloads) {}

    /** Of a family without a chip of its own, what is staged is taken over as it is. */
    public SimulatedBoard(BoardPlace place) {
        super(place.file());
        this.chip = place.family()
                .map(BoardProfile::firmware)
                .filter(BoardProfile.Firmware::inChip)
                .map(firmware -> new Chip(place.chip(), firmware.slots().orElse(1), place.payloads()));
    }

    @Override
    public BoardState restart() throws IOException {
        return powerCut(Long.MAX_VALUE);
    }

    /** Takes over what is staged; the power fails when so many bytes have gone to the chip. */
    @Override
    public BoardState powerCut(long after) throws IOException {
        return file().change(board -> restarted(board, after));
    }

    @Override
    public BoardState switchOff() throws IOException {
        return file().change(SimulatedBoard::off);
    }

    private static BoardState off(BoardState board) {
        return board.with(board.chip().switchOff());
    }

    private BoardState restarted(BoardState board, long cutAfter) throws IOException {
        FirmwareChip known = board.chip();
        if (known.isDead()) {
            // Nothing runs that could take anything over.
            return off(board);
        }
        if (chip.isEmpty() || !known.anythingStaged()) {
            return board.with(known.restart());
        }
        FlashChip flash = flash(known);
        long left = cutAfter;
        if (known.staged().isPresent()) {
            LocalDate release = known.staged().get();
            List<FlashChip.Step> steps =
                    flash.update(release, chip.get().payloads().of(release));
            flash = flash.cut(steps, left);
            left = Math.max(0, left - FlashChip.bytesOf(steps));
        }
        if (known.stagedConfig().isPresent()) {
            flash = flash.cut(flash.settings(known.stagedConfig().get()), left);
        }
        return board.with(kept(flash, known.config()));
    }

    @Override
    public BoardState recover(LocalDate release, byte[] payload, FirmwareConfig settings) throws IOException {
        return file().change(board -> {
            if (chip.isEmpty()) {
                return board;
            }
            FlashChip flash = flash(board.chip());
            flash = flash.after(flash.update(release, payload));
            return board.with(kept(flash.after(flash.settings(settings)), settings));
        });
    }

    /** Puts its bytes down; what counts is what is in it then. */
    private FirmwareChip kept(FlashChip flash, FirmwareConfig before) throws IOException {
        Path file = chip.orElseThrow().file();
        Durable.replace(file, flash.bytes());
        FlashChip back = FlashChip.of(Files.readAllBytes(file));
        return new FirmwareChip(
                back.running().map(FlashChip.Running::release).orElse(FirmwareChip.NONE),
                back.settings().orElse(before),
                Optional.empty(),
                Optional.empty());
    }

    private FlashChip flash(FirmwareChip known) throws IOException {
        Chip part = chip.orElseThrow();
        if (Files.exists(part.file())) {
            FlashChip flash = FlashChip.of(Files.readAllBytes(part.file()));
            boolean same = flash.running()
                    .map(FlashChip.Running::release)
                    .orElse(FirmwareChip.NONE)
                    .equals(known.running());
            // Told or set otherwise since: then the board's file counts, and its chip is made anew after it.
            if (same
                    && flash.slots() == part.slots()
                    && flash.settings().filter(known.config()::equals).isPresent()) {
                return flash;
            }
        }
        FlashChip flash = FlashChip.blank(part.slots());
        if (!known.isDead()) {
            flash = flash.after(flash.update(known.running(), part.payloads().of(known.running())));
        }
        return flash.after(flash.settings(known.config()));
    }
}

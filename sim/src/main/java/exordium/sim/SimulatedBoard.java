// SPDX-License-Identifier: Apache-2.0
package exordium.sim;

import exordium.core.access.BoardFile;
import exordium.core.access.BoardOnFile;
import exordium.core.access.BoardState;
import exordium.core.firmware.FirmwareChip;
import exordium.core.firmware.FirmwareConfig;
import exordium.core.firmware.FlashChip;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** A board that the program plays: deeds take effect by themselves, and what its chip then holds is read back from its bytes. */
public final class SimulatedBoard extends BoardOnFile {
    private final Optional<Chip> chip;

    /**
     * Its firmware chip.
     *
     * @param file its bytes; made from what the board is known to run when it is first written
     * @param payloads what is written for a release
     */
    public record Chip(Path file, int slots, Payloads payloads) {}

    /** Where the bytes of a release come from. */
    public interface Payloads {
        byte[] of(LocalDate release) throws IOException;
    }

    /** Of a family without a chip of its own: what is staged is taken over as it is. */
    public SimulatedBoard(BoardFile file) {
        super(file);
        this.chip = Optional.empty();
    }

    public SimulatedBoard(BoardFile file, Chip chip) {
        super(file);
        this.chip = Optional.of(chip);
    }

    @Override
    public BoardState restart() throws IOException {
        return restart(Long.MAX_VALUE);
    }

    @Override
    public BoardState powerCut(long after) throws IOException {
        return restart(after);
    }

    @Override
    public BoardState switchOff() throws IOException {
        return file().change(board -> board.with(board.chip().switchOff()));
    }

    /** Takes over what is staged; the power fails when so many bytes have gone to the chip. */
    private BoardState restart(long cutAfter) throws IOException {
        BoardState board = read();
        FirmwareChip known = board.chip();
        if (known.isDead()) {
            // Nothing runs that could take anything over.
            return switchOff();
        }
        if (chip.isEmpty() || !known.anythingStaged()) {
            return file().change(each -> each.with(each.chip().restart()));
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
        return put(flash, known.config());
    }

    @Override
    public BoardState recover(LocalDate release, byte[] payload, FirmwareConfig settings) throws IOException {
        if (chip.isEmpty()) {
            return read();
        }
        FlashChip flash = flash(read().chip());
        flash = flash.after(flash.update(release, payload));
        return put(flash.after(flash.settings(settings)), settings);
    }

    private BoardState put(FlashChip flash, FirmwareConfig before) throws IOException {
        Path file = chip.orElseThrow().file();
        Path working = file.resolveSibling(file.getFileName() + ".new");
        Files.write(working, flash.bytes());
        Files.move(working, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        // What counts is what is in it now.
        FlashChip back = FlashChip.of(Files.readAllBytes(file));
        FirmwareChip is = new FirmwareChip(
                back.running().map(FlashChip.Running::release).orElse(FirmwareChip.NONE),
                back.settings().orElse(before),
                Optional.empty(),
                Optional.empty());
        return file().change(board -> board.with(is));
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

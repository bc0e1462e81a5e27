// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.firmware.FirmwareConfig;
import java.io.IOException;
import java.time.LocalDate;

/** What is staged and what is plugged in, put down in the board's file; a way that does more extends it. */
public class PutDown implements BoardDeeds {
    private final BoardFile file;

    public PutDown(BoardFile file) {
        this.file = file;
    }

    protected final BoardFile file() {
        return file;
    }

    @Override
    public BoardState stage(LocalDate release) throws IOException {
        return file.change(board -> board.with(board.chip().stage(release)));
    }

    @Override
    public BoardState stage(FirmwareConfig settings) throws IOException {
        return file.change(board -> board.with(board.chip().stage(settings)));
    }

    @Override
    public BoardState plug(BoardState.Plug plug) throws IOException {
        return file.change(board -> board.attach(plug));
    }

    @Override
    public BoardState unplug(String drive) throws IOException {
        return file.change(board -> board.detach(drive));
    }
}

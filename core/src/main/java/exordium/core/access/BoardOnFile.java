// SPDX-License-Identifier: Apache-2.0
package exordium.core.access;

import exordium.core.firmware.FirmwareConfig;
import java.io.IOException;
import java.time.LocalDate;

/** A board that is kept in a file; what a restart does to it is what tells its kinds apart. */
public abstract class BoardOnFile implements BoardAccess {
    private final BoardFile file;

    protected BoardOnFile(BoardFile file) {
        this.file = file;
    }

    protected final BoardFile file() {
        return file;
    }

    @Override
    public final BoardState read() throws IOException {
        return file.read();
    }

    @Override
    public final BoardState stage(LocalDate release) throws IOException {
        return file.change(board -> board.with(board.chip().stage(release)));
    }

    @Override
    public final BoardState stage(FirmwareConfig settings) throws IOException {
        return file.change(board -> board.with(board.chip().stage(settings)));
    }

    @Override
    public final BoardState plug(BoardState.Plug plug) throws IOException {
        return file.change(board -> board.attach(plug));
    }

    @Override
    public final BoardState unplug(String drive) throws IOException {
        return file.change(board -> board.detach(drive));
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import exordium.core.block.Machine;
import exordium.core.board.BoardProfiles;
import exordium.core.storage.media.MediaCatalogue;
import exordium.jobs.bench.Workbench;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.ZoneId;

/** Opens workspaces: whoever opens one finds what a kill left behind and brings it in order first. */
public final class Opening {
    private Opening() {}

    /** Opens a folder, making a workspace where there is none. @throws UnreadableInput when it cannot be used */
    public static Workbench at(Path folder, Clock clock, ZoneId zone) throws IOException {
        return at(folder, clock, zone, Machine.here());
    }

    /** The same on a machine that is given. */
    public static Workbench at(Path folder, Clock clock, ZoneId zone, Machine machine) throws IOException {
        Workspace workspace = Workspace.open(folder, clock);
        try {
            return of(workspace, zone, machine);
        } catch (IOException | RuntimeException e) {
            workspace.close();
            throw e;
        }
    }

    /** Reads what ships, which nearly everybody asks for, while the caller does something else; whoever needs it waits for it. */
    public static void readAhead() {
        Thread ahead = new Thread(
                () -> {
                    BoardProfiles.shipped();
                    MediaCatalogue.shipped();
                },
                "what-ships");
        ahead.setDaemon(true);
        ahead.start();
    }

    /** The same for a workspace that is open already. */
    public static Workbench of(Workspace workspace, ZoneId zone) throws IOException {
        return of(workspace, zone, Machine.here());
    }

    private static Workbench of(Workspace workspace, ZoneId zone, Machine machine) throws IOException {
        Workbench bench = Workbench.of(workspace, zone, machine);
        new Recovery(bench).atOpening();
        return bench;
    }
}

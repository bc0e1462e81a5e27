// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.jobs.bench.BenchReader;
import exordium.jobs.copies.care.DrillJob;
import exordium.jobs.copies.vault.CopyJob;
import java.util.Optional;
import java.util.Set;

/** Copies and tries of a restore as they are asked for at several places. */
public final class CopyRequests {
    private CopyRequests() {}

    public static Request<CopyJob.Done> copy(House house, String title, String board, String drive) {
        return copy(house, title, board, drive, Optional.empty());
    }

    /** Where before: the change it is made before; such copies are kept longer. */
    public static Request<CopyJob.Done> copy(
            House house, String title, String board, String drive, Optional<String> before) {
        return Request.of(title, meter -> new CopyJob(house.workbench(), house.sheets())
                        .run(board, new CopyJob.Wanted(false, before), meter))
                .at(board)
                .holding(Set.of(drive));
    }

    /** Puts a board's newest copy back onto a virtual drive, and says whether it starts. */
    public static Request<Void> drill(House house, String name, String board) {
        return Request.deed("Trying a restore of " + name, meter -> {
                    DrillJob.Done done = new DrillJob(
                                    house.workbench(),
                                    new BenchReader(house.workbench()),
                                    new CopyJob(house.workbench(), house.sheets()))
                            .run(board, meter);
                    if (!done.passed()) {
                        house.reading().say(done.sentence());
                    }
                })
                .at(board)
                .holding(Set.of());
    }
}

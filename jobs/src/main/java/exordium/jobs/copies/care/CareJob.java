// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.care;

import exordium.core.copies.care.CopyCare;
import exordium.core.copies.care.QuietTimes;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Step;
import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import java.io.IOException;
import java.time.LocalDateTime;
import java.util.Optional;

/** What a copy of a board asks of the people around it: told once, said at every copy. */
public final class CareJob {
    private static final int LONGEST = 300;

    private final Workbench workbench;

    public CareJob(Workbench workbench) {
        this.workbench = workbench;
    }

    public CopyCare of(String board) {
        return workbench.workspace().care().all().getOrDefault(board, CopyCare.NONE);
    }

    /** Whether a board may be off at this moment. */
    public boolean mayBeOff(String board) {
        return of(board).quiet().holds(LocalDateTime.ofInstant(workbench.clock().instant(), workbench.zone()));
    }

    /**
     * What is not given stays as it was.
     *
     * @throws BadArgument when something is too long, or the times are none
     */
    public CopyCare tell(String board, Optional<String> stopFirst, Optional<String> services, Optional<String> quiet)
            throws IOException {
        Boards.Board register = workbench.workspace().boards().require(board);
        CopyCare was = of(board);
        CopyCare now = new CopyCare(
                stopFirst.isPresent() ? plain(stopFirst.get()) : was.stopFirst(),
                services.isPresent() ? plain(services.get()) : was.services(),
                quiet.isPresent() ? QuietTimes.parse(quiet.get()) : was.quiet());
        if (!now.equals(was)) {
            workbench.workspace().care().put(board, now);
            workbench
                    .workspace()
                    .log()
                    .add(
                            Optional.of(board),
                            Step.COPIES,
                            "care-told",
                            register.name() + ": what a copy of it asks for was put down.",
                            Optional.empty());
        }
        return now;
    }

    private static String plain(String text) throws BadArgument {
        String plain = text.strip().replaceAll("\\s+", " ");
        if (plain.length() > LONGEST) {
            throw new BadArgument("Say it in at most " + LONGEST + " letters.", text);
        }
        return plain;
    }
}

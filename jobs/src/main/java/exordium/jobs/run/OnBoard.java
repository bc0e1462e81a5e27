// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.run;

import exordium.core.access.BoardAccess;
import exordium.core.finding.Step;
import exordium.jobs.bench.Workbench;
import java.io.IOException;
import java.util.Optional;

/** One board that something is done to: its access, and the words and rows that go by its name. */
public record OnBoard(Workbench workbench, Workbench.BoardAtHand at) {
    public BoardAccess access() {
        return workbench.access(at.register());
    }

    /** Does it as one deed, with its row and its end in the logbook. */
    public <T> T run(JobRunner.Kind kind, JobRunner.BoardWork<T> work) throws IOException {
        return new JobRunner(workbench).onBoard(kind, at.register().id(), work);
    }

    /** What came of it; the words follow the board's name. */
    public <T> JobRunner.Outcome<T> outcome(T value, String kind, String words) {
        return new JobRunner.Outcome<>(value, kind, at.register().name() + ": " + words);
    }

    /** Tells the logbook something beside the end. */
    public void log(Step step, String kind, String words) {
        workbench
                .workspace()
                .log()
                .add(
                        Optional.of(at.register().id()),
                        step,
                        kind,
                        at.register().name() + ": " + words,
                        Optional.empty());
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop;

import exordium.core.block.Machine;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.SharedFolder;
import exordium.jobs.bench.Workbench;
import exordium.jobs.demo.DemoWorkspace;
import exordium.jobs.run.Opening;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;

/** A demo workspace for a test to work in, made once and copied. */
public final class DemoHouse {
    public static final Clock CLOCK = Clock.fixed(Instant.parse("2026-11-24T09:00:00Z"), ZoneOffset.UTC);
    private static Path pattern;

    private DemoHouse() {}

    public static Workbench open(Path folder) throws IOException {
        return open(folder, Machine.here());
    }

    /** The same on a machine that is given. */
    public static synchronized Workbench open(Path folder, Machine machine) throws IOException {
        if (pattern == null) {
            // The same day and zone as the jobs' own tests have.
            pattern = SharedFolder.of("demo", made -> DemoWorkspace.make(made, false, CLOCK, ZoneOffset.UTC)
                    .close());
        }
        Path copy = folder.resolve("house");
        GeneralTools.run("cp", "-r", "--sparse=always", pattern.toString(), copy.toString());
        return Opening.at(copy, CLOCK, ZoneOffset.UTC, machine);
    }

    public static Workbench empty(Path folder) throws IOException {
        return empty(folder, CLOCK);
    }

    public static Workbench empty(Path folder, Clock clock) throws IOException {
        return empty(folder, clock, Machine.here());
    }

    public static Workbench empty(Path folder, Clock clock, Machine machine) throws IOException {
        return Opening.at(folder.resolve("empty"), clock, ZoneOffset.UTC, machine);
    }
}

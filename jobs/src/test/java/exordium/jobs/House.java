// SPDX-License-Identifier: Apache-2.0
package exordium.jobs;

import exordium.core.block.Machine;
import exordium.core.block.linux.LinuxDrives;
import exordium.core.quantity.ByteSize;
import exordium.core.testing.GeneralTools;
import exordium.core.testing.SharedFolder;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.demo.DemoWorkspace;
import exordium.jobs.run.Opening;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** The demo workspace at a fixed day, made once for a test class and copied for each test. */
final class House {
    static final Instant NOW = Instant.parse("2026-11-24T09:00:00Z");
    static final Clock CLOCK = Clock.fixed(NOW, ZoneOffset.UTC);
    private static Path pattern;

    /** Stands still until it is moved on. */
    static final class HandClock extends Clock {
        private volatile Instant now = NOW;

        void advance(Duration by) {
            now = now.plus(by);
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return now;
        }
    }

    final HandClock clock = new HandClock();
    final Path folder;
    final Workspace workspace;
    final Workbench bench;
    final BenchReader benches;
    final DaySheets sheets;
    final BoardJobs boards;

    private House(Path folder, Machine machine) throws IOException {
        this.folder = folder;
        this.bench = Opening.at(folder, clock, ZoneOffset.UTC, machine);
        this.workspace = bench.workspace();
        this.benches = new BenchReader(bench);
        this.sheets = new DaySheets(bench, benches);
        this.boards = new BoardJobs(bench, benches);
    }

    /** A demo house in a folder of the test's own. */
    static House demo(Path folder) throws IOException {
        return demo(folder, Machine.here());
    }

    /** The same on a machine that is given. */
    static synchronized House demo(Path folder, Machine machine) throws IOException {
        if (pattern == null) {
            pattern = SharedFolder.of("demo", made -> DemoWorkspace.make(made, false, CLOCK, ZoneOffset.UTC)
                    .close());
        }
        Path copy = folder.resolve("house");
        // Drives are sparse; a plain copy would fill the disk.
        GeneralTools.run("cp", "-r", "--sparse=always", pattern.toString(), copy.toString());
        return new House(copy, machine);
    }

    /** An empty house. */
    static House empty(Path folder) throws IOException {
        return new House(folder.resolve("empty"), Machine.here());
    }

    Targets targets() {
        return new Targets(bench.reader(), new LinuxDrives(), folder, false);
    }

    Targets.Target target(String drive) throws IOException {
        return targets().at(bench.driveFile(drive), ByteSize.ZERO);
    }
}

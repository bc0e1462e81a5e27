// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.desk;

import exordium.core.block.MachineDrives;
import exordium.core.inspection.DriveInspection;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.BenchReader;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Inspections;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.board.BoardJobs;
import exordium.jobs.copies.schedule.Reminder;
import exordium.jobs.daysheet.DaySheets;
import exordium.jobs.passage.PassageJob;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;

/** Everything a page of the window works with, put together once. */
public final class House implements AutoCloseable {
    private final Workbench workbench;
    private final MachineDrives machine;
    private final BenchReader benches;
    private final DaySheets sheets;
    private final BoardJobs boardJobs;
    private final Reading reading;
    private final Navigation navigation;
    private final HouseFacts facts;
    private final JobsModel jobs;
    private final DriveWatch drives;
    private final DueWatch due;
    private final Map<Path, DriveInspection> inImages = new ConcurrentHashMap<>();

    /** Where post: runs things on the interface thread. Reads the rules; not to be called there. */
    public House(Workbench workbench, Consumer<Runnable> post) {
        this(workbench, post, workbench.machine().drives(), workbench.rules());
    }

    /** Where machine: the drives of this machine, or a tree that stands in for them. */
    public House(Workbench workbench, Consumer<Runnable> post, MachineDrives machine, HouseRules rules) {
        this.workbench = workbench;
        this.machine = machine;
        this.benches = new BenchReader(workbench);
        this.sheets = new DaySheets(workbench, benches);
        this.boardJobs = new BoardJobs(workbench, benches);
        this.reading = new Reading(post);
        this.navigation = new Navigation(reading);
        this.facts = new HouseFacts(workbench, sheets, reading, rules);
        this.jobs = new JobsModel(reading, facts);
        this.drives = new DriveWatch(this, machine);
        this.due = new DueWatch(this, new Reminder(workbench.machine()));
    }

    public Workbench workbench() {
        return workbench;
    }

    public BenchReader benches() {
        return benches;
    }

    public DaySheets sheets() {
        return sheets;
    }

    public BoardJobs boardJobs() {
        return boardJobs;
    }

    /** Passages of boards; by the drives as they are now. */
    public PassageJob passages() {
        return new PassageJob(workbench, benches, sheets, targets());
    }

    public Reading reading() {
        return reading;
    }

    public Navigation navigation() {
        return navigation;
    }

    public HouseFacts facts() {
        return facts;
    }

    public JobsModel jobs() {
        return jobs;
    }

    /** Drives of this machine as they come and go. */
    public DriveWatch drives() {
        return drives;
    }

    /** Copies that come by themselves. */
    public DueWatch due() {
        return due;
    }

    public Targets targets() {
        return new Targets(
                        workbench.reader(),
                        machine,
                        workbench.folder(),
                        facts.rules().realDrives())
                .recognisedBy(workbench.recognition());
    }

    /** What is in an image of the shelf; read once, since a shelved image does not change. */
    public DriveInspection inImage(Path file) throws IOException {
        DriveInspection known = inImages.get(file);
        if (known == null) {
            known = Inspections.ofImage(file);
            inImages.put(file, known);
        }
        return known;
    }

    /** The same of a copy in the vault, which unpacks to that size. */
    public DriveInspection inCopy(Path file, ByteSize size) throws IOException {
        DriveInspection known = inImages.get(file);
        if (known == null) {
            known = Inspections.ofCopy(file, size);
            inImages.put(file, known);
        }
        return known;
    }

    /** Stops what runs, so that its report still reaches the logbook; what is read later is nobody's any more. */
    @Override
    public void close() {
        due.close();
        jobs.close();
        drives.close();
        reading.close();
    }
}

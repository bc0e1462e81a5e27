// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.media;

import exordium.core.block.MachineDrive;
import exordium.core.block.MachineDrives;
import exordium.core.finding.NameTaken;
import exordium.core.finding.Refused;
import exordium.core.finding.Step;
import exordium.core.finding.UnknownName;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.media.MediumKind;
import exordium.core.storage.media.Newcomer;
import exordium.jobs.bench.DriveTools;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import exordium.jobs.shelf.Intake;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** Drives of this machine that come and go: which of them the register knows, and taking in those it does not. */
public final class PluggedIn {
    private static final JobRunner.DeedKind TAKE_IN = JobRunner.DeedKind.keyed(
            "medium-take-in", Step.STORAGE, "taking a medium into", "It is not in the register.");

    private final Workbench workbench;
    private final MachineDrives machine;
    private final MediaRegister register;

    public PluggedIn(Workbench workbench) {
        this(workbench, workbench.machine().drives());
    }

    /** Where machine: its drives, or what stands in for them. */
    public PluggedIn(Workbench workbench, MachineDrives machine) {
        this.workbench = workbench;
        this.machine = machine;
        this.register = new MediaRegister(workbench);
    }

    /**
     * A drive and the medium of the register that it is, where it is one.
     *
     * @param alike names of media it could be as well as each other, so that none is taken for it
     * @param guess what it would be taken in as
     */
    public record Plugged(MachineDrive drive, Optional<Media.Medium> medium, List<String> alike, Newcomer guess) {
        public String id() {
            return drive.id();
        }

        /** As people would name it who never saw it before. */
        public String title() {
            return medium.map(Media.Medium::name).orElse(drive.model().isEmpty() ? drive.id() : drive.model());
        }
    }

    /** What a drive that is in no register is called until its owner says otherwise, and what it most likely is. */
    public Newcomer guess(MachineDrive drive) {
        Set<String> taken = workbench.workspace().media().all().stream()
                .map(Media.Medium::name)
                .collect(Collectors.toSet());
        return Newcomer.of(
                workbench.media().kinds(), drive.bus(), drive.removable(), drive.model(), drive.size(), taken);
    }

    /** The same for each of these that is a drive of this machine, may be used, and is in no register. */
    public Map<Targets.Target, Newcomer> guesses(List<Targets.Target> targets) {
        Map<Targets.Target, Newcomer> guesses = new LinkedHashMap<>();
        for (Targets.Target each : targets) {
            boolean fresh = each.description().refusals().isEmpty()
                    && workbench.registered(each).isEmpty();
            each.opener().ofMachine().filter(drive -> fresh).ifPresent(drive -> guesses.put(each, guess(drive)));
        }
        return guesses;
    }

    /**
     * Takes in what a deed is about to be done to: from its first byte on, row, proof, pace and wear belong to it.
     *
     * @throws UnreadableInput when it has a name that is taken; nothing is done then
     */
    public Media.Medium takeIn(Targets.Target target, String name, MediumKind kind) throws IOException {
        MachineDrive drive = target.opener()
                .ofMachine()
                .orElseThrow(() -> new UnreadableInput(target.description().id() + " is no drive of this machine."));
        Media.Medium medium = takeIn(drive, name, kind.id());
        workbench.recogniseAnew(target);
        return medium;
    }

    private MediumKind likelyKind(String bus) {
        List<MediumKind> kinds = workbench.media().kinds();
        return kinds.stream().filter(kind -> kind.bus().equals(bus)).findFirst().orElse(kinds.get(0));
    }

    /** Those that are there now. As long as drives of the machine are off, none is looked at. */
    public List<Plugged> now() throws IOException {
        List<Plugged> plugged = new ArrayList<>();
        if (!workbench.rules().realDrives()) {
            return plugged;
        }
        for (MachineDrive drive : machine.list(workbench.workspace().folder())) {
            if (drive.fixed().isEmpty()) {
                Optional<Media.Medium> medium = register.recognise(drive);
                plugged.add(new Plugged(
                        drive, medium, medium.isPresent() ? List.of() : register.alike(drive), guess(drive)));
            }
        }
        return plugged;
    }

    /** A drive that is there and cannot be used, with why; byRule: where nothing but a house rule keeps it from being used. */
    public record NotUsable(String id, ByteSize size, String model, String why, boolean byRule) {}

    /** All drives of this machine that cannot be used now, each with the reason; nothing is hidden. None of them is opened. */
    public List<NotUsable> refused() throws IOException {
        boolean off = !workbench.rules().realDrives();
        List<NotUsable> refused = new ArrayList<>();
        MachineDrives looked = off ? machine.untouched() : machine;
        for (MachineDrive drive : looked.list(workbench.workspace().folder())) {
            List<String> why = new ArrayList<>();
            drive.fixed().forEach(each -> why.add(each.text()));
            boolean byRule = why.isEmpty() && off;
            if (byRule) {
                why.add("Drives of this machine are off, by a house rule.");
            }
            if (!why.isEmpty()) {
                refused.add(new NotUsable(drive.id(), drive.size(), drive.model(), String.join(" ", why), byRule));
            }
        }
        return refused;
    }

    /**
     * A known medium that came.
     *
     * @param board it belongs to; empty where it is in none
     * @param words that it came, and what is different on it since it was read
     */
    public record Arrival(Media.Medium medium, Optional<String> board, String words) {}

    /** Puts down that known media have come; says so of each. */
    public List<Arrival> arrived(List<Plugged> before, List<Plugged> now) throws IOException {
        List<Arrival> arrivals = new ArrayList<>();
        for (Plugged each : now) {
            boolean fresh = before.stream().noneMatch(was -> was.equals(each));
            if (fresh && each.medium().isPresent()) {
                Media.Medium medium = each.medium().get();
                String text = register.called(medium) + " is plugged in as " + each.id() + "; it is at home at "
                        + medium.place() + ".";
                workbench.workspace().log().add(Optional.empty(), Step.STORAGE, "medium-seen", text, Optional.empty());
                List<String> changed = register.look(medium, each.drive());
                Optional<String> board =
                        workbench.holder(medium.file()).map(at -> at.register().id());
                String since = changed.isEmpty() ? "" : " Not as it was read last: " + String.join(" ", changed);
                arrivals.add(new Arrival(medium, board, text + since));
            }
        }
        return arrivals;
    }

    /** Unmounts and ejects a drive; says so in the logbook. */
    public void letGo(MachineDrive drive) throws IOException {
        String words = new DriveTools(workbench.machine())
                .eject(drive, workbench.workspace().folder());
        workbench.workspace().log().add(Optional.empty(), Step.STORAGE, "drive-let-go", words, Optional.empty());
    }

    /**
     * Takes the drive of that name or node into the register, or a virtual one from the drives of the workspace.
     *
     * @param allowed whether drives of this machine may be used at all
     * @throws UnreadableInput when there is none, it may not be used, or the register knows it already
     */
    public Media.Medium takeIn(String device, String name, Optional<String> kind, boolean allowed) throws IOException {
        Path drives = workbench.workspace().drives();
        Path file = drives.resolve(device);
        if (drives.toAbsolutePath()
                        .normalize()
                        .equals(file.toAbsolutePath().normalize().getParent())
                && VirtualDrive.isOne(file)) {
            return takeIn(file, name, kind);
        }
        MachineDrive drive = machine.list(workbench.workspace().folder()).stream()
                .filter(each ->
                        each.id().equals(device) || each.node().toString().equals(device))
                .findFirst()
                .orElseThrow(() -> new UnknownName(
                        "There is no drive \"" + device + "\" in this machine now; \"drives\" shows those there are.",
                        device));
        if (!allowed) {
            throw new Refused(Targets.OFF);
        }
        Refused.ifAnyStops(drive.fixed());
        return takeIn(drive, name, kind.orElseGet(() -> guess(drive).kind().id()));
    }

    /**
     * Takes a drive that was never here into the register.
     *
     * @throws UnreadableInput when it has a name that is taken, or the register knows it already
     */
    public Media.Medium takeIn(MachineDrive drive, String name, String kind) throws IOException {
        MediumKind made = workbench.kind(kind);
        Optional<Media.Medium> known = register.recogniseAsking(drive);
        if (known.isPresent()) {
            throw new UnreadableInput(
                    drive.id() + " is in the register already, as " + register.called(known.get()) + ".");
        }
        String serial = drive.serial();
        Media.Medium medium =
                named(name, made, serial, drive.size(), id -> "drive:" + (serial.isEmpty() ? id : serial));
        takeIn(medium, made, () -> {
            workbench.recognition().note(medium, drive);
            register.lookAsking(medium, drive);
        });
        return medium;
    }

    private Media.Medium takeIn(Path file, String name, Optional<String> kind) throws IOException {
        DriveDescription drive = VirtualDrive.describe(workbench.reader(), file);
        MediumKind made =
                workbench.kind(kind.orElseGet(() -> likelyKind(drive.bus()).id()));
        String own = String.valueOf(file.getFileName());
        Optional<Media.Medium> known = workbench.workspace().media().all().stream()
                .filter(each -> each.file().equals(own))
                .findFirst();
        if (known.isPresent()) {
            throw new UnreadableInput(own + " is in the register already, as " + register.called(known.get()) + ".");
        }
        Media.Medium medium = named(name, made, drive.serial(), drive.bytes(), id -> own);
        takeIn(medium, made, () -> register.look(medium));
        return medium;
    }

    private Media.Medium named(String name, MediumKind kind, String serial, ByteSize size, UnaryOperator<String> file)
            throws UnreadableInput {
        String id = Intake.identifier(name, "medium");
        if (workbench.workspace().media().all().stream()
                .anyMatch(each -> each.id().equals(id))) {
            throw new NameTaken("There is a medium \"" + id + "\" already; give this one another name.", id);
        }
        return new Media.Medium(
                id, name.strip(), kind.id(), serial, size, file.apply(id), Optional.empty(), ByteSize.ZERO, "drawer");
    }

    private interface Look {
        void run() throws IOException;
    }

    private void takeIn(Media.Medium medium, MediumKind kind, Look look) throws IOException {
        new JobRunner(workbench).keyed(TAKE_IN, Key.drawer(), Optional.empty(), () -> {
            workbench.workspace().media().add(medium);
            register.labelAll();
            look.run();
            return new JobRunner.Outcome<>(
                    null,
                    "medium-taken-in",
                    register.called(medium) + " is in the register: " + kind.title() + ", "
                            + medium.size().exact() + ".");
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.block.BlockDevice;
import exordium.core.block.FileDevice;
import exordium.core.block.MachineDrive;
import exordium.core.block.MachineDrives;
import exordium.core.block.PatientDevice;
import exordium.core.block.SameBytes;
import exordium.core.block.TransferWatch;
import exordium.core.finding.Basis;
import exordium.core.finding.Finding;
import exordium.core.finding.NotPossible;
import exordium.core.finding.Refused;
import exordium.core.finding.Subject;
import exordium.core.finding.UnreadableInput;
import exordium.core.profile.ProfileReader;
import exordium.core.quantity.ByteRate;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.WritePlan;
import exordium.sim.DriveDescription;
import exordium.sim.VirtualDrive;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiPredicate;

/** What can be written to: virtual drives, plain files, and, once allowed, drives of the machine. */
public final class Targets {
    private final ProfileReader profiles;
    private final MachineDrives machine;
    private final Path workspace;
    private final boolean realDrives;
    private final BiPredicate<Media.Medium, MachineDrive> recognises;

    /** Where workspace: folder whose own drive is always refused. */
    public Targets(ProfileReader profiles, MachineDrives machine, Path workspace, boolean realDrives) {
        this(
                profiles,
                machine,
                workspace,
                realDrives,
                (medium, drive) -> !medium.serial().isEmpty() && drive.serial().equals(medium.serial()));
    }

    private Targets(
            ProfileReader profiles,
            MachineDrives machine,
            Path workspace,
            boolean realDrives,
            BiPredicate<Media.Medium, MachineDrive> recognises) {
        this.recognises = recognises;
        this.profiles = profiles;
        this.machine = machine;
        this.workspace = workspace;
        this.realDrives = realDrives;
    }

    /** The same where a register tells which medium a drive is, other than by its serial. */
    public Targets recognisedBy(Recognition recognition) {
        return new Targets(profiles, machine, workspace, realDrives, recognition::is);
    }

    /** A way to open the target once its plan is accepted. */
    public interface Opener {
        BlockDevice open(boolean forWriting) throws IOException;

        /** The drive of the machine that it opens; empty for a virtual one or a file. */
        default Optional<MachineDrive> ofMachine() {
            return Optional.empty();
        }
    }

    private final class OfMachine implements Opener {
        private final MachineDrive drive;

        OfMachine(MachineDrive drive) {
            this.drive = drive;
        }

        @Override
        public BlockDevice open(boolean forWriting) throws IOException {
            return Targets.this.open(drive, forWriting);
        }

        @Override
        public Optional<MachineDrive> ofMachine() {
            return Optional.of(drive);
        }
    }

    /** A target and how to open it; serial is empty where it tells none. */
    public record Target(WritePlan.TargetDescription description, boolean simulated, String serial, Opener opener) {
        /** Opens it for a deed: nobody else gets at it meanwhile, and whoever stops is not held up by a drive that hangs. */
        public BlockDevice claim(TransferWatch watch) throws IOException {
            return new PatientDevice(opener.open(true), watch::cancelled);
        }

        /** Opens it for reading, with the same way out. */
        public BlockDevice read(TransferWatch watch) throws IOException {
            return new PatientDevice(opener.open(false), watch::cancelled);
        }

        /** Whether nothing speaks against it but that somebody has it open at this moment. */
        public boolean onlyOpen() {
            return description.refusals().size() == 1
                    && description.refusals().get(0).isAbout(Subject.OPEN_NOW);
        }

        /** Whether it is a drive of the machine. */
        public boolean onMachine() {
            return opener.ofMachine().isPresent();
        }

        /** What it is, whatever it is called: by this an unfinished write is known again. */
        public String key() throws IOException {
            Path path = description.path();
            Path real = Files.exists(path)
                    ? path.toRealPath()
                    : path.toAbsolutePath().normalize();
            return serial.isEmpty() || simulated ? real.toString() : "serial " + serial;
        }
    }

    /** What is here under that path; where nothing is, a virtual drive of the workspace may be called by its name alone. */
    public Path meant(Path typed) {
        Path drive = workspace.resolve("drives").resolve(typed);
        boolean named = typed.getNameCount() == 1 && !typed.isAbsolute() && !Files.exists(typed);
        return named && VirtualDrive.isOne(drive) ? drive : typed;
    }

    /**
     * Finds out what stands at a path.
     *
     * @param room for a plain file that is not there yet: how large it may become
     * @throws UnreadableInput when it is a folder, or nothing that can be written
     */
    public Target at(Path typed, ByteSize room) throws IOException {
        Path path = meant(typed);
        if (Files.isDirectory(path)) {
            throw new UnreadableInput(path + " is a folder, not a drive or a file.");
        }
        // A device is a device, whatever lies beside the link that leads to it.
        Optional<MachineDrive> drive = machine.find(path, workspace);
        if (drive.isPresent()) {
            return real(drive.get());
        }
        if (Files.exists(path) && !Files.isRegularFile(path)) {
            Refused.ifAnyStops(machine.notReached().stream().toList());
            throw new UnreadableInput(path + " is neither a whole drive, nor a virtual one, nor a file.");
        }
        return VirtualDrive.isOne(path) ? virtual(path) : file(path, room);
    }

    /**
     * A medium of the register: a drive of the workspace, or one of the machine as long as it is plugged in.
     *
     * @throws NotPossible when it is away
     */
    public Target of(Media.Medium medium) throws IOException {
        Path file = workspace.resolve("drives").resolve(medium.file());
        if (Files.isRegularFile(file)) {
            return at(file, medium.size());
        }
        for (MachineDrive drive : machine.list(workspace)) {
            if (recognises.test(medium, drive)) {
                return real(drive);
            }
        }
        throw new NotPossible(medium.name() + " is not here; plug it into this machine and try again.");
    }

    /** What can be got at at this moment; the machine is asked once, when the first medium wants it. */
    public final class Present {
        private final Map<String, Boolean> known = new HashMap<>();
        private List<MachineDrive> drives;

        private Present() {}

        /** A drive of the workspace, or one of the machine that is known to be it. Asks nobody for leave. */
        public boolean has(Media.Medium medium) throws IOException {
            if (Files.isRegularFile(workspace.resolve("drives").resolve(medium.file()))) {
                return true;
            }
            if (!medium.file().startsWith("drive:")) {
                return false;
            }
            if (drives == null) {
                drives = machine.list(workspace);
            }
            return known.computeIfAbsent(
                    medium.id(), id -> drives.stream().anyMatch(drive -> recognises.test(medium, drive)));
        }
    }

    public Present present() {
        return new Present();
    }

    public boolean isHere(Media.Medium medium) throws IOException {
        return present().has(medium);
    }

    /** All drives there are, virtual ones of the workspace first. */
    public List<Target> all(Path drives) throws IOException {
        List<Target> targets = new ArrayList<>();
        if (Files.isDirectory(drives)) {
            try (var files = Files.list(drives)) {
                for (Path file : files.filter(VirtualDrive::isOne).sorted().toList()) {
                    targets.add(virtual(file));
                }
            }
        }
        for (MachineDrive drive : machine.list(workspace)) {
            targets.add(real(drive));
        }
        return targets;
    }

    /** Why there are none of the machine; empty where the system tells of them. */
    public Optional<Finding> notReached() {
        return machine.notReached();
    }

    public List<MachineDrive> ofMachine() throws IOException {
        return machine.list(workspace);
    }

    /** Why no drive of the machine may be used as long as its user has not turned them on. */
    public static final Finding OFF = Finding.stop(
            "real-drives-off",
            "Drives of this machine are off. Turn them on with --allow-real-drives, after looking twice at the name.",
            Basis.houseRule("real drives"));

    /** Reasons for which a drive of the machine is refused, the general switch among them. */
    public List<Finding> refusals(MachineDrive drive) {
        List<Finding> refusals = new ArrayList<>(drive.refusals());
        if (!realDrives) {
            refusals.add(OFF);
        }
        return refusals;
    }

    /** What holds for everything that can be written: it is none of the program's own files, and not in use by another name. */
    private List<Finding> refusals(SameBytes bytes) throws IOException {
        List<Finding> refusals = new ArrayList<>();
        new OwnFiles(workspace).refusal(bytes.path(), bytes.all()).ifPresent(refusals::add);
        bytes.inUseElsewhere().ifPresent(refusals::add);
        return refusals;
    }

    private Target virtual(Path path) throws IOException {
        DriveDescription description = VirtualDrive.describe(profiles, path);
        SameBytes bytes = SameBytes.at(path);
        return new Target(
                new WritePlan.TargetDescription(
                        name(path),
                        path,
                        description.bytes(),
                        description.writeRate(),
                        description.readRate(),
                        Optional.empty(),
                        refusals(bytes)),
                true,
                description.serial(),
                forWriting -> VirtualDrive.open(profiles, path, forWriting, bytes.self()));
    }

    private Target real(MachineDrive drive) throws IOException {
        List<Finding> refusals = new ArrayList<>(refusals(drive));
        refusals.addAll(refusals(SameBytes.at(drive.node())));
        Optional<ByteRate> unknown = Optional.empty();
        return new Target(
                new WritePlan.TargetDescription(
                        drive.id(),
                        drive.node(),
                        drive.size(),
                        unknown,
                        unknown,
                        Optional.of("Everything on " + drive.id() + " ("
                                + drive.size().said() + ") will be lost."),
                        refusals),
                false,
                drive.serial(),
                new OfMachine(drive));
    }

    /** Looks once more just before writing: since the plan, somebody may have mounted it. */
    private BlockDevice open(MachineDrive drive, boolean forWriting) throws IOException {
        if (forWriting) {
            MachineDrive now = machine.find(drive.node(), workspace)
                    .filter(drive::isStill)
                    .orElseThrow(() -> new NotPossible(drive.node() + " is not the drive it was; look again."));
            Refused.ifAnyStops(refusals(now));
            Refused.ifAnyStops(refusals(SameBytes.at(drive.node())));
        }
        return drive.openAsking(forWriting);
    }

    private Target file(Path path, ByteSize room) throws IOException {
        boolean there = Files.exists(path);
        boolean holds = there && Files.size(path) > 0;
        ByteSize size = holds ? ByteSize.of(Files.size(path)) : room;
        SameBytes bytes = SameBytes.at(path);
        List<Finding> refusals = new ArrayList<>(refusals(bytes));
        Path folder = path.toAbsolutePath().getParent();
        if (!there && (folder == null || !Files.isDirectory(folder))) {
            throw new UnreadableInput("There is no folder " + folder + " to put " + path.getFileName() + " in.");
        }
        if (there && !Files.isWritable(path)) {
            refusals.add(Finding.stop(
                    "target-read-only", path + " may not be written by this user.", Basis.computed("its permissions")));
        }
        Optional<String> loses =
                holds ? Optional.of("What " + path.getFileName() + " holds now will be lost.") : Optional.empty();
        return new Target(
                new WritePlan.TargetDescription(
                        name(path), path, size, Optional.empty(), Optional.empty(), loses, refusals),
                false,
                "",
                forWriting -> forWriting ? open(bytes, size) : FileDevice.forReading(path));
    }

    private BlockDevice open(SameBytes planned, ByteSize size) throws IOException {
        if (planned.self().isEmpty()) {
            // Refused where something came to stand there since; that was in nobody's plan.
            Files.createFile(planned.path());
            return FileDevice.forWriting(planned.path(), size);
        }
        Refused.ifAnyStops(refusals(SameBytes.at(planned.path())));
        return FileDevice.forWriting(planned.path(), size, planned.self());
    }

    private static String name(Path path) {
        return String.valueOf(path.getFileName());
    }
}

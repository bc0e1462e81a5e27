// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.copies.vault;

import exordium.core.block.TransferWatch;
import exordium.core.copies.vault.VaultFiles;
import exordium.core.copies.vault.VaultMove;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.quantity.ByteSize;
import exordium.jobs.bench.Workbench;
import exordium.jobs.run.JobRunner;
import exordium.jobs.run.Key;
import exordium.store.Copies;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Where the copies lie: in the workspace, or in a folder of another drive or of a share. */
public final class VaultPlace {
    private static final JobRunner.DeedKind MOVE =
            JobRunner.DeedKind.keyed("vault-move", Step.COPIES, "moving", "Its copies are where they were.");

    private final Workbench workbench;
    private final Workspace workspace;

    public VaultPlace(Workbench workbench) {
        this.workbench = workbench;
        this.workspace = workbench.workspace();
    }

    /**
     * What a move would do.
     *
     * @param hasAll whether the copies are there already
     * @param bytes that go along
     * @param free bytes there
     */
    public record Planned(Path from, Path to, boolean hasAll, ByteSize bytes, ByteSize free) {
        public String said() {
            return bytes.bytes() == 0
                    ? "Copies are looked for in " + to + " from then on; nothing has to be moved."
                    : bytes.said() + " are copied to " + to + ", where " + free.said()
                            + " are free, and read back there; only then do they leave " + from + ".";
        }
    }

    /**
     * What moving the vault to a folder comes to.
     *
     * @param typed the folder, empty for the one in the workspace; what is not there yet is made where the folder above it is there
     * @throws UnreadableInput when it cannot lie there
     */
    public Planned plan(Optional<String> typed) throws IOException {
        Path to = typed.isPresent() ? folder(typed.get()) : own();
        Path from = workspace.vault().toAbsolutePath().normalize();
        if (to.equals(from) || (Files.isDirectory(to) && Files.isDirectory(from) && Files.isSameFile(to, from))) {
            throw new UnreadableInput("The vault is in " + from + " already.");
        }
        if (!to.equals(own())
                && to.startsWith(workspace.folder().toAbsolutePath().normalize())) {
            throw new UnreadableInput(
                    to + " is inside the workspace, where other things lie; take a folder outside it.");
        }
        if (to.startsWith(from) || from.startsWith(to)) {
            throw new UnreadableInput("One of " + from + " and " + to + " lies in the other; take a folder beside it.");
        }
        Path above = Files.isDirectory(to) ? to : to.getParent();
        if (above == null || !Files.isDirectory(above)) {
            throw new UnreadableInput(
                    "There is no folder " + above + " to put the vault in; is its drive or share mounted?");
        }
        if (!Files.isWritable(above)) {
            throw new UnreadableInput("Nothing can be written in " + above + ".");
        }
        boolean hasAll = isWhole(to);
        if (!hasAll) {
            workbench.standing().here();
        }
        ByteSize bytes = hasAll ? ByteSize.ZERO : VaultFiles.room(from);
        ByteSize free = ByteSize.of(Files.getFileStore(above).getUsableSpace());
        if (bytes.compareTo(free) > 0) {
            throw new UnreadableInput(
                    "The vault takes " + bytes.said() + "; in " + to + " are " + free.said() + " free.");
        }
        return new Planned(from, to, hasAll, bytes, free);
    }

    private Path own() {
        return workspace.ownVault().toAbsolutePath().normalize();
    }

    /** Whether every copy of the register is there, and there are any: moved by hand, or the same share under another name. */
    private boolean isWhole(Path vault) {
        boolean any = false;
        for (Copies.Copy copy : workspace.copies().all()) {
            any = true;
            if (!Files.isRegularFile(vault.resolve(copy.file()))) {
                return false;
            }
        }
        return any;
    }

    private static Path folder(String typed) throws UnreadableInput {
        if (typed.isBlank()) {
            throw new UnreadableInput("Name the folder the vault is to lie in.");
        }
        try {
            Path folder = Path.of(typed.strip()).toAbsolutePath().normalize();
            if (Files.exists(folder) && !Files.isDirectory(folder)) {
                throw new UnreadableInput(folder + " is a file; the vault lies in a folder.");
            }
            return folder;
        } catch (InvalidPathException e) {
            throw new UnreadableInput("\"" + typed + "\" is no path of a folder.", e);
        }
    }

    /**
     * Moves it, and gives what came of it; stopped before its end, it is where it was.
     *
     * @throws exordium.core.finding.Refused while somebody is at the vault
     */
    public String move(Planned planned, TransferWatch watch) throws IOException {
        return new JobRunner(workbench)
                .keyed(
                        MOVE,
                        Key.vault(),
                        Optional.empty(),
                        () -> new JobRunner.Outcome<>(moved(planned, watch), "", ""));
    }

    private String moved(Planned planned, TransferWatch watch) throws IOException {
        // It may be a while since: shares come and go, and another process may have moved it.
        Planned plan = plan(Optional.of(planned.to().toString()));
        String lies = "The vault lies in " + plan.to() + " from now on; ";
        if (plan.hasAll()) {
            isNowAt(plan);
            return lies + "its copies were there already.";
        }
        Set<Path> ours = workspace.copies().all().stream()
                .map(copy -> Path.of(copy.file()))
                .collect(Collectors.toSet());
        boolean stays = VaultMove.run(plan.from(), plan.to(), ours, () -> isNowAt(plan), watch);
        return lies
                + (stays
                        ? "it stays in " + plan.from()
                                + " as well, where there are copies that are not of this workspace."
                        : plan.bytes().said() + " were moved and read back.");
    }

    private void isNowAt(Planned plan) {
        workspace.inTransaction(() -> {
            workspace.vaultIsAt(Optional.of(plan.to()).filter(place -> !place.equals(own())));
            workspace
                    .log()
                    .add(
                            Optional.empty(),
                            Step.COPIES,
                            "vault-moved",
                            "The vault lies in " + plan.to() + " from now on; before it was in " + plan.from() + ".",
                            Optional.empty());
            return null;
        });
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.copies.vault.VaultFiles;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ChunkPacks;
import exordium.store.Copies;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.Predicate;

/** Where a workspace's copies lie, and whether they can be got at. */
public final class VaultStanding {
    private final Workspace workspace;

    VaultStanding(Workspace workspace) {
        this.workspace = workspace;
    }

    /** Where the vault was put; empty while it is in the workspace. */
    public Optional<Path> place() {
        return Optional.of(workspace.vault()).filter(vault -> !vault.equals(workspace.ownVault()));
    }

    /**
     * The vault, for whoever adds to it or takes from it.
     *
     * @throws UnreadableInput when it is not there: then its share or drive is not mounted, and what were put into the empty folder
     *     would be missed later
     */
    public Path here() throws IOException {
        Optional<String> away = away();
        if (away.isPresent()) {
            throw new UnreadableInput(away.get());
        }
        return workspace.vault();
    }

    /** Which copies of the register count: those whose file is in the vault, and of one that is away all, since nobody can tell. */
    static Predicate<Copies.Copy> counting(Path vault, Optional<String> away) {
        return copy -> away.isPresent() || Files.isRegularFile(vault.resolve(copy.file()));
    }

    /** Why nothing can be put into the vault or taken from it; empty where it is there, or was never used. */
    public Optional<String> away() throws IOException {
        return away(workspace.vault(), !workspace.copies().all().isEmpty());
    }

    Optional<String> away(Path vault, boolean holdsCopies) throws IOException {
        boolean used = holdsCopies || !vault.equals(workspace.ownVault());
        return used && !VaultFiles.isThere(vault)
                ? Optional.of("The vault is not there: " + vault + " has nothing of it. Is its drive or share mounted?"
                        + " If its copies are lost, make an empty folder " + ChunkPacks.FOLDER + " in it.")
                : Optional.empty();
    }
}

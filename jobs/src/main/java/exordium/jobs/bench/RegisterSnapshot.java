// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.storage.judgement.Role;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Signs;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/**
 * What the registers tell of all boards and media, read at once: ten statements, for one board as for a hundred.
 *
 * @param lastWrites by medium; lastTouching: by medium, the newest deed beside a write that changed what is on it
 * @param copies by board, its newest ones
 * @param vaultAway why nothing of the vault can be got at; empty where it is there
 * @param startSeen boards that were seen starting
 * @param signs by medium, what it showed along its life; roles: by board, what it is for
 */
public record RegisterSnapshot(
        List<Boards.Board> boards,
        List<Media.Listed> media,
        Map<String, Operations.Operation> lastWrites,
        Map<String, Operations.Operation> lastTouching,
        Map<String, NewestCopy> copies,
        Optional<String> vaultAway,
        Set<String> startSeen,
        Map<String, Signs.History> signs,
        Map<String, Role> roles,
        HouseRules rules) {
    /** What the logbook calls a start that was seen. */
    public static final String START_SEEN = "start-seen";

    /**
     * A board's newest copies.
     *
     * @param here when the newest was proven of those whose file is in the vault; of a vault that is away, of all
     * @param gone when one after it was proven whose file is not in the vault any more
     */
    public record NewestCopy(Optional<Instant> here, Optional<Instant> gone) {
        static final NewestCopy NONE = new NewestCopy(Optional.empty(), Optional.empty());
    }

    public static RegisterSnapshot of(Workbench workbench) throws IOException {
        Workspace workspace = workbench.workspace();
        List<Copies.Copy> copies = workspace.copies().all();
        Path vault = workspace.vault();
        Optional<String> away = workbench.standing().away(vault, !copies.isEmpty());
        return new RegisterSnapshot(
                workspace.boards().all(),
                workspace.media().listed(),
                workspace.operations().lastWrites(),
                workspace.operations().lastTouching(),
                newest(copies, VaultStanding.counting(vault, away)),
                away,
                workspace.log().boardsWith(START_SEEN),
                workspace.signs().all(),
                workspace.roles().all(),
                workbench.rules());
    }

    /** Where copies: oldest first, as the register has them. */
    private static Map<String, NewestCopy> newest(List<Copies.Copy> copies, Predicate<Copies.Copy> here) {
        Map<String, NewestCopy> newest = new HashMap<>();
        for (int i = copies.size() - 1; i >= 0; i--) {
            Copies.Copy copy = copies.get(i);
            NewestCopy known = newest.getOrDefault(copy.board(), NewestCopy.NONE);
            if (copy.board() == null || known.here().isPresent()) {
                continue;
            }
            newest.put(
                    copy.board(),
                    here.test(copy)
                            ? new NewestCopy(Optional.of(copy.proven()), known.gone())
                            : new NewestCopy(Optional.empty(), known.gone().or(() -> Optional.of(copy.proven()))));
        }
        return newest;
    }

    /** The newest copies of a board. */
    public NewestCopy newest(String board) {
        return copies.getOrDefault(board, NewestCopy.NONE);
    }

    /** A medium of the register with its details. */
    public Media.Listed listed(Media.Medium medium) {
        return media.stream()
                .filter(each -> each.medium().id().equals(medium.id()))
                .findFirst()
                .orElseThrow();
    }

    Optional<Media.Medium> byFile(String file) {
        return byFile(media, file);
    }

    static Optional<Media.Medium> byFile(List<Media.Listed> media, String file) {
        return media.stream()
                .map(Media.Listed::medium)
                .filter(medium -> medium.file().equals(file))
                .findFirst();
    }
}

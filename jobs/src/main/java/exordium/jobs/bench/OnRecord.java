// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.storage.Role;
import exordium.store.Boards;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Signs;
import exordium.store.Workspace;
import exordium.store.Writes;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What the registers tell of all boards and media, read at once: nine statements, for one board as for a hundred.
 *
 * @param lastWrites by medium; lastTouching: by medium, the newest deed beside a write that changed what is on it
 * @param lastCopies by board, when its newest copy was proven
 * @param startSeen boards that were seen starting
 * @param signs by medium, what it showed along its life; roles: by board, what it is for
 */
public record OnRecord(
        List<Boards.Board> boards,
        List<Media.Listed> media,
        Map<String, Writes.Write> lastWrites,
        Map<String, Operations.Operation> lastTouching,
        Map<String, Instant> lastCopies,
        Set<String> startSeen,
        Map<String, Signs.Of> signs,
        Map<String, Role> roles,
        HouseRules rules) {
    /** What the logbook calls a start that was seen. */
    public static final String START_SEEN = "start-seen";

    public static OnRecord of(Workbench workbench) {
        Workspace workspace = workbench.workspace();
        return new OnRecord(
                workspace.boards().all(),
                workspace.media().listed(),
                workspace.writes().lastByMedium(),
                workspace.operations().lastTouching(),
                workspace.copies().lastByBoard(),
                workspace.log().boardsWith(START_SEEN),
                workspace.signs().all(),
                workspace.roles().all(),
                workbench.rules());
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

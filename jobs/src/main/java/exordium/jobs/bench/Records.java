// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.bench;

import exordium.core.finding.UnreadableInput;
import exordium.core.storage.judgement.Role;
import exordium.core.storage.media.KnownDrives;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Logbook;
import exordium.store.Media;
import exordium.store.Workspace;
import java.util.List;

/** What is on record, for the window and for commands: they read here, and change things by jobs only. */
public final class Records {
    private final Workbench workbench;
    private final Workspace workspace;

    Records(Workbench workbench) {
        this.workbench = workbench;
        this.workspace = workbench.workspace();
    }

    public List<Boards.Board> boards() {
        return workspace.boards().all();
    }

    public List<Media.Medium> media() {
        return workspace.media().all();
    }

    public List<Images.Image> images() {
        return workspace.imageShelf().all();
    }

    /** Proven copies, oldest first. */
    public List<Copies.Copy> copies() {
        return workspace.copies().all();
    }

    public List<Copies.Copy> copiesOf(String board) {
        return workspace.copies().of(board);
    }

    /** The whole logbook, oldest first. */
    public List<Logbook.Entry> log() {
        return workspace.log().all();
    }

    /** The words of the newest entry; empty where there is none. */
    public String lastWords() {
        return workspace.log().last().map(Logbook.Entry::text).orElse("");
    }

    public KnownDrives knownDrives() {
        return workspace.roles().known().with(workbench.works());
    }

    /** Puts down what a board is for. */
    public void role(String board, Role role) {
        workspace.roles().put(board, role);
    }

    /** @throws UnreadableInput when there is none of that id or label */
    public Media.Medium medium(String idOrLabel) throws UnreadableInput {
        return workspace.media().require(idOrLabel);
    }

    /** How many things there are. */
    public record Counts(int media, int images, int releases) {}

    public Counts counts() {
        return new Counts(
                media().size(), images().size(), workbench.firmware().releases().size());
    }
}

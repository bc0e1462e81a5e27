// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.workspace;

import exordium.core.access.BoardState;
import exordium.core.finding.Sentence;
import exordium.core.finding.Step;
import exordium.core.finding.UnreadableInput;
import exordium.core.image.ContainerKind;
import exordium.jobs.bench.Folders;
import exordium.jobs.bench.HouseRules;
import exordium.jobs.bench.Workbench;
import exordium.jobs.passage.PassageJob;
import exordium.store.Boards;
import exordium.store.Copies;
import exordium.store.Images;
import exordium.store.Logbook;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Passages;
import exordium.store.Workspace;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * The registers of a workspace that came from somebody else, row by row, before anybody works with them: each is read as every command will
 * read it, names lead nowhere but into the workspace, and what is permitted is decided here and not there.
 */
final class ImportedRows {
    private static final int LONGEST_NAME = 200;
    private static final Pattern ID = Pattern.compile("[a-z0-9][a-z0-9._-]{0,119}");
    private static final Pattern WORD = Pattern.compile("[a-z][a-z0-9-]{0,59}");
    private static final Pattern SHA256 = Pattern.compile("[0-9a-f]{64}");
    private static final Set<String> CONTAINERS =
            Arrays.stream(ContainerKind.values()).map(ContainerKind::code).collect(Collectors.toUnmodifiableSet());
    private static final Set<String> STEPS =
            Arrays.stream(Step.values()).map(Step::code).collect(Collectors.toUnmodifiableSet());

    private final Workbench made;
    private final Workspace workspace;
    private final String archive;

    ImportedRows(Workbench made, String archive) {
        this.made = made;
        this.workspace = made.workspace();
        this.archive = archive;
    }

    /** @throws UnreadableInput naming the first row that cannot be */
    void require() throws IOException {
        try {
            settings();
            boards();
            media();
            images();
            copies();
            deeds();
            log();
            // Read as everybody will, which is all that is asked of them.
            workspace.signs().all();
            workspace.care().all();
            workspace.roles().all();
            workspace.roles().known();
            for (Passages.Passage passage : workspace.passages().all()) {
                PassageJob.requireWhole(passage);
            }
        } catch (UnreadableInput e) {
            throw e.getMessage().startsWith(archive) ? e : no(Sentence.of(e), e);
        } catch (RuntimeException e) {
            throw no("a row that cannot be read.", e);
        }
    }

    private UnreadableInput no(String what, Exception cause) {
        return new UnreadableInput(archive + " is not taken: it has " + what + " Nothing was made of it.", cause);
    }

    private void must(boolean holds, String what, String which) throws UnreadableInput {
        if (!holds) {
            throw no(what + " that cannot be, \"" + which.replaceAll("\\p{Cntrl}", "?") + "\".", null);
        }
    }

    private void name(String text, String what) throws UnreadableInput {
        must(
                text.length() <= LONGEST_NAME && text.chars().noneMatch(Character::isISOControl),
                what,
                text.substring(0, Math.min(text.length(), LONGEST_NAME)));
    }

    private void file(Path folder, String file, String what) throws UnreadableInput {
        name(file, what);
        if (!Folders.isInside(folder, file)) {
            throw no(what + " that leads out of the workspace, \"" + file + "\".", null);
        }
    }

    /** Real drives are permitted here and nowhere else; a rule that cannot be read is as it usually is. */
    private void settings() {
        workspace.settings().all().forEach((key, value) -> {
            if (!HouseRules.mayCome(key, value)) {
                workspace.settings().forget(key);
            }
        });
    }

    private void boards() throws IOException {
        for (Boards.Board board : workspace.boards().all()) {
            must(ID.matcher(board.id()).matches(), "a board's id", board.id());
            name(board.name(), "a board's name");
            name(board.place(), "a board's place");
            must(
                    made.profiles().find(board.profile()).isPresent(),
                    "a board of a family that is not known here and not in it,",
                    board.profile());
            for (BoardState.Plug plug : made.board(board.id()).board().attached()) {
                file(made.drives(), plug.drive(), "a drive in a board");
            }
        }
    }

    private void media() throws UnreadableInput {
        Set<String> labels = new HashSet<>();
        for (Media.Listed each : workspace.media().listed()) {
            Media.Medium medium = each.medium();
            must(ID.matcher(medium.id()).matches(), "a medium's id", medium.id());
            for (String text : List.of(
                    medium.name(),
                    medium.serial(),
                    medium.place(),
                    each.details().label())) {
                name(text, "a medium's name");
            }
            file(made.drives(), medium.file(), "a medium's file");
            made.kind(medium.kind());
            String label = each.details().label();
            must(label.isEmpty() || labels.add(label), "two media with one label", label);
        }
    }

    private void images() throws UnreadableInput {
        for (Images.Image image : workspace.imageShelf().all()) {
            must(ID.matcher(image.id()).matches(), "an image's id", image.id());
            name(image.title(), "an image's title");
            name(image.version(), "an image's version");
            file(made.images(), image.file(), "an image's file");
            must(CONTAINERS.contains(image.container()), "an image's container", image.container());
        }
    }

    private void copies() throws UnreadableInput {
        for (Copies.Copy copy : workspace.copies().all()) {
            file(workspace.vault(), copy.file(), "a copy's file");
            must(copy.board() != null, "a copy of no board", copy.file());
            must(SHA256.matcher(copy.sha256()).matches(), "a copy's digest", copy.sha256());
            must(copy.source() >= 0 && copy.bytes() >= 0, "a copy's size", copy.file());
        }
    }

    private void deeds() throws UnreadableInput {
        for (Operations.Operation each : workspace.operations().all()) {
            must(
                    WORD.matcher(each.deed().kind()).matches(),
                    "a deed",
                    each.deed().kind());
            must(!each.runs(), "a deed's ending", each.ending().code());
            name(each.deed().target(), "a deed's target");
        }
        for (Operations.Operation each : workspace.operations().writes()) {
            must(!each.runs(), "a write's ending", each.ending().code());
            name(each.deed().target(), "a write's target");
            name(each.image(), "a write's image");
            must(!each.image().isEmpty(), "a write of no image", each.deed().target());
        }
    }

    private void log() throws UnreadableInput {
        for (Logbook.Entry entry : workspace.log().all()) {
            must(WORD.matcher(entry.kind()).matches(), "a kind of entry of the logbook", entry.kind());
            must(STEPS.contains(entry.step()), "a step in the logbook", entry.step());
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.board.image;

import exordium.core.copies.care.WayBack;
import exordium.core.storage.media.Newcomer;
import exordium.desktop.board.station.OpenedBoard;
import exordium.desktop.board.station.StationModel;
import exordium.desktop.desk.House;
import exordium.jobs.bench.TargetHistory;
import exordium.jobs.bench.Targets;
import exordium.jobs.bench.Workbench;
import exordium.jobs.media.PluggedIn;
import exordium.jobs.shelf.ImagesFor;
import exordium.jobs.writing.WriteJob;
import exordium.store.Copies;
import exordium.store.Media;
import java.io.IOException;
import java.nio.file.Files;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What can be written for a board, and to what.
 *
 * @param sources images of the shelf and the board's copies, newest first, then media that are here; what stands first is the
 *     house's way back where the target is a spare
 * @param registered which medium of the register a target is
 * @param inServiceAt the name of the board a drive is in, by the drive's file
 * @param newcomers what drives are called that are in no register yet, and what they most likely are
 * @param unfinished writes that were cut off
 */
public record ImageModel(
        OpenedBoard board,
        List<ImageSource> sources,
        Map<Targets.Target, Media.Medium> registered,
        Map<String, String> inServiceAt,
        Map<Targets.Target, Newcomer> newcomers,
        List<Targets.Target> targets,
        List<WriteJob.Unfinished> unfinished)
        implements StationModel {

    /** What the station shows now; not to be called on the interface thread. */
    public static ImageModel read(House house, OpenedBoard board) throws IOException {
        Workbench workbench = house.workbench();
        TargetHistory history = new TargetHistory(workbench);
        List<Targets.Target> targets = new ArrayList<>();
        for (Targets.Target target : house.targets().all(workbench.drives())) {
            targets.add(history.known(target));
        }
        Map<Targets.Target, Media.Medium> registered = new LinkedHashMap<>();
        targets.forEach(target -> workbench.registered(target).ifPresent(medium -> registered.put(target, medium)));
        return new ImageModel(
                board,
                sources(workbench, board, registered),
                registered,
                workbench.inServiceAt(),
                new PluggedIn(workbench).guesses(targets),
                targets,
                WriteJob.unfinished(workbench));
    }

    /** A copy is the way back onto a spare; onto the medium that is in service it would only take back what was written since. */
    private static List<ImageSource> sources(
            Workbench workbench, OpenedBoard board, Map<Targets.Target, Media.Medium> registered) throws IOException {
        List<ImageSource> shelf = ImagesFor.of(workbench, board.at()).stream()
                .map(image -> ImageSource.of(image, workbench.images()))
                .toList();
        List<ImageSource> kept = copies(workbench, board.id());
        boolean inService = board.medium().filter(registered::containsValue).isPresent();
        boolean copyFirst = workbench.rules().wayBack() == WayBack.COPY && !inService;
        List<ImageSource> sources = new ArrayList<>(copyFirst ? kept : shelf);
        sources.addAll(copyFirst ? shelf : kept);
        registered.forEach((target, medium) -> sources.add(ImageSource.of(medium, target)));
        return List.copyOf(sources);
    }

    private static List<ImageSource> copies(Workbench workbench, String board) {
        List<Copies.Copy> copies = workbench.records().copiesOf(board);
        List<ImageSource> sources = new ArrayList<>();
        for (int i = copies.size() - 1; i >= 0; i--) {
            Copies.Copy copy = copies.get(i);
            LocalDate day = LocalDate.ofInstant(copy.proven(), workbench.zone());
            if (Files.isRegularFile(workbench.vault().resolve(copy.file()))) {
                sources.add(ImageSource.of(copy, workbench.vault(), day));
            }
        }
        return sources;
    }

    /** What a target would be taken into the register as; empty where it is in it, or no drive of this machine. */
    public Optional<Newcomer> newcomer(Targets.Target target) {
        return Optional.ofNullable(newcomers.get(target));
    }

    /** The register's entry behind a target. */
    public Optional<Media.Medium> registered(Targets.Target target) {
        return Optional.ofNullable(registered.get(target));
    }

    /** What one would write to: the board's own medium, else one that is new here, else one that is in service nowhere. */
    public Optional<Targets.Target> usualTarget() {
        Optional<Targets.Target> own = targets.stream()
                .filter(each -> registered(each)
                        .filter(medium -> board.medium().filter(medium::equals).isPresent())
                        .isPresent())
                .findFirst();
        return own.or(() -> newcomers.keySet().stream().findFirst()).or(() -> targets.stream()
                .filter(each -> registered(each)
                        .filter(medium -> !inServiceAt.containsKey(medium.file()))
                        .isPresent())
                .findFirst());
    }
}

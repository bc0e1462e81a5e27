// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.shelf;

import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Images;
import exordium.store.Media;
import exordium.store.Operations;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The images of the shelf in the order in which one would take them for a board. */
public final class ImagesFor {
    private ImagesFor() {}

    /**
     * First those of the system its medium was last written from, the newest first; then those that boards of its family run from; then
     * the others as they lie.
     */
    public static List<Images.Image> of(Workbench workbench, Workbench.BoardAtHand at) throws IOException {
        List<Images.Image> shelf = workbench.workspace().imageShelf().all();
        Map<String, Operations.Operation> writes =
                workbench.workspace().operations().lastWrites();
        Optional<String> own = workbench
                .mainMedium(at)
                .flatMap(medium -> Optional.ofNullable(writes.get(medium.id())))
                .flatMap(write -> titled(shelf, write.image()));
        Set<String> ofFamily = inFamily(workbench, at, writes);
        List<Images.Image> sorted = new ArrayList<>(shelf);
        sorted.sort(Comparator.comparingInt((Images.Image image) ->
                own.filter(system(image)::equals).isPresent() ? 0 : ofFamily.contains(image.file()) ? 1 : 2));
        int same = (int) sorted.stream()
                .filter(image -> own.filter(system(image)::equals).isPresent())
                .count();
        sorted.subList(0, same).sort(Comparator.comparing(Images.Image::version).reversed());
        return sorted;
    }

    private static Optional<String> titled(List<Images.Image> shelf, String file) {
        return shelf.stream()
                .filter(image -> image.file().equals(file))
                .findFirst()
                .map(ImagesFor::system);
    }

    /** The first word of a title, such as "marshlinux". */
    private static String system(Images.Image image) {
        return image.title().split("\\s+", 2)[0];
    }

    private static Set<String> inFamily(
            Workbench workbench, Workbench.BoardAtHand at, Map<String, Operations.Operation> writes)
            throws IOException {
        Set<String> files = new HashSet<>();
        for (Map.Entry<String, Boards.Board> each : workbench.inService().entrySet()) {
            if (each.getValue().profile().equals(at.profile().id())) {
                workbench.workspace().media().all().stream()
                        .filter(medium -> medium.file().equals(each.getKey()))
                        .map(Media.Medium::id)
                        .filter(writes::containsKey)
                        .forEach(id -> files.add(writes.get(id).image()));
            }
        }
        return files;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.jobs.shelf;

import exordium.jobs.bench.Workbench;
import exordium.store.Boards;
import exordium.store.Images;
import exordium.store.Media;
import exordium.store.Operations;
import exordium.store.Workspace;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Where the images of the shelf are in use: at the boards whose medium was last written from them. */
public final class ImageUse {
    private ImageUse() {}

    /** An image with the names of the boards that run from it. */
    public record Used(Images.Image image, List<String> boards) {}

    public static List<Used> of(Workbench workbench) throws IOException {
        Workspace workspace = workbench.workspace();
        Map<String, Boards.Board> service = workbench.inService();
        Map<String, Operations.Operation> last = workspace.operations().lastWrites();
        List<Media.Medium> media = workspace.media().all();
        List<Used> used = new ArrayList<>();
        for (Images.Image image : workspace.imageShelf().all()) {
            List<String> boards = new ArrayList<>();
            for (Media.Medium medium : media) {
                Operations.Operation write = last.get(medium.id());
                if (write != null && write.image().equals(image.file())) {
                    Optional.ofNullable(service.get(medium.file()))
                            .map(Boards.Board::name)
                            .ifPresent(boards::add);
                }
            }
            used.add(new Used(image, List.copyOf(boards)));
        }
        return used;
    }
}

// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.image.ImageFile;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.desk.Request;
import exordium.desktop.part.FormSheet;
import exordium.jobs.shelf.Intake;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** Takes an image file onto the shelf, with the checksum published beside it. */
public final class ShelveSheet extends FormSheet {
    private final TextField file = new TextField();
    private final TextField sum = new TextField();
    private final ComboBox<String> which = new ComboBox<>();

    public ShelveSheet(House house, Runnable close) {
        super(
                house,
                close,
                "An image for the shelf",
                "It is copied into the workspace and looked into; a SHA256SUMS or .sha256 file beside it is checked, or a sum pasted here.");
        file.setId("image-file");
        file.setPromptText("/home/…/marshlinux-2026.10-lite.img.xz");
        field("File", file);
        lookFor(file, "image-browse", "Image file", "Look for the image file");
        sum.setId("image-sum");
        sum.setPromptText("where it was published, paste it here");
        field("Published sum", sum);
        which.setId("image-which");
        which.setPromptText("one of several in the archive");
        field("Image inside", which);
        show(which, false);
        file.textProperty().addListener((property, before, now) -> {
            which.getItems().clear();
            show(which, false);
        });
        deedIs("Take it onto the shelf");
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        String typed = file.getText().strip();
        try {
            Path path = Path.of(typed);
            if (typed.isEmpty() || !Files.isRegularFile(path)) {
                house.reading()
                        .problemProperty()
                        .set(typed.isEmpty() ? "Name the image's file." : "There is no file " + typed + ".");
                return;
            }
            if (which.getValue() != null) {
                take(path.resolve(which.getValue()));
                return;
            }
            house.reading().look(() -> ImageFile.choices(path), choices -> {
                if (choices.isEmpty()) {
                    take(path);
                } else {
                    which.getItems().setAll(choices);
                    show(which, true);
                    which.requestFocus();
                    house.reading()
                            .problemProperty()
                            .set(path.getFileName() + " holds " + choices.size() + " images; choose one of them.");
                }
            });
        } catch (InvalidPathException e) {
            house.reading().problemProperty().set("\"" + typed + "\" is no path of a file.");
        }
    }

    private void take(Path image) {
        close.run();
        house.navigation().go(Place.Shelf.IMAGES);
        Optional<String> pasted = Optional.of(sum.getText().strip()).filter(text -> !text.isEmpty());
        house.jobs().start(Request.of("Taking " + image.getFileName() + " onto the shelf", meter -> new Intake(
                        house.workbench())
                .image(image, pasted, meter)));
    }
}

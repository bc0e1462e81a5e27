// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.station;

import exordium.core.daysheet.Pennant;
import exordium.core.finding.Severity;
import exordium.core.quantity.ByteSize;
import exordium.core.storage.StorageAssessment;
import exordium.core.storage.StorageChoice;
import exordium.core.storage.StorageNeed;
import exordium.desktop.Parts;
import exordium.desktop.draw.Bands;
import exordium.desktop.draw.PennantGlyph;
import exordium.desktop.model.BoardDetail;
import exordium.desktop.model.HouseModel;
import exordium.jobs.StorageQuestion;
import exordium.sim.VirtualBoard;
import exordium.store.Images;
import exordium.store.Media;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Which medium for this board: candidates from the drawer drawn to scale, with the reason each is good or not. */
final class StorageStation extends Station {
    private final StorageQuestion question;
    private final ComboBox<Images.Image> image = new ComboBox<>();
    private final VBox candidates = new VBox(6);
    private final VBox picture = new VBox(8);
    private Optional<String> chosen = Optional.empty();

    StorageStation(HouseModel house, BoardDetail board) {
        super(house, board);
        question = new StorageQuestion(board.workbench());
        image.getItems().setAll(board.images());
        image.setId("storage-image");
        WordCell.in(image, each -> each.title() + ", " + each.size().said());
        image.setAccessibleText("Image it is for");
        board.images().stream()
                .filter(this::suits)
                .findFirst()
                .or(() -> board.images().stream().findFirst())
                .ifPresent(image::setValue);
        image.valueProperty().addListener((property, before, now) -> show());
    }

    /** The image whose system the board runs now, else any. */
    private boolean suits(Images.Image candidate) {
        return board.facts()
                .medium()
                .flatMap(medium -> medium.system())
                .filter(candidate.title()::equals)
                .isPresent();
    }

    @Override
    String adviceTitle() {
        return "Why, in numbers";
    }

    @Override
    Node surface() {
        HBox top = Parts.row(10, Parts.label("For the image", "soft"), image);
        VBox surface = new VBox(
                10,
                Parts.heading("Candidates", "what is in the drawer, and what is in the board now"),
                top,
                candidates,
                picture);
        show();
        return surface;
    }

    private StorageNeed need() {
        return question.need(board.at(), Optional.ofNullable(image.getValue()).map(Images.Image::least));
    }

    private void show() {
        List<StorageAssessment> ranked = StorageChoice.rank(need(), board.candidates());
        String shown = chosen.or(() ->
                        board.medium().filter(medium -> medium.worn() < 0.9).map(Media.Medium::id))
                .or(() -> ranked.stream().findFirst().map(each -> each.medium().id()))
                .orElse("");
        candidates.getChildren().clear();
        for (StorageAssessment each : ranked) {
            candidates.getChildren().add(candidate(each, each.medium().id().equals(shown)));
        }
        ranked.stream()
                .filter(each -> each.medium().id().equals(shown))
                .findFirst()
                .ifPresent(this::draw);
    }

    private Button candidate(StorageAssessment each, boolean here) {
        boolean cautions = each.findings().stream().anyMatch(finding -> finding.severity() == Severity.CAUTION);
        Pennant state = !each.fits() ? Pennant.FAILING : cautions ? Pennant.DUE : Pennant.SET;
        Media.Medium medium = register(each).orElseThrow();
        String where = board.inServiceAt().containsKey(medium.file()) ? "in this board" : medium.place();
        String verdict = each.findings().stream()
                .filter(finding -> finding.severity() != Severity.NOTE)
                .findFirst()
                .map(finding -> finding.text())
                .orElse("Fits, with " + each.headroom().said() + " to spare.");
        var words = Parts.label(verdict, each.fits() ? "soft" : "alarm", "small");
        HBox line = Parts.row(
                10,
                new PennantGlyph(state),
                Parts.cell(Parts.label(medium.name(), "strong"), 96),
                Parts.cell(Parts.label(medium.serial(), "figure", "soft"), 86),
                Parts.cell(Parts.label(where, "aside", "small"), 76),
                Parts.cell(Parts.label(each.medium().size().binary(), "figure"), 74),
                Parts.grow(words));
        words.setMaxWidth(330);
        Button button = new Button();
        button.setGraphic(line);
        button.getStyleClass().setAll("candidate");
        if (here) {
            button.getStyleClass().add("here");
        }
        button.setId("candidate-" + medium.id());
        button.setAccessibleText(medium.name() + ", " + where + ": " + verdict);
        button.setOnAction(event -> {
            chosen = Optional.of(medium.id());
            show();
            candidates.lookup("#candidate-" + medium.id()).requestFocus();
        });
        return Parts.hint(button, verdict);
    }

    private Optional<Media.Medium> register(StorageAssessment each) {
        return board.media().stream()
                .filter(medium -> medium.id().equals(each.medium().id()))
                .findFirst();
    }

    private void draw(StorageAssessment each) {
        StorageNeed need = need();
        Bands bands = new Bands(
                each, need.image().orElse(ByteSize.ZERO), need.supply().power(), need.boardDraw());
        HBox deeds = Parts.row(10);
        Media.Medium medium = register(each).orElseThrow();
        if (!board.inServiceAt().containsKey(medium.file()) && each.socket().isPresent() && each.fits()) {
            StorageNeed.Socket socket = each.socket().get();
            Button plug = Parts.button(
                    "Plug " + medium.name() + " in: " + socket.title(),
                    () -> house.perform(() -> house.boardJobs()
                            .plug(
                                    board.at(),
                                    new VirtualBoard.Plug(
                                            socket.port(), medium.file(), medium.kind(), "announcing", true))),
                    "deed");
            plug.setId("plug");
            deeds.getChildren().addAll(plug, Parts.label("Power off first; power goes in last.", "aside", "small"));
        }
        picture.getChildren().setAll(Parts.heading(medium.name() + " in " + board.name(), "to scale"), bands, deeds);
        advise(each.findings());
    }
}

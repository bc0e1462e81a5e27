// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.block.TransferWatch.Phase;
import exordium.core.quantity.ByteSize;
import exordium.core.writing.TransferMeter;
import exordium.desktop.desk.House;
import exordium.desktop.desk.JobsModel;
import exordium.desktop.desk.Request;
import exordium.desktop.desk.RunningJob;
import exordium.desktop.draw.chart.Soundings;
import exordium.desktop.part.Parts;
import exordium.jobs.bench.Targets;
import exordium.jobs.media.DriveWork;
import exordium.store.Media;
import java.io.IOException;
import java.security.SecureRandom;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.collections.ListChangeListener;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;
import javafx.util.Subscription;

/** What can be done to a drive itself once its name is typed: prove its size, clear it, grow its last partition. */
public final class DriveDeeds extends VBox {
    private final House house;
    private final Media.Medium medium;
    private final TextField name = new TextField();
    private final Label told = Parts.paragraph("", "small");
    private final VBox picture = new VBox();
    private final Timeline clock = new Timeline(new KeyFrame(javafx.util.Duration.millis(250), event -> tick()));
    private final ListChangeListener<RunningJob> running = change -> jobChanged();
    private final Subscription words;
    private Soundings soundings;
    private RunningJob job;

    DriveDeeds(House house, Media.Medium medium, String where) {
        super(6);
        this.house = house;
        this.medium = medium;
        name.setId("drive-confirm");
        name.setUserData("");
        name.setPromptText(medium.file());
        name.setPrefWidth(230);
        name.setMinWidth(230);
        name.setAccessibleText("Type the drive's name, " + medium.file() + ", to confirm it");
        told.setId("drive-told");
        JobsModel.Told before = house.jobs().toldProperty().get();
        words = house.jobs()
                .toldProperty()
                .subscribe(now ->
                        told.setText(now.equals(before) || !now.drive().equals(medium.file()) ? "" : now.words()));
        FlowPane deeds = new FlowPane(
                6,
                6,
                deed("prove-quick", "Find a wrap", "Seconds; everything stays as it was.", DriveWork.Proof.QUICK),
                deed("prove-free", "Prove free space", "Writes over what no file system holds.", DriveWork.Proof.FREE),
                deed("prove-whole", "Prove all of it", "Everything on it is lost.", DriveWork.Proof.WHOLE),
                named(
                        "clear-drive",
                        "Clear it",
                        "Takes tables and signatures off both ends.",
                        () -> workOn(
                                "Clearing " + medium.name(),
                                (work, target, meter) -> work.clear(target, name.getText(), meter))),
                named(
                        "grow-drive",
                        "Grow its last partition",
                        "To the free tail of the house rules.",
                        () -> workOn(
                                "Growing " + medium.name(),
                                (work, target, meter) -> work.grow(target, name.getText()))));
        getChildren()
                .addAll(
                        Parts.row(
                                10,
                                name,
                                Parts.grow(Parts.paragraph(
                                        "It is " + (where.startsWith("in ") ? where : "in no board") + ". Type "
                                                + medium.file() + " first. Writing erases.",
                                        "soft",
                                        "small"))),
                        deeds,
                        told,
                        picture);
        clock.setCycleCount(Animation.INDEFINITE);
        house.jobs().running().addListener(running);
        jobChanged();
    }

    void close() {
        clock.stop();
        words.unsubscribe();
        house.jobs().running().removeListener(running);
    }

    /** What is done to the drive; gives back what came of it, in a sentence. */
    private interface Deed {
        String run(DriveWork work, Targets.Target target, TransferMeter meter) throws IOException;
    }

    private void workOn(String title, Deed deed) {
        String drive = medium.file();
        house.jobs()
                .start(
                        Request.of(
                                        title,
                                        meter -> deed.run(
                                                new DriveWork(house.workbench(), new SecureRandom()::nextLong),
                                                house.targets()
                                                        .at(house.workbench().driveFile(drive), ByteSize.ZERO),
                                                meter))
                                .on(drive),
                        came -> house.jobs().toldProperty().set(new JobsModel.Told(drive, came)));
    }

    private Button deed(String id, String words, String hint, DriveWork.Proof proof) {
        return named(
                id,
                words,
                hint,
                () -> workOn("Proving " + medium.name(), (work, target, meter) -> work.prove(
                                target, name.getText(), proof, meter)
                        .sentence(medium.name())));
    }

    private Button named(String id, String words, String hint, Runnable deed) {
        Button button = Parts.hint(Parts.button(words, deed, "small"), hint);
        button.setId(id);
        button.disableProperty()
                .bind(name.textProperty()
                        .isNotEqualTo(medium.file())
                        .or(house.jobs().held(Set.of(medium.file()))));
        return button;
    }

    private void jobChanged() {
        Optional<RunningJob> now = house.jobs()
                .holding(Set.of(medium.file()))
                .filter(each -> each.target().filter(medium.file()::equals).isPresent());
        if (now.isPresent() && !now.get().equals(job)) {
            job = now.get();
            soundings = new Soundings(medium.size(), 0);
            soundings.setId("drive-soundings");
            picture.getChildren().setAll(soundings);
            clock.play();
        } else if (now.isEmpty() && job != null) {
            tick();
            clock.stop();
        }
    }

    private void tick() {
        if (soundings != null && job != null) {
            soundings.show(job.meter().soundings(Phase.WRITING), job.meter().soundings(Phase.READING_BACK), List.of());
        }
    }
}

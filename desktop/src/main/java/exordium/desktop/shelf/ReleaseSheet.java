// SPDX-License-Identifier: Apache-2.0
package exordium.desktop.shelf;

import exordium.core.board.BoardProfile;
import exordium.core.finding.BadArgument;
import exordium.core.finding.Sentence;
import exordium.core.finding.UnreadableInput;
import exordium.core.firmware.Channel;
import exordium.core.firmware.FirmwareRelease;
import exordium.desktop.desk.House;
import exordium.desktop.desk.Place;
import exordium.desktop.part.FormSheet;
import exordium.desktop.part.Parts;
import exordium.desktop.part.WordCell;
import exordium.jobs.firmware.ReleaseIntake;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** A firmware release for the shelf: its bundle, or what its maker says of it, typed in. */
public final class ReleaseSheet extends FormSheet {
    private final TextField file = new TextField();
    private final ComboBox<BoardProfile> family = new ComboBox<>();
    private final TextField date = new TextField();
    private final ComboBox<Channel> channel = new ComboBox<>();
    private final TextField notes = new TextField();

    public ReleaseSheet(House house, Runnable close) {
        super(
                house,
                close,
                "A firmware release",
                "Its bundle is checked and copied into the workspace. Without one, its date, its channel and what it brings are enough to"
                        + " judge a board by.");
        file.setId("release-file");
        file.setPromptText("/home/…/release.zip, where there is one");
        field("Bundle", file);
        lookFor(file, "release-browse", "Bundle of a firmware release", "Look for the bundle's file");
        family.setId("release-family");
        family.getItems().setAll(house.workbench().profiles().all());
        WordCell.in(family, BoardProfile::title);
        field("Or for", family);
        date.setId("release-date");
        date.setPromptText("such as 2026-09-02");
        field("Date", date);
        channel.setId("release-channel");
        channel.getItems().setAll(Channel.values());
        channel.setValue(Channel.DEFAULT);
        WordCell.in(channel, Channel::code);
        field("Channel", channel);
        notes.setId("release-notes");
        field("What it brings", notes);
        deedIs("Put it on the shelf");
    }

    @Override
    public void carryOut() {
        house.reading().problemProperty().set("");
        ReleaseIntake intake = new ReleaseIntake(house.workbench());
        try {
            String typed = file.getText().strip();
            if (!typed.isEmpty()) {
                Path path = Path.of(typed);
                done(() -> intake.take(path).bundle().manifest().version());
                return;
            }
            FirmwareRelease release = release();
            done(() -> {
                intake.add(release);
                return release.version();
            });
        } catch (UnreadableInput e) {
            house.reading().problemProperty().set(Sentence.of(e));
        } catch (InvalidPathException e) {
            house.reading().problemProperty().set("\"" + file.getText() + "\" is no path of a file.");
        }
    }

    /** The sheet stays open with what was typed where it could not be done. */
    private void done(exordium.desktop.desk.Reading.Source<LocalDate> work) {
        house.reading().look(work, version -> {
            close.run();
            house.facts().refresh();
            house.navigation().go(Place.Shelf.FIRMWARE);
        });
    }

    private FirmwareRelease release() throws UnreadableInput {
        Optional<LocalDate> version = Parts.date(date.getText());
        if (family.getValue() == null || version.isEmpty() || notes.getText().isBlank()) {
            throw new BadArgument("Name the bundle's file, or the family, the date and what the release brings.", "");
        }
        return new FirmwareRelease(
                List.of(family.getValue().id()),
                version.get(),
                channel.getValue(),
                notes.getText().strip());
    }
}
